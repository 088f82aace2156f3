"""The frame of the window: header, version list, stage bar, transport, menus."""

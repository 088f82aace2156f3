"""The frame of the window: header, version list, stage bar, transport, menus.

``main_window.py`` builds and connects; the work is done in ``commands`` and in the controllers. A command is a method
declared with ``@command``; menus, keys and docs/keys.md follow from it.
"""

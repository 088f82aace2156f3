"""Live rendering without a device.

``player.py`` plays a ``PlaybackRequest`` on a device from a worker thread through ``ring_buffer.py``; changes
crossfade. ``refinement.py`` replaces drafts by exact segments. ``null_device.py`` is the silent device.
"""

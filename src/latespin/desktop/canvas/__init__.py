"""The waveform view and everything a person drags on it.

The view makes a ``CanvasGeometry``, a plain value, and paints the waveforms. Each layer in ``layers`` draws and drags
on that geometry and reports through its own signals; layers know neither the view nor the document.
"""

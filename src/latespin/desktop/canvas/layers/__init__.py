"""The layers of the canvas: everything drawn over the waveforms that can be dragged."""

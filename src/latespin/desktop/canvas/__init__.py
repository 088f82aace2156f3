"""The waveform view and everything a person drags on it."""

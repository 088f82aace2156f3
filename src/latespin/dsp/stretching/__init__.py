"""Time-stretching: the phase vocoder and what it needs, varispeed, and the pad stretch."""

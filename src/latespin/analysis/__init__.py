"""The reading of a track: what can be found out about it."""

"""Decodes and encodes sound, with the peculiarities of each container."""

"""Decoding and encoding sound, and what is particular to each container."""

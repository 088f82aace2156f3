"""Algorithmic halls and measured impulse responses."""

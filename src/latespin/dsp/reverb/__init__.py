"""Reverb."""

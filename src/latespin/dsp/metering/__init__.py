"""Loudness and true peak."""

"""Loudness and tone of the finished render."""

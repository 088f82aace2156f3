"""Moments and endings as sound laid over the stream."""

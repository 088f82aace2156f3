"""Stretching."""

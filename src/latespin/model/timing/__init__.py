"""Timing."""

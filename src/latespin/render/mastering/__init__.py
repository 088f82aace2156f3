"""Mastering."""

"""Batch."""

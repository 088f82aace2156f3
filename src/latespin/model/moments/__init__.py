"""Moments."""

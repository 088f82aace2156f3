"""Widgets."""

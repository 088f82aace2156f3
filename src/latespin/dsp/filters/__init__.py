"""Filters."""

"""Arranging."""

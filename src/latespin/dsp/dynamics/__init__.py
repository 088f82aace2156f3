"""Dynamics."""

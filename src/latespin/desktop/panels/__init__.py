"""Panels."""

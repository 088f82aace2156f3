"""Versions described in words, and warnings about extreme stretching."""

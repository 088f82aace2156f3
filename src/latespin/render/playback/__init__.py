"""Playback."""

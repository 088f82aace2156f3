"""Finished files: sound, and videos."""

"""Finished files: codecs, their headroom, and tags."""

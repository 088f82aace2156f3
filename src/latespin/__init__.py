"""Late Spin: altered versions of whole songs, at a level you can trust."""

__version__ = "0.1.0"

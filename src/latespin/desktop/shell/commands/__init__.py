"""The menu bar and its commands."""

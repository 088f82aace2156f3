"""Session."""

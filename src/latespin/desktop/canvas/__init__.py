"""Canvas."""

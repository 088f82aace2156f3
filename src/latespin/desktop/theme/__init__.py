"""Theme."""

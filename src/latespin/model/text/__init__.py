"""Text."""

"""Effects."""

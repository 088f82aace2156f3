"""Timeline."""

"""Chain."""

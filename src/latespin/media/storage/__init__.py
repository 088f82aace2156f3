"""Storage."""

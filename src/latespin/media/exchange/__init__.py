"""Exchange."""

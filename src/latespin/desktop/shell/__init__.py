"""Shell."""

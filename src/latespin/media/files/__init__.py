"""Files."""

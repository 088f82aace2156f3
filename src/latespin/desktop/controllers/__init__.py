"""Controllers."""

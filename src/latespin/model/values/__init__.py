"""Values."""

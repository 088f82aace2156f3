"""Effect settings become processors: one adapter per effect, found through a registry."""

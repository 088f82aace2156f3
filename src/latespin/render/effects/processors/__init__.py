"""One processor per effect, or per family of effects, made from its settings."""

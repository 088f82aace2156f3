"""A version as one stream of sound."""

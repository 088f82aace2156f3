"""A version and a track become a stream of sound; finished files are made of it."""

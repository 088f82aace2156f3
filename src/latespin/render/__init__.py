"""A version and a track become sound: streams, players and finished files."""

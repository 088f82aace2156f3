"""Audio."""

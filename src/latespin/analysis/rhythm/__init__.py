"""Beats, bars and tempo: found, fitted, and described."""

"""Loudness and tone of the finished render.

``measure.py`` measures the whole render, ``level.py`` solves gain and limiting, ``tone_match.py`` designs the match.
docs/level.md has the method and figures.
"""

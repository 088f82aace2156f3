"""Moments and endings as sound laid over the stream.

``overlays.py`` renders throws, drop-ins and endings once; ``timed_filters.py`` has effects that fade in and out.
"""

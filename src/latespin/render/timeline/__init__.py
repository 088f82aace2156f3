"""Moments and endings as sound laid over the stream.

Start with ``overlays.py``, which renders throws, drop-ins and ring-outs once; ``echo_ending.py`` and ``water.py`` are overlays,
too. ``timed_filters.py`` and ``timed_gain.py`` change the stream over a range. ``tail_lengths.py`` predicts how long all of it
lasts.
"""

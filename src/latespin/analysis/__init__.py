"""Analyses a song: beats, bars, key, sections, loudness and tone.

Start with ``reading.py``: spectra → pulses → beats → bars → key → sections; each step is a module. ``facts.py``
measures loudness and peaks, ``tone.py`` and ``profile.py`` the spectrum. Results are plain values (``results.py``);
nothing here opens a file. docs/reading.md describes the method.
"""

"""Time-stretching: the phase vocoder and what it needs, varispeed, and the pad stretch.

``phase_vocoder.py`` stretches in segments, with ``transient_holds.py``, ``rereading.py``, ``low_band.py``,
``shape_lock.py``, ``chirps.py`` and ``phase_kernels.py`` as its parts; ``varispeed.py`` resamples; ``spectral_envelope.py`` moves formants.
docs/time-and-pitch.md has the method and figures.
"""

"""A version and a track become sound: streams, players and finished files.

Start with ``chain/renderer.py``, which gives a stream for a version. On the way from the track to the file:
``sources`` read the music along the time map, ``effects`` process it, ``timeline`` adds moments and endings,
``chain`` puts the stream together, ``mastering`` solves Level, ``export`` and ``batch`` write files, ``playback``
plays.
"""

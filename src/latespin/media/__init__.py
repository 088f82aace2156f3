"""Files: songs in and out, tags, and what the program stores for itself.

``track.py`` opens a song, ``tags.py`` its tags. Everything that writes goes through ``files/atomic.py`` and tells
``files/guard.py`` its sources; everything that reads goes through ``files/regular.py``. docs/reliability.md has the
promises.
"""

"""Places moments, endings and curves on a particular song.

``placement.py`` finds what fits, ``time_edits.py`` changes the time map for each kind through
``time_map_builder.py``, and ``arrangement.py`` holds the result: the map, and all events at frames of After.
``relocation.py`` moves positions to another grid or song.
"""

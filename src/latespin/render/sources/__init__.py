"""The song's music before its effects: stretched, cached and edited.

``music_reader.py`` reads the track along the time map, by varispeed or from stretched segments
(``stretch_cache.py``); ``edited_reader.py`` applies the bends of moments and the ending.
"""

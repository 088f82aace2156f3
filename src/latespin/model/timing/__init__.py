"""Beat grids and beat clocks, tempo curves, positions, and the time map.

``positions.py`` has positions in beats or seconds, ``beat_grid.py`` the grid, ``time_map.py`` the map from Before to
After and back, and ``beat_clock.py`` the beat at a frame of After.
"""

"""Open formats shared with other programs: beat grids, markers and head-related responses."""

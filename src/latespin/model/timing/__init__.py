"""Beat grids and beat clocks, tempo curves, positions, and the time map."""

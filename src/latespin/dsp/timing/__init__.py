"""Speed curves in closed form, over source position and over output time."""

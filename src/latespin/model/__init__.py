"""Frozen values: versions, recipes, sessions and the time map. Pure: no files and no audio."""

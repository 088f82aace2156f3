"""Frozen values: versions, recipes, sessions and the time map. Pure; knows no files and no sound."""

"""Declared numbers: their ranges and units, and how their text is read and written."""

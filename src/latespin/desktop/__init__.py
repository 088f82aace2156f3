"""The window: the only package that imports Qt."""

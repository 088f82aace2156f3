"""Numerical kernels: arrays in, arrays out. Nothing here knows of versions, files or windows."""

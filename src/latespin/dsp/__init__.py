"""Numerical kernels: arrays in, arrays out. Nothing here knows about versions, files or windows."""

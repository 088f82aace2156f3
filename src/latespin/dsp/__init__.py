"""Numerical kernels: arrays in, arrays out. Nothing here knows about versions, files or windows.

Processors are objects with ``process(block)``; blocks are float32 ``[channels, frames]`` of any size, and the result
does not depend on their size. Inner loops are Numba kernels. ``arrays``, ``control`` and ``timing`` lie at the
bottom; ``filters``, ``metering``, ``dynamics`` and ``reverb`` above; ``stretching`` and ``effects`` on top. Each
module cites its source.
"""

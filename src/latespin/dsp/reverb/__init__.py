"""Algorithmic halls and measured impulse responses.

``hall_design.py`` computes delays and absorption from the settings, ``hall_kernels.py`` has the loops, ``hall.py``
the processor. ``impulse_responses.py`` prepares responses for convolution.
"""

"""Algorithmic halls and measured impulse responses.

``hall_design.py`` computes delays and absorption from the settings, ``hall_network.py`` and ``hall_kernels.py`` have the loops, ``hall.py``
the processor. ``impulse_responses.py`` prepares responses for convolution.
"""

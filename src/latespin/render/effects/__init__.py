"""Effect settings become processors: one adapter per effect, found through a registry.

A factory is declared with ``@processor_for`` in ``processors``. ``effect_node.py`` runs one effect: latency, bypass,
amount and kept level. ``context.py`` gives it the rate, the clock, the profile and sound files.
"""

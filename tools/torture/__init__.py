"""The torture: what nobody would do on purpose, done ten thousand times. See docs/reliability.md.

Run ``python -m tools.torture --help`` from the project's folder.
"""

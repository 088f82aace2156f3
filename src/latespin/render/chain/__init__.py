"""A version as one stream of sound.

``renderer.py`` caches what a track's versions share and hands out chains. A ``Chain`` gives blocks in order and can
seek.
"""

"""The open document and its services: tasks, playback, settings, audio output.

``document.py`` is the centre: it emits ``session_changed``, ``track_changed``, ``reading_changed`` and
``measured_changed``, and everything else listens. Nothing here makes a widget.
"""

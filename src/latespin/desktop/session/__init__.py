"""The open document and its services: tasks, playback, settings, audio output."""

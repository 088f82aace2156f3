"""MIDI: control surfaces by the ALSA sequencer or a local socket, and Standard MIDI Files."""

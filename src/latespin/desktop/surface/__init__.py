"""The practice surface: a control surface on the screen, which sends and receives real MIDI messages."""

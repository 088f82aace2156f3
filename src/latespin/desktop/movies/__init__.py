"""Pictures for the videos of songs: a card, and two ribbons that move with the sound. Drawn without a window."""

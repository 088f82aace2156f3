"""What the program finds out about a song: beats, bars, key, sections, loudness and tone."""

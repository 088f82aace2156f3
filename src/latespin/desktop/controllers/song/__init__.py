"""What is known of the song, corrected by hand: beats and bars, sections, markers."""

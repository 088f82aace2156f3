"""Moving pictures: of a song that came from a video, and of videos we make."""

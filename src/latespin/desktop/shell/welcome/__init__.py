"""The page of an empty window: what can be opened, and the song that is being opened, as far as it has been decoded."""

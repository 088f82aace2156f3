"""Files: opening and decoding songs, encoding versions, tags, and peaks for drawing."""

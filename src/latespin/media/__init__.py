"""Files: songs in and out, tags, and what the program stores for itself."""

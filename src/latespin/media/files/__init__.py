"""Opening and writing files safely: regular files only, whole or not at all, never over a source."""

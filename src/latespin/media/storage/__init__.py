"""Storage of the program's own: unsaved work, analysis results, and session bundles."""

"""What the program keeps for itself: unsaved work, analysis results, and session bundles."""

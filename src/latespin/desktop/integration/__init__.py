"""What of a place on the desktop needs Qt: icons, and one window for all files."""

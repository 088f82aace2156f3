"""One editor panel for each stage."""

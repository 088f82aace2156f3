"""The kinds of moments and endings, their curves, and markers."""

"""Linear filters and convolution."""

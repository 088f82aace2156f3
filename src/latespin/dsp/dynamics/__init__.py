"""Gain that follows level: the compressor and its detectors, the limiter, the output guard."""

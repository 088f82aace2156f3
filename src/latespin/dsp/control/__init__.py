"""Values that move: automation, smoothing, and delays whose length may change."""

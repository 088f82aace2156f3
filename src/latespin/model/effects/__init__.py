"""The settings of every effect, the parameters they use, and their automation."""

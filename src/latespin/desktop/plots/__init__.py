"""Pictures of numbers: responses, traces, levels."""

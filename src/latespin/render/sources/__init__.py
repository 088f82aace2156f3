"""The song's music before its effects: stretched, cached and edited."""

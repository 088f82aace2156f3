"""Of a file that something goes wrong with, as little as still does it (A. Zeller and R. Hildebrandt, "Simplifying and isolating failure-inducing input", 2002)."""

from collections.abc import Callable


def minimal(data: bytes, is_wrong: Callable[[bytes], bool], tries: int) -> bytes:
    """The data without pieces that it is as wrong without; halves first, then smaller and smaller ones, in at most ``tries`` tries."""
    size = max(1, len(data) // 2)
    while size and tries > 0:
        at = 0
        while at < len(data) and tries > 0:
            without = data[:at] + data[at + size :]
            tries -= 1
            if is_wrong(without):
                data = without
            else:
                at += size
        size //= 2
    return data

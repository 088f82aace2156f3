"""Ways of spoiling bytes; the same seed spoils them in the same way."""

import random

EDGES = (
    0,
    1,
    0x7F,
    0x80,
    0xFF,
    0x7FFF,
    0x8000,
    0xFFFF,
    0x7FFFFFFF,
    0x80000000,
    0xFFFFFFFF,
    0x7FFFFFFFFFFFFFFF,
    0xFFFFFFFFFFFFFFFF,
)
WORDS = (
    b"NaN", b"null", b"-1", b"1e999", b"1e308", b"-0.0", b"true", b"[]", b"{}", b'""', b'"\\u0000"', b"99999999999999999999", b'"\xf0\x9f\x9b\xbc"', b",", b"\n",
)  # fmt: skip


def spoilt(data: bytes, seed: int) -> bytes:
    """The bytes spoilt in one to four places."""
    rng = random.Random(seed)
    for _ in range(rng.choice((1, 1, 2, 4))):
        data = rng.choice(WAYS)(data, rng) if data else rng.randbytes(rng.randrange(64))
    return data


def _place(data: bytes, rng: random.Random) -> int:
    """Anywhere; more often near the start, where headers are."""
    return rng.randrange(min(len(data), 200)) if rng.random() < 0.6 else rng.randrange(len(data))


def flipped(data: bytes, rng: random.Random) -> bytes:
    """A bit, or a few."""
    made = bytearray(data)
    for _ in range(rng.choice((1, 1, 8, 64))):
        made[_place(data, rng)] ^= 1 << rng.randrange(8)
    return bytes(made)


def edged(data: bytes, rng: random.Random) -> bytes:
    """A number replaced by one at the edge of what it can be."""
    at, size = _place(data, rng), rng.choice((1, 2, 4, 8))
    number = rng.choice(EDGES) & ((1 << (8 * size)) - 1)
    return data[:at] + number.to_bytes(size, rng.choice(("little", "big"))) + data[at + size :]


def cut(data: bytes, rng: random.Random) -> bytes:
    """The end is missing."""
    return data[: _place(data, rng)]


def holed(data: bytes, rng: random.Random) -> bytes:
    """A piece is missing."""
    at = _place(data, rng)
    return data[:at] + data[at + rng.randrange(1, 5_000) :]


def doubled(data: bytes, rng: random.Random) -> bytes:
    """A piece is there again, perhaps many times."""
    at = _place(data, rng)
    piece = data[at : at + rng.randrange(1, 500)]
    return data[:at] + piece * rng.choice((2, 2, 50)) + data[at:]


def zeroed(data: bytes, rng: random.Random) -> bytes:
    """A piece of zeros."""
    at, size = _place(data, rng), rng.randrange(1, 2_000)
    return data[:at] + bytes(min(size, len(data) - at)) + data[at + size :]


def swapped(data: bytes, rng: random.Random) -> bytes:
    """A piece from elsewhere in the file."""
    at, other, size = _place(data, rng), _place(data, rng), rng.randrange(1, 300)
    return data[:at] + data[other : other + size] + data[at + size :]


def worded(data: bytes, rng: random.Random) -> bytes:
    """A word that text files hold, in place of some bytes."""
    at = rng.randrange(len(data))
    return data[:at] + rng.choice(WORDS) + data[at + rng.choice((0, 1, 4)) :]


def renumbered(data: bytes, rng: random.Random) -> bytes:
    """A number in a text becomes another."""
    places = [at for at in range(len(data)) if data[at : at + 1].isdigit()]
    if not places:
        return flipped(data, rng)
    at = rng.choice(places)
    return data[:at] + rng.choice(WORDS) + data[at + 1 :]


WAYS = (flipped, edged, cut, holed, doubled, zeroed, swapped, worded, renumbered)

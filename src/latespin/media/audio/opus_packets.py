"""The packets of an Ogg Opus file (RFC 7845), some of which can be exchanged for those of another encoding of the same sound.

A packet depends on those before it by little: the energies of its bands, whose differences die away within a few packets, the overlap of
windows, and the filter of the pitch.
"""

from collections.abc import Iterator
from pathlib import Path

RATE = 48_000  # that positions count in
PACKET_FRAMES = 960
HEADERS, HEAD = 2, 3  # packets without sound, and bytes of a packet with what is decided of a frame first
CELT_ONLY = b"\x80"  # and above: packets without linear prediction, which remembers for longer (RFC 6716, table 2)
MOST_SEGMENTS, SEGMENT = 255, 255  # of a page, and bytes of each
PAGE_PACKETS = 50


class OpusPackets:
    """The packets of a file as it is written here, one stream of packets of 20 ms, in order. position : at which what was read so far ends, frames."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self.serial = self.position = 0

    def __iter__(self) -> Iterator[bytes]:
        from mutagen.ogg import OggPage

        begun = b""
        with self._path.open("rb") as file:
            while True:
                try:
                    page = OggPage(file)
                except EOFError:
                    return
                self.serial, self.position = page.serial, page.position
                whole = page.packets if page.complete else page.packets[:-1]
                for packet in whole:
                    yield begun + packet
                    begun = b""
                if not page.complete:
                    begun += page.packets[-1]

    def sound(self, first: int = 0) -> Iterator[tuple[int, bytes]]:
        """The packets that hold sound, with their numbers, of which the lowest is ``first``."""
        packets = iter(self)
        for _ in range(HEADERS):
            next(packets, None)
        yield from enumerate(packets, first)


def packet_heads(path: Path) -> list[bytes]:
    """The beginnings of all packets of sound: alike where the encoder decided alike on the kind of the frame, its pitch and its windows."""
    return [packet[:HEAD] for _, packet in OpusPackets(path).sound()]


def exchange_packets(path: Path, target: Path, others: dict[int, bytes]) -> None:
    """Write a file to another, with ``others`` in the place of its packets of sound with their numbers."""
    packets = OpusPackets(path)
    now = (others.get(number, packet) for number, packet in enumerate(packets, -HEADERS))
    with target.open("wb") as file:
        for number, header in zip(range(HEADERS), now, strict=False):
            file.write(_page(number, packets.serial, [header], 0))
        number, done, waiting = HEADERS, 0, list[bytes]()
        for packet in now:
            if waiting and (len(waiting) == PAGE_PACKETS or _segments([*waiting, packet]) > MOST_SEGMENTS):
                done += len(waiting)
                file.write(_page(number, packets.serial, waiting, done * PACKET_FRAMES))
                number, waiting = number + 1, []
            waiting.append(packet)
        file.write(_page(number, packets.serial, waiting, packets.position, last=True))


def _segments(packets: list[bytes]) -> int:
    """How many parts of a page they take."""
    return sum(len(packet) // SEGMENT + 1 for packet in packets)


def _page(number: int, serial: int, packets: list[bytes], position: int, *, last: bool = False) -> bytes:
    from mutagen.ogg import OggPage

    page = OggPage()
    page.sequence, page.serial, page.packets, page.position = number, serial, packets, position
    page.first, page.last = number == 0, last
    return bytes(page.write())

"""What a video file shows: its pictures, and where they lie in time beside its sound."""

import contextlib
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

from latespin.errors import Unreadable, shortened
from latespin.language import tr
from latespin.media.audio.decode import opened_container

USUAL_RATE, HIGHEST_RATE = Fraction(30), Fraction(120)


@dataclass(frozen=True)
class Clip:
    """The pictures of a file.

    width, height : as they are shown, in pixels.  turned : degrees clockwise that players turn them by, 0, 90, 180 or 270.
    rate : pictures per second, on average.  sound_starts : seconds of the file at which the song's frame 0 sounds.
    """

    path: Path
    width: int
    height: int
    turned: int
    rate: Fraction
    sound_starts: float


def clip_of(path: Path) -> Clip | None:
    """The moving pictures of a song's file; None where it has none (a cover does not move). Raises Unreadable."""
    with opened_container(path) as container:
        stream = pictures_in(container)
        if stream is None:
            return None
        width, height = int(stream.width), int(stream.height)
        if not (width and height):
            return None
        turned = _turned(container, stream)
        if turned in (90, 270):
            width, height = height, width
        return Clip(path, width, height, turned, _rate(stream), _sound_starts(path))


def pictures_in(container: Any) -> Any:
    """The first video stream of a container that is not a cover; None if there is none."""
    from av.stream import Disposition

    return next(
        (
            s
            for s in container.streams.video
            if not s.disposition & Disposition.attached_pic and s.codec_context is not None
        ),
        None,
    )


def _rate(stream: Any) -> Fraction:
    rate = stream.average_rate or stream.guessed_rate
    return Fraction(rate) if rate and 1 <= rate <= HIGHEST_RATE else USUAL_RATE


def _turned(container: Any, stream: Any) -> int:
    """How far players turn the pictures: the first one says so."""
    with contextlib.suppress(Exception):
        for frame in container.decode(stream):
            return round(-int(frame.rotation) / 90) * 90 % 360
    return 0


def _sound_starts(path: Path) -> float:
    """Seconds at which the first sound comes out of the decoder."""
    with opened_container(path) as container:
        stream = next((s for s in container.streams.audio if s.codec_context is not None), None)
        if stream is None:
            raise Unreadable(tr("{0} holds no sound. Choose a file with a sound track.").format(shortened(path.name)))
        for frame in container.decode(stream):
            return float(frame.time or 0.0)
    return 0.0


def packets_of(container: Any, stream: Any) -> Iterator[Any]:
    """The packets of a stream that hold something, in the order they are decoded in."""
    for packet in container.demux(stream):
        if packet.size:
            yield packet

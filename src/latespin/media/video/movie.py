"""Writing a video file: pictures, copied or encoded, and a finished sound file beside them, copied as it is."""

import contextlib
import heapq
import io
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.errors import Unreadable, Unwritable, shortened
from latespin.jobs import Work, step
from latespin.language import tr
from latespin.media.audio.decode import opened_container
from latespin.media.video.clip import packets_of, pictures_in
from latespin.media.video.timing import PictureTimes

TICKS = Fraction(1, 90_000)


@dataclass(frozen=True)
class Container:
    """A kind of video file we write. name : FFmpeg's.  sound : the ending of the sound file that is copied into it."""

    name: str
    sound: str = ".m4a"


CONTAINERS = {
    ".mp4": Container("mp4"), ".mov": Container("mov"), ".mkv": Container("matroska"), ".webm": Container("webm", ".opus"),
}  # fmt: skip


@dataclass(frozen=True)
class Coder:
    """A video encoder and its options."""

    name: str
    options: dict[str, str]


H264 = Coder("libx264", {"preset": "veryfast", "crf": "19"})
#: What is drawn has flat grounds, and takes little room in any case.
H264_DRAWN = Coder("libx264", {"preset": "ultrafast", "crf": "20"})
VP9 = Coder(
    "libvpx-vp9", {"deadline": "realtime", "cpu-used": "8", "row-mt": "1", "crf": "32", "b": "0", "threads": "4"}
)


def coder_for(suffix: str, *, drawn: bool) -> Coder:
    """The encoder of the pictures of a file: VP9 in WebM, otherwise H.264.  drawn : by us, not filmed."""
    if suffix == ".webm":
        return VP9
    return H264_DRAWN if drawn else H264


@contextlib.contextmanager
def opened_movie(path: Path, suffix: str, title: dict[str, str]) -> Iterator[Any]:
    """A container to be written to.  title : its metadata. Raises Unwritable."""
    import av

    options = {"movflags": "+faststart"} if suffix in (".mp4", ".mov") else {}
    try:
        with av.open(str(path), "w", format=CONTAINERS[suffix].name, options=options) as container:
            container.metadata.update(title)
            yield container
    except av.FFmpegError as error:
        raise Unwritable(tr("The video could not be written: {0}.").format(error)) from error


def check_copying(source: Path, suffix: str) -> None:
    """Raise Unwritable if a kind of file cannot hold the pictures of a source as they are."""
    import av

    with opened_container(source) as original, av.open(io.BytesIO(), "w", format=CONTAINERS[suffix].name) as nowhere:
        _add_pictures(nowhere, pictures_in(original), suffix)


def _add_pictures(movie: Any, pictures: Any, suffix: str) -> Any:
    import av

    try:
        return movie.add_stream_from_template(pictures)
    except (av.FFmpegError, ValueError) as error:
        codec = pictures.codec_context.name
        raise Unwritable(
            tr("A {0} file cannot hold pictures of the kind {1}. Write a .mkv instead.").format(suffix, codec)
        ) from error


def copy_pictures(
    source: Path, sound: Path, target: Path, suffix: str, times: PictureTimes, starts: float, title: dict[str, str], work: Work
) -> None:  # fmt: skip
    """Write the pictures of ``source``, none encoded again, at the times of a version, beside its sound.

    starts : seconds of the source at which the song starts. Both time stamps of each packet go through the time map, which
    keeps their order; during the tail the last picture stays. Raises Unreadable, Unwritable, Cancelled.
    """
    with opened_container(source) as original, opened_container(sound) as heard:
        pictures = pictures_in(original)
        stamps = _stamps(source) * float(pictures.time_base) - starts
        decoded, shown = times.after(stamps[0]), times.after(stamps[1])
        count = int(np.flatnonzero(shown < times.music_end).max(initial=-1)) + 1
        if count == 0:
            raise Unreadable(
                tr("{0} holds no pictures that can be read, or they begin after the version ends.").format(
                    shortened(source.name)
                )
            )
        shown, decoded = shown[:count], decoded[:count]
        lead, lasting = max(0.0, -float(shown.min())), _lasting(decoded, shown, times.end)
        with opened_movie(target, suffix, title) as movie:
            stream = _add_pictures(movie, pictures, suffix)
            stream.time_base = TICKS
            track = movie.add_stream_from_template(heard.streams.audio[0])

            def retimed() -> Iterator[Any]:
                for number, packet in zip(range(count), packets_of(original, pictures), strict=False):
                    step(work, number / count)
                    packet.stream, packet.time_base = stream, TICKS
                    packet.pts, packet.dts = _ticks(shown[number] + lead), _ticks(decoded[number] + lead)
                    packet.duration = max(1, _ticks(lasting[number]))
                    yield packet

            _mux(movie, retimed(), _sound_packets(heard, track, lead))


def _stamps(source: Path) -> np.ndarray:
    """When each packet of the pictures is decoded and shown ``[2, packets]``, in ticks of the file. What is not told is worked out."""
    with opened_container(source) as container:
        found = [(packet.dts, packet.pts) for packet in packets_of(container, pictures_in(container))]
    decoded, shown = np.array(found, np.float64).reshape(-1, 2).T  # None becomes NaN
    known = np.flatnonzero(np.isfinite(decoded))
    if not len(known):
        decoded = np.sort(shown)
    elif len(known) < len(decoded):
        step = np.median(np.diff(decoded[known])) if len(known) > 1 else 1.0
        places = np.arange(len(decoded))
        decoded = np.interp(places, known, decoded[known]) - step * np.maximum(0, known[0] - places)
    shown = np.where(np.isfinite(shown), shown, decoded)
    return np.stack((np.minimum(decoded, shown), shown))


def _lasting(decoded: Floats, shown: Floats, end: float) -> Floats:
    """How long each picture lasts, seconds: until the next one is shown, and the last one until the end."""
    order = np.argsort(shown, kind="stable")
    lasting = np.empty_like(shown)
    lasting[order] = np.diff(np.append(shown[order], end))
    delay = shown[order[0]] - decoded[0]  # of a decoder that puts pictures in order; files count by its clock
    lasting[-1] = max(lasting[-1], end - decoded[-1] - delay)
    return lasting


def _ticks(seconds: float) -> int:
    return round(seconds / TICKS)


def encode_pictures(
    frames: Iterable[Any], size: tuple[int, int], rate: Fraction, sound: Path, target: Path, suffix: str, title: dict[str, str],
    coder: Coder,
) -> None:  # fmt: skip
    """Write pictures (PyAV frames of that size, one after the other at ``rate``) beside a sound. Raises Unwritable."""
    with opened_container(sound) as heard, opened_movie(target, suffix, title) as movie:
        stream = movie.add_stream(coder.name, rate=rate, options=dict(coder.options))
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        stream.time_base = stream.codec_context.time_base = 1 / rate
        track = movie.add_stream_from_template(heard.streams.audio[0])

        def encoded() -> Iterator[Any]:
            for number, frame in enumerate(frames):
                frame.pts, frame.time_base, frame.pict_type = number, 1 / rate, 0
                yield from stream.encode(frame)
            yield from stream.encode(None)

        _mux(movie, encoded(), _sound_packets(heard, track, 0.0))


def _sound_packets(heard: Any, track: Any, lead: float) -> Iterator[Any]:
    for packet in packets_of(heard, heard.streams.audio[0]):
        late = round(lead / packet.time_base)
        if packet.dts is None:
            packet.dts = packet.pts
        packet.pts, packet.dts, packet.stream = packet.pts + late, packet.dts + late, track
        yield packet


def _mux(movie: Any, pictures: Iterator[Any], sound: Iterator[Any]) -> None:
    """Write packets of both in the order of their times."""

    def at(packet: Any) -> float:
        return float(packet.dts * packet.time_base)

    for packet in heapq.merge(pictures, sound, key=at):
        movie.mux(packet)

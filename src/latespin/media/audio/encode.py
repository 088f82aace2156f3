"""Encoding versions to files, atomically."""

import contextlib
import os
from collections.abc import Callable, Iterable, Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import numpy as np

from latespin.ahead import made_ahead
from latespin.dsp.arrays import Audio
from latespin.dsp.dither import Quantiser
from latespin.errors import Unwritable
from latespin.media.files.atomic import explain, written_whole
from latespin.media.files.guard import Sources
from latespin.media.tags import Tags, write_tags

Depth = Literal["16", "24", "float"]
WRITE_FRAMES = 1 << 15  # libsndfile's Vorbis encoder keeps its stack small only with small blocks


@dataclass(frozen=True)
class Format:
    """A kind of file we write. rates : those it can hold, empty for any. quality : the encoder's options."""

    name: str
    container: str
    subtypes: dict[str, str]
    rates: tuple[int, ...] = ()
    quality: tuple[tuple[str, Any], ...] = ()

    def rate_for(self, rate: int) -> int:
        """The rate a song of ``rate`` is written at: its own if possible, else 48 kHz."""
        return rate if not self.rates or rate in self.rates else 48_000


_MP3_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)
FORMATS: dict[str, Format] = {
    ".wav": Format("WAV", "WAV", {"float": "FLOAT", "24": "PCM_24", "16": "PCM_16"}),
    ".flac": Format("FLAC", "FLAC", {"24": "PCM_24", "16": "PCM_16"}),
    ".ogg": Format("Ogg Vorbis", "OGG", {"": "VORBIS"}, quality=(("compression_level", 0.2),)),
    ".opus": Format("Opus", "OGG", {"": "OPUS"}, (8_000, 12_000, 16_000, 24_000, 48_000)),
    ".mp3": Format(
        "MP3", "MP3", {"": "MPEG_LAYER_III"}, _MP3_RATES, (("bitrate_mode", "VARIABLE"), ("compression_level", 0.1)),
    ),
}  # fmt: skip


def is_lossy(path: Path) -> bool:
    """True if a file of this name changes the samples it is given."""
    return "" in format_of(path).subtypes


def format_of(path: Path) -> Format:
    """The format that a file's ending names. Raises Unwritable."""
    found = FORMATS.get(path.suffix.lower())
    if found is None:
        known = ", ".join(FORMATS)
        raise Unwritable(f"{path.name} has no ending that names a format. Use one of {known}.")
    return found


def encode(
    target: Path,
    blocks: Iterable[Audio],
    *,
    rate: int,
    channels: int,
    depth: Depth | None,
    tags: Tags | Callable[[Path], Tags],
    overwrite: bool,
    sources: Sources,
    ready: Callable[[Path, int], None] = lambda *_: None,
) -> int:
    """Write blocks ``[channels, frames]`` at ``rate`` to a file whose ending says its format.

    depth : bits of WAV and FLAC; None for the best the format has. Returns how many samples had to be clipped
    (never any in floating point). tags : or what says them, given the
    encoded file before it has its name; what it raises goes on, and leaves no file.
    sources : the files it is made from, which are not touched.
    ready : told of the whole file, and how many samples were clipped, before it has its name.  Raises Unwritable; whatever happens, no part of a file is left.
    """
    kind = format_of(target)
    subtype = _subtype(kind, depth, target)
    written_rate = kind.rate_for(rate)
    with written_whole(target, overwrite=overwrite, sources=sources) as temporary:
        with _opened(temporary, target, kind, subtype, written_rate, channels) as file:
            samples = _Samples(subtype)
            with closing(made_ahead(samples.pieces(_resampled(blocks, rate, written_rate, channels)))) as pieces:
                for piece in pieces:
                    file.write(piece)
        write_tags(temporary, tags(temporary) if callable(tags) else tags)
        ready(temporary, samples.clipped)
    return samples.clipped


def _subtype(kind: Format, depth: Depth | None, target: Path) -> str:
    if depth is None or "" in kind.subtypes:
        return next(iter(kind.subtypes.values()))
    if depth not in kind.subtypes:
        allowed = " or ".join(kind.subtypes)
        raise Unwritable(f"{target.name}: {kind.name} cannot hold depth {depth}. Use {allowed}.")
    return kind.subtypes[depth]


@contextlib.contextmanager
def _opened(temporary: Path, target: Path, kind: Format, subtype: str, rate: int, channels: int) -> Iterator[Any]:
    import soundfile

    try:
        with soundfile.SoundFile(
            os.fsencode(temporary), "w", rate, channels, subtype, format=kind.container, **dict(kind.quality)
        ) as file:
            yield file
    except soundfile.SoundFileError as error:
        why = _why(temporary)
        raise Unwritable(explain(why, target) if why else f"{target} could not be written: {error}") from error


def _why(path: Path) -> OSError | None:
    """The system's error behind a failed write, which libsndfile does not report."""
    import errno
    import resource
    import shutil

    with contextlib.suppress(OSError):
        if shutil.disk_usage(path.parent).free < WRITE_FRAMES * 16:
            return OSError(errno.ENOSPC, "No space left on device")
        largest, _ = resource.getrlimit(resource.RLIMIT_FSIZE)
        if largest != resource.RLIM_INFINITY and path.stat().st_size > largest - WRITE_FRAMES * 16:
            return OSError(errno.EFBIG, "File too large")
    return None


class _Samples:
    """What is handed to the encoder.  clipped : how many samples had to be clipped so far."""

    def __init__(self, subtype: str) -> None:
        self._floating = subtype == "FLOAT"
        self._quantiser = Quantiser(int(subtype.removeprefix("PCM_"))) if subtype.startswith("PCM") else None
        self._clipped = 0

    @property
    def clipped(self) -> int:
        return self._clipped + (self._quantiser.clipped if self._quantiser else 0)

    def pieces(self, blocks: Iterable[Audio]) -> Iterator[np.ndarray]:
        """All of it in small pieces ``[frames, channels]``."""
        for block in blocks:
            for start in range(0, block.shape[1], WRITE_FRAMES):
                yield self._of(block[:, start : start + WRITE_FRAMES])

    def _of(self, block: Audio) -> np.ndarray:
        if self._quantiser:
            return self._quantiser.process(block)
        if self._floating:
            return block.T
        self._clipped += int(np.count_nonzero(np.abs(block) > 1.0))
        return np.clip(block, -1.0, 1.0).T


def _resampled(blocks: Iterable[Audio], rate: int, written_rate: int, channels: int) -> Iterator[Audio]:
    if rate == written_rate:
        yield from blocks
        return
    import soxr

    stream = soxr.ResampleStream(rate, written_rate, channels, dtype="float32", quality="VHQ")
    for block in blocks:
        yield np.ascontiguousarray(stream.resample_chunk(np.ascontiguousarray(block.T)).T)
    yield np.ascontiguousarray(stream.resample_chunk(np.zeros((0, channels), np.float32), last=True).T)

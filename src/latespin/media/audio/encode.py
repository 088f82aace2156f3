"""Encoding versions to files, atomically."""

import contextlib
from collections.abc import Callable, Iterable, Iterator
from contextlib import closing
from pathlib import Path

import numpy as np

from latespin.ahead import made_ahead
from latespin.dsp.arrays import Audio
from latespin.dsp.dither import Quantiser
from latespin.errors import Unwritable
from latespin.language import tr
from latespin.media.audio.formats import BEST, Encoding, Format, format_of
from latespin.media.audio.writers import WRITE_FRAMES, EncoderFailed, Writer, opened
from latespin.media.files.atomic import explain, written_whole
from latespin.media.files.guard import Sources
from latespin.media.tags import Tags, write_tags


def encode(
    target: Path,
    blocks: Iterable[Audio],
    *,
    rate: int,
    channels: int,
    encoding: Encoding = BEST,
    tags: Tags | Callable[[Path], Tags],
    overwrite: bool,
    sources: Sources,
    ready: Callable[[Path, int], None] = lambda *_: None,
) -> int:
    """Write blocks ``[channels, frames]`` at ``rate`` to a file whose ending says its format.

    Returns how many samples had to be clipped (never any in floating point). tags : or what says them, given the
    encoded file before it has its name; what it raises goes on, and leaves no file.
    sources : the files it is made from, which are not touched.
    ready : told of the whole file, and how many samples were clipped, before it has its name.  Raises Unwritable; whatever happens, no part of a file is left.
    """
    kind = format_of(target)
    subtype, written_rate = kind.subtype(encoding), kind.rate_for(rate, encoding)
    with written_whole(target, overwrite=overwrite, sources=sources) as temporary:
        with _opened(temporary, target, kind, encoding, written_rate, channels) as file:
            samples = _Samples(subtype)
            with closing(made_ahead(samples.pieces(_resampled(blocks, rate, written_rate, channels)))) as pieces:
                for piece in pieces:
                    file.write(piece)
        write_tags(temporary, tags(temporary) if callable(tags) else tags)
        ready(temporary, samples.clipped)
    return samples.clipped


@contextlib.contextmanager
def _opened(
    temporary: Path, target: Path, kind: Format, encoding: Encoding, rate: int, channels: int
) -> Iterator[Writer]:
    try:
        with opened(temporary, kind, encoding, rate, channels) as file:
            yield file
    except EncoderFailed as error:
        why = _why(temporary)
        raise Unwritable(
            explain(why, target) if why else tr("{0} could not be written: {1}").format(target, error)
        ) from error


def _why(path: Path) -> OSError | None:
    """The system's error behind a failed write, which encoders do not report."""
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

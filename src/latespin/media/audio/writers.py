"""Files that take sound piece by piece: written by libsndfile, or, for MP4's family and Opus, by FFmpeg's libraries (PyAV).

libsndfile can write Opus as well; PyAV's build of the same encoder takes about 40 % of the time.
"""

import contextlib
import os
from collections.abc import Iterator
from pathlib import Path
from typing import Any, Protocol

import numpy as np

from latespin.media.audio.formats import Encoding, Format

WRITE_FRAMES = 1 << 15  # libsndfile's Vorbis encoder keeps its stack small only with small blocks
#: Highest and lowest kbit/s from a sample rate on: MPEG 1, 2 and 2.5.
MP3_KBPS = {32_000: (320.0, 32.0), 16_000: (160.0, 8.0), 0: (64.0, 8.0)}
#: By the nearest constant bitrate (LAME 3.100, presets.c, abr_switch_map).
LAME_SCALES = {160: 0.95, 192: 0.97, 224: 0.98, 256: 1.0}
MOST_COMPRESSION = 0.999  # libsndfile refuses 1 for MP3
AV_CONTAINERS = "ipod", "opus"
#: Sample format and options of lossy codecs.
AV_CODECS = {"aac": ("fltp", {}), "libopus": ("flt", {"vbr": "constrained"})}
VORBIS = (64, 80, 96, 112, 128, 160, 192, 224, 256, 320, 500)  # kbit/s of stereo at qualities 0 to 10


class Writer(Protocol):
    """An open file."""

    def write(self, piece: np.ndarray) -> object:
        """Take samples ``[frames, channels]``: float32 within ±1, or int32 for whole numbers."""


class EncoderFailed(Exception):
    """The encoder could not go on; the text says why."""


@contextlib.contextmanager
def opened(path: Path, kind: Format, encoding: Encoding, rate: int, channels: int) -> Iterator[Writer]:
    """An empty file to be written to. Raises EncoderFailed."""
    how = _with_av if kind.container in AV_CONTAINERS else _with_sndfile
    with how(path, kind, encoding, rate, channels) as file:
        yield file


@contextlib.contextmanager
def _with_sndfile(path: Path, kind: Format, encoding: Encoding, rate: int, channels: int) -> Iterator[Writer]:
    import soundfile

    try:
        with soundfile.SoundFile(
            os.fsencode(path), "w", rate, channels, kind.subtype(encoding), format=kind.container, **_quality(kind, encoding, rate, channels)
        ) as file:  # fmt: skip
            yield _Louder(file, 1.0 / lame_scale(encoding.kbps, rate)) if kind.name == "MP3" else file
    except soundfile.SoundFileError as error:
        raise EncoderFailed(str(error)) from error


def lame_scale(kbps: int | None, rate: int) -> float:
    """The factor by which LAME attenuates its input at lower constant bitrates, to leave room for their peaks. rate : of the file, Hz.

    The writer compensates for it; the limiter leaves that room instead.
    """
    if kbps is None:
        return 1.0
    possible = min(kbps, _mp3_range(rate)[0])
    return LAME_SCALES[min(LAME_SCALES, key=lambda each: abs(each - possible))]


def _mp3_range(rate: int) -> tuple[float, float]:
    return next(kbps for least, kbps in MP3_KBPS.items() if rate >= least)


class _Louder:
    """A file whose samples are multiplied by a gain first."""

    def __init__(self, file: Writer, gain: float) -> None:
        self._file, self._gain = file, np.float32(gain)

    def write(self, piece: np.ndarray) -> None:
        """Take samples; LAME takes floating point beyond full scale."""
        self._file.write(piece * self._gain)


def _quality(kind: Format, encoding: Encoding, rate: int, channels: int) -> dict[str, Any]:
    """Options of libsndfile's lossy encoders; ``compression_level`` goes from the best, 0, to the smallest, 1."""
    kbps = encoding.kbps
    if kind.name == "MP3":
        if kbps is None:
            return {"bitrate_mode": "VARIABLE", "compression_level": 0.1}
        return {"bitrate_mode": "CONSTANT", "compression_level": _level(kbps, *_mp3_range(rate))}
    if kind.name == "Ogg Vorbis":
        quality = 8.0 if kbps is None else float(np.interp(kbps * 2.0 / channels, VORBIS, np.arange(11)))
        return {"compression_level": 1.0 - quality / 10.0}
    return {}


def _level(kbps: float, most: float, least: float) -> float:
    return min(MOST_COMPRESSION, max(0.0, (most - kbps) / (most - least)))


@contextlib.contextmanager
def _with_av(path: Path, kind: Format, encoding: Encoding, rate: int, channels: int) -> Iterator[Writer]:
    import av

    try:
        with av.open(str(path), "w", format=kind.container, options=_options(kind, rate)) as container:
            file = _AvFile(container, kind, encoding, rate, channels)
            yield file
            file.finish()
    except av.FFmpegError as error:
        raise EncoderFailed(str(error)) from error


def _options(kind: Format, rate: int) -> dict[str, str]:
    """Container options. MP4: the header comes first and gives the length to the frame.

    Ogg: a fixed stream number, and pages of half a second, because libsndfile cannot read packets that continue on the next page.
    """
    if kind.container == "ipod":
        return {"movflags": "+faststart", "movie_timescale": str(rate)}
    return {"fflags": "+bitexact", "page_duration": "500000"}


class _AvFile:
    """A file's one sound stream: AAC or Opus, or ALAC for whole numbers."""

    def __init__(self, container: Any, kind: Format, encoding: Encoding, rate: int, channels: int) -> None:
        self._container, self._rate = container, rate
        self._layout = "mono" if channels == 1 else "stereo"
        self._lossy, self._written = kind.is_lossy(encoding), 0
        codec = kind.subtypes[""] if self._lossy else "alac"
        self._stream: Any = container.add_stream(codec, rate, layout=self._layout)
        if self._lossy:
            self._format, self._stream.options = AV_CODECS[codec]
            self._stream.bit_rate = 1000 * (encoding.kbps or kind.best_kbps * channels // 2)
        else:
            self._format = "s16p" if encoding.depth == "16" else "s32p"
        self._stream.format = self._format

    def write(self, piece: np.ndarray) -> None:
        """Encode a piece."""
        import av

        frame = av.AudioFrame.from_ndarray(_arranged(piece, self._format), format=self._format, layout=self._layout)
        frame.sample_rate, frame.pts = self._rate, self._written
        self._written += piece.shape[0]
        self._container.mux(self._stream.encode(frame))

    def finish(self) -> None:
        """Encode what the encoder has kept back."""
        self._container.mux(self._stream.encode(None))


def _arranged(piece: np.ndarray, sample_format: str) -> np.ndarray:
    """Samples ``[frames, channels]`` as FFmpeg's libraries take them in a format: planes of channels, or all in one row."""
    if sample_format == "flt":
        return piece.astype(np.float32).reshape(1, -1)
    planes = np.ascontiguousarray(piece.T)
    if sample_format == "fltp":
        return planes.astype(np.float32)
    return (planes >> 16).astype(np.int16) if sample_format == "s16p" else planes

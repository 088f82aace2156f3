"""Decoding: libsndfile where it knows the format, FFmpeg's libraries (PyAV) for everything else."""

import contextlib
import os
import threading
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from latespin.dsp.types import Audio
from latespin.errors import Cancelled, Unreadable
from latespin.jobs import Work, step
from latespin.media.completeness import bytes_missing
from latespin.memory import Growing, let_go

BLOCK_FRAMES = 1 << 18
SMALL_BLOCK_FRAMES = 1024
_STREAM = threading.Lock()


@dataclass(frozen=True)
class Decoded:
    """Sound ``[channels, frames]``, its rate, and what had to be put right."""

    sound: Audio
    rate: int
    warnings: tuple[str, ...]


SONG_SUFFIXES = (
    ".wav", ".flac", ".ogg", ".oga", ".opus", ".mp3", ".aif", ".aiff", ".caf", ".m4a", ".aac", ".mp4", ".mov", ".mkv", ".webm",
)  # fmt: skip


def is_song(path: Path) -> bool:
    """Whether a file's ending is one that songs have."""
    return path.suffix.lower() in SONG_SUFFIXES


def decode(path: Path, work: Work) -> Decoded:
    """Decode a whole file. Raises Unreadable, Cancelled."""
    _check_readable(path)
    try:
        with _quiet_decoder(path):
            rate, promised, blocks, cut = _with_sndfile(path, work)
    except _NotOurs:
        rate, promised, blocks, cut = _with_av(path, work)
    sound = blocks.sound()
    warnings = []
    missing = bytes_missing(path)
    if cut or missing or sound.shape[1] < promised - 0.05 * rate:
        seconds = sound.shape[1] / rate
        whole = f" of {promised / rate:.1f} s" if promised > sound.shape[1] + 0.05 * rate else ""
        warnings.append(f"{path.name} is cut off: {seconds:.1f} s{whole} could be read and are used.")
    bad = _silence_bad_samples(sound)
    if bad:
        warnings.append(f"{path.name} holds {bad:,} samples that are not numbers; they are played as silence.")
    return Decoded(np.ascontiguousarray(sound), rate, tuple(warnings))


@contextlib.contextmanager
def _quiet_decoder(path: Path) -> Iterator[None]:
    """WORKAROUND: libsndfile's MP3 decoder writes notes straight to the error stream; they are sent nowhere."""
    if path.suffix.lower() not in (".mp3", ".mp2", ".mpga"):
        yield
        return
    with _STREAM, Path(os.devnull).open("wb") as nowhere:
        kept = os.dup(2)
        os.dup2(nowhere.fileno(), 2)
        try:
            yield
        finally:
            os.dup2(kept, 2)
            os.close(kept)


class _NotOurs(Exception):
    """libsndfile does not know the format."""


def _check_readable(path: Path) -> None:
    try:
        with path.open("rb") as file:
            empty = not file.read(1)
    except FileNotFoundError:
        raise Unreadable(f"{path} does not exist. Check the name and the folder.") from None
    except IsADirectoryError:
        raise Unreadable(f"{path} is a folder. Choose a song file in it.") from None
    except PermissionError:
        raise Unreadable(f"{path} may not be read: you have no permission. Change it, or copy the file.") from None
    except OSError as error:
        raise Unreadable(f"{path} could not be read: {error.strerror}.") from error
    if empty:
        raise Unreadable(f"{path.name} is empty (0 bytes). Choose another file.")


Decoding = tuple[int, int, Growing, bool]


def _with_sndfile(path: Path, work: Work) -> Decoding:
    import soundfile

    try:
        file = soundfile.SoundFile(path)
    except (soundfile.SoundFileError, OSError) as error:
        raise _NotOurs(str(error)) from None
    with file:
        promised = max(0, int(file.frames))
        blocks = Growing()
        try:
            while len(block := file.read(BLOCK_FRAMES, dtype="float32", always_2d=True)):
                blocks.append(np.ascontiguousarray(block.T))
                step(work, blocks.frames / max(promised, blocks.frames))
        except soundfile.SoundFileError:
            _add_what_is_left(path, blocks)
            return int(file.samplerate), promised, blocks, True
        return int(file.samplerate), promised, blocks, False


def _add_what_is_left(path: Path, blocks: Growing) -> None:
    """Add the sound up to where decoding fails, in small blocks, since a failed block is lost."""
    import soundfile

    with contextlib.suppress(soundfile.SoundFileError), soundfile.SoundFile(path) as file:
        file.seek(blocks.frames)
        while len(block := file.read(SMALL_BLOCK_FRAMES, dtype="float32", always_2d=True)):
            blocks.append(np.ascontiguousarray(block.T))


def _with_av(path: Path, work: Work) -> Decoding:
    import av

    try:
        container = av.open(str(path))
    except (av.FFmpegError, OSError, ValueError):
        raise Unreadable(f"{path.name} is not a sound or video file that can be read. Choose another file.") from None
    with container:
        if not container.streams.audio:
            raise Unreadable(f"{path.name} holds no sound. Choose a file with a sound track.")
        stream = container.streams.audio[0]
        rate = int(stream.rate or 0)
        seconds = float(stream.duration * stream.time_base) if stream.duration and stream.time_base else 0.0
        blocks = Growing()
        cut = False
        try:
            for block, at in _av_blocks(container, stream):
                blocks.append(block)
                step(work, at / seconds if seconds else 0.5)
        except Cancelled:
            raise
        except (av.FFmpegError, OSError, ValueError):
            cut = True
        if not blocks.frames and (cut or rate == 0):
            raise Unreadable(f"{path.name} is not a sound file that can be read: nothing in it could be decoded.")
        return rate, round(seconds * rate) if cut else 0, blocks, cut


def _av_blocks(container: "av.container.InputContainer", stream: "av.AudioStream") -> Iterator[tuple[Audio, float]]:  # type: ignore[name-defined]  # noqa: F821
    """Blocks ``[channels, frames]`` and the second each begins at."""
    import av

    resampler = av.AudioResampler(format="fltp", layout=stream.layout, rate=stream.rate)
    for frame in container.decode(stream):
        for part in resampler.resample(frame):
            yield np.array(part.to_ndarray(), dtype=np.float32), float(frame.time or 0.0)
    for part in resampler.resample(None):
        yield np.array(part.to_ndarray(), dtype=np.float32), 0.0


def _silence_bad_samples(sound: Audio) -> int:
    """Put zeros for NaN and infinity, in place; returns how many there were."""
    bad = 0
    for start in range(0, sound.shape[1], BLOCK_FRAMES):
        part = sound[:, start : start + BLOCK_FRAMES]
        wrong = ~np.isfinite(part)
        if wrong.any():
            bad += int(wrong.sum())
            part[wrong] = 0.0
        let_go(sound)
    return bad

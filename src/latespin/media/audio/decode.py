"""Decoding: libsndfile where it knows the format, FFmpeg's libraries (PyAV) for everything else."""

import contextlib
import os
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from io import BufferedReader
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.errors import Cancelled, Unreadable, shortened
from latespin.jobs import Work, step
from latespin.language import localised, tr
from latespin.media.audio.completeness import bytes_missing
from latespin.media.audio.libsndfile_messages import quiet_decoder
from latespin.media.audio.unfinished_wav import finished
from latespin.media.files.regular import open_regular
from latespin.memory import Growing, let_go

BLOCK_FRAMES = 1 << 18
MOST_EXPANSION = 8  # of a file without loss, when its samples become 32-bit numbers
SMALL_BLOCK_FRAMES = 1024
MOST_CHANNELS, LONGEST_HOURS = 64, 10
LOWEST_RATE, HIGHEST_RATE = 8_000, 192_000
ABSURD = 1e5  # times full scale: no sample of any sound
MOST_ABSURD = 0.01  # of a file's samples, beyond which it is none of the sounds that we know
#: The containers and streams that songs come in; none of them reads other files.
DEMUXERS = (
    "mov", "matroska", "ogg", "mp3", "aac", "loas", "flac", "wav", "w64", "aiff", "caf", "asf", "avi", "mpegts", "mpeg", "flv", "au",
    "wv", "tta", "ape", "mpc", "mpc8", "amr", "ac3", "eac3", "dts", "dsf",
)  # fmt: skip


class Listener:
    """Is told of what is decoded. This one does nothing with it."""

    def begin(self, sound: Growing, rate: int) -> None:
        """Sound that will grow: what has been decoded can be read from it at any time."""

    def hear(self, block: Audio, rate: int) -> None:
        """One more block ``[channels, frames]``, before samples that are none are silenced."""


@dataclass(frozen=True)
class Decoded:
    """Sound ``[channels, frames]``, its rate, and the repairs made. sound_tracks : how many its file has."""

    sound: Audio
    rate: int
    warnings: tuple[str, ...]
    sound_tracks: int = 1


SONG_SUFFIXES = (
    ".wav", ".flac", ".ogg", ".oga", ".opus", ".mp3", ".aif", ".aiff", ".caf", ".m4a", ".aac", ".mp4", ".mov", ".mkv", ".webm",
)  # fmt: skip


def is_song(path: Path) -> bool:
    """Whether a file's ending is one that songs have."""
    return path.suffix.lower() in SONG_SUFFIXES


def decode(path: Path, work: Work, listener: Listener | None = None, sound_track: int = 1) -> Decoded:
    """Decode a whole file, of a playable number of channels and rate. Raises Unreadable, Cancelled.

    listener : is told each block as it comes.  sound_track : which one of those of a video.
    """
    with open_regular(path) as file:
        if not file.read(1):
            raise Unreadable(tr("{0} is empty (0 bytes). Choose another file.").format(shortened(path.name)))
    rate, promised, blocks, cut, tracks = _decoding(path, work, listener or Listener(), sound_track)
    sound, name = blocks.sound(), shortened(path.name)
    warnings = []
    if tracks > 1 and sound_track == 1:
        warnings.append(tr("{0} has {1} sound tracks; the first one is used.").format(name, tracks))
    missing = bytes_missing(path)
    seconds = sound.shape[1] / rate
    if seconds >= LONGEST_HOURS * 3600:
        warnings.append(tr("{0} is longer than {1} hours; the rest of it is left out.").format(name, LONGEST_HOURS))
    elif cut or missing or sound.shape[1] < promised - 0.05 * rate:
        says = tr("{0} is cut off: {1} s could be read and are used.")
        if promised > sound.shape[1] + 0.05 * rate:
            says = tr("{0} is cut off: {1} s of {2} s could be read and are used.")
        read, whole = (localised(f"{length:.1f}") for length in (seconds, promised / rate))
        warnings.append(says.format(name, read, whole))
    bad, absurd = _silence_bad_samples(sound)
    if absurd > MOST_ABSURD * sound.size:
        raise Unreadable(
            tr("The samples of {0} reach beyond {1} times full scale. Scale them to ±1 first.").format(
                name, localised(f"{ABSURD:,.0f}")
            )
        )
    if bad + absurd:
        warnings.append(
            tr("{0} holds {1} samples that are not numbers of sound; they are played as silence.").format(
                name, localised(f"{bad + absurd:,}")
            )
        )
    return Decoded(np.ascontiguousarray(sound), rate, tuple(warnings), tracks)


class _NotOurs(Exception):
    """libsndfile does not know the format."""


class Decoding(NamedTuple):
    """What was read. promised : frames that the file says it has, 0 where it does not.  cut : whether it broke off.  tracks : of sound."""

    rate: int
    promised: int
    blocks: Growing
    cut: bool
    tracks: int = 1


def _decoding(path: Path, work: Work, listener: Listener, sound_track: int) -> Decoding:
    if sound_track == 1:
        with contextlib.suppress(_NotOurs), quiet_decoder(path):
            return _with_sndfile(path, work, listener)
    return _with_av(path, work, listener, sound_track)


def decodable_tracks(container: Any) -> list[Any]:
    """The sound tracks of an opened file that can be decoded, in its order."""
    return [stream for stream in container.streams.audio if stream.codec_context is not None]


def _check_playable(path: Path, channels: int, rate: int) -> None:
    name = shortened(path.name)
    if not 1 <= channels <= MOST_CHANNELS:
        raise Unreadable(
            tr("{0} has {1} channels; Late Spin opens 1 to {2}. Mix it down first.").format(
                name, channels, MOST_CHANNELS
            )
        )
    if not LOWEST_RATE <= rate <= HIGHEST_RATE:
        raise Unreadable(
            tr(
                "{0} has a sample rate of {1} Hz; Late Spin opens {2} to {3} Hz. "
                "Convert it to 44,100 or 48,000 Hz first."
            ).format(name, localised(f"{rate:,}"), localised(f"{LOWEST_RATE:,}"), localised(f"{HIGHEST_RATE:,}"))
        )


def _is_long_enough(blocks: Growing, rate: int) -> bool:
    return blocks.frames >= LONGEST_HOURS * 3600 * rate


def _with_sndfile(path: Path, work: Work, listener: Listener) -> Decoding:
    import soundfile

    try:
        file = soundfile.SoundFile(_source(path))
    except (soundfile.SoundFileError, OSError, ValueError, TypeError) as error:
        raise _NotOurs(str(error)) from None
    with file:
        rate, promised = int(file.samplerate), max(0, int(file.frames))
        _check_playable(path, int(file.channels), rate)
        blocks = Growing(int(file.channels), _expected(path, promised, int(file.channels), rate))
        listener.begin(blocks, rate)
        try:
            while len(block := file.read(BLOCK_FRAMES, dtype="float32", always_2d=True)):
                blocks.append(block.T)
                listener.hear(block.T, rate)
                step(work, blocks.frames / max(promised, blocks.frames))
                if _is_long_enough(blocks, rate):
                    break
        except soundfile.SoundFileError:
            _add_what_is_left(path, blocks, listener)
            return Decoding(rate, promised, blocks, cut=True)
        return Decoding(rate, promised, blocks, cut=False)


def _expected(path: Path, promised: int, channels: int, rate: int) -> int:
    """How many frames will be read, so that room may be taken for them; 0 where the file is too small to hold what its header promises."""
    if promised * channels * 4 > MOST_EXPANSION * path.stat().st_size:
        return 0
    longest = -(-LONGEST_HOURS * 3600 * rate // BLOCK_FRAMES) * BLOCK_FRAMES
    return min(promised, longest)


def _source(path: Path) -> Any:
    """The argument for libsndfile: the file's name in bytes, or the file with a repaired header."""
    return finished(path) or os.fsencode(path)


def _add_what_is_left(path: Path, blocks: Growing, listener: Listener) -> None:
    """Add the sound up to where decoding fails, in small blocks, since a failed block is lost."""
    import soundfile

    with contextlib.suppress(soundfile.SoundFileError), soundfile.SoundFile(_source(path)) as file:
        file.seek(blocks.frames)
        while len(block := file.read(SMALL_BLOCK_FRAMES, dtype="float32", always_2d=True)):
            blocks.append(block.T)
            listener.hear(block.T, int(file.samplerate))


def _with_av(path: Path, work: Work, listener: Listener, sound_track: int) -> Decoding:
    name = shortened(path.name)
    with opened_container(path) as container:
        streams = decodable_tracks(container)
        if not streams:
            if container.streams.audio:
                says = tr("{0} holds no sound of a kind that can be decoded. Choose a file with a sound track.")
            else:
                says = tr("{0} holds no sound. Choose a file with a sound track.")
            raise Unreadable(says.format(name))
        if not 1 <= sound_track <= len(streams):
            says = tr("{0} has no sound track {1}; it has {2}. Choose another.")
            raise Unreadable(says.format(name, sound_track, len(streams)))
        stream = streams[sound_track - 1]
        rate, seconds = int(stream.rate or 0), 0.0
        if stream.duration and stream.time_base:
            seconds = float(stream.duration * stream.time_base)
        blocks, cut = _av_sound(path, container, stream, seconds, work, listener)
        if not blocks.frames and (cut or rate == 0):
            raise Unreadable(
                tr("{0} is not a sound file that can be read: nothing in it could be decoded.").format(name)
            )
        return Decoding(rate, round(seconds * rate) if cut else 0, blocks, cut, len(streams))


@contextlib.contextmanager
def opened_container(path: Path) -> Iterator[Any]:
    """A file opened by FFmpeg's libraries, of the kinds that songs come in; it reads no other files. Raises Unreadable."""
    import av

    limits = {"format_whitelist": ",".join(DEMUXERS), "protocol_whitelist": "none"}
    with open_regular(path) as file:
        try:
            container = av.open(_SeekableFile(file), options=limits)
        except (av.FFmpegError, OSError, ValueError):
            raise Unreadable(
                tr("{0} is not a sound or video file that can be read. Choose another file.").format(
                    shortened(path.name)
                )
            ) from None
        with container:
            yield container


class _SeekableFile:
    """A file for PyAV. Seeking to an impossible place returns −1; PyAV would print an exception."""

    def __init__(self, file: BufferedReader) -> None:
        self.name, self.read, self.tell, self._file = "", file.read, file.tell, file

    def seek(self, offset: int, whence: int = 0) -> int:
        """The new position; −1 if the position is invalid."""
        try:
            return self._file.seek(offset, whence)
        except (OSError, ValueError, OverflowError):
            return -1


def _av_sound(
    path: Path, container: Any, stream: Any, seconds: float, work: Work, listener: Listener
) -> tuple[Growing, bool]:
    """The decodable part of a stream, and whether it was truncated."""
    import av

    blocks = Growing()
    try:
        _check_playable(path, int(stream.channels or 0), int(stream.rate or 0))
        listener.begin(blocks, int(stream.rate))
        for block, at in _av_blocks(container, stream):
            blocks.append(block)
            listener.hear(block, int(stream.rate))
            step(work, at / seconds if seconds else 0.5)
            if _is_long_enough(blocks, int(stream.rate)):
                break
    except Cancelled:
        raise
    except (av.FFmpegError, OSError, ValueError, ArithmeticError):
        return blocks, True
    return blocks, False


def _av_blocks(container: Any, stream: Any) -> Iterator[tuple[Audio, float]]:
    """Blocks ``[channels, frames]`` and the second each begins at."""
    end = _End(container, stream)
    late: tuple[Audio, float] | None = None
    for block, at in _decoded(container, stream, end):
        if late is not None:
            yield late
        late = block, at
    if late is not None:
        yield end.trimmed(late[0]), late[1]


def _decoded(container: Any, stream: Any, end: "_End") -> Iterator[tuple[Audio, float]]:
    import av

    # Channels side by side: of more than eight in planes of their own PyAV reads beyond its memory.
    resampler = av.AudioResampler(format="flt", layout=stream.layout, rate=stream.rate)
    channels = int(stream.channels)
    for packet in container.demux(stream):
        for frame in packet.decode():
            end.follow(packet, frame)
            for part in resampler.resample(frame):
                yield _turned(part, channels), float(frame.time or 0.0)
    for part in resampler.resample(None):
        yield _turned(part, channels), 0.0


class _End:
    """Where the sound of an MP4 file ends: its last packet says so, since coders fill up their last frame with silence."""

    def __init__(self, container: Any, stream: Any) -> None:
        self._told = "mp4" in container.format.name and stream.time_base == Fraction(1, stream.rate)
        self._surplus = 0

    def follow(self, packet: Any, frame: Any) -> None:
        """Hear of one more frame and the packet it came from."""
        shorter = packet.pts is not None and frame.pts == packet.pts and 0 < (packet.duration or 0) < frame.samples
        self._surplus = frame.samples - packet.duration if self._told and shorter else 0

    def trimmed(self, last: Audio) -> Audio:
        """The last block without what was filled up."""
        return last[:, : max(1, last.shape[1] - self._surplus)] if self._surplus else last


def _turned(part: Any, channels: int) -> Audio:
    """A frame's interleaved samples as ``[channels, frames]``."""
    return np.ascontiguousarray(part.to_ndarray().reshape(-1, channels).T, dtype=np.float32)


def _silence_bad_samples(sound: Audio) -> tuple[int, int]:
    """Replace NaN, infinity and absurd samples by zeros, in place; returns the counts of the first two and of the third."""
    bad = absurd = 0
    for start in range(0, sound.shape[1], BLOCK_FRAMES):
        part = sound[:, start : start + BLOCK_FRAMES]
        wild = ~(np.abs(part) < ABSURD)
        if wild.any():
            numbers = np.isfinite(part)
            bad += int(np.count_nonzero(~numbers))
            absurd += int(np.count_nonzero(wild & numbers))
            part[wild] = 0.0
        let_go(sound)
    return bad, absurd

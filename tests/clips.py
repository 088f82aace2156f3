"""A video with a flash and a beep every second, and where they are found in another one."""

import struct
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from latespin.dsp.arrays import Floats

RATE, PICTURES = 48_000, 30
HUM_HZ = 220.0  # beneath the beeps of the first sound track; twice that of the second
FLASH_PICTURES, BEEP_SECONDS = 2, 0.05
CODECS = {
    ".mp4": ("libx264", "aac"),
    ".mov": ("libx264", "aac"),
    ".mkv": ("libx264", "aac"),
    ".webm": ("libvpx-vp9", "libopus"),
}


def make_clip(
    path: Path, seconds: int = 8, *, uneven: bool = False, ten_bit: bool = False, size: tuple[int, int] = (160, 90), sounds: int = 1,
    shown: int | None = None,
) -> Path:  # fmt: skip
    """Write it; ``uneven`` leaves out every third picture that is no flash, so that they are not evenly spaced.  shown : seconds of pictures, fewer than of sound."""
    video, audio = CODECS[path.suffix]
    with av.open(str(path), "w") as container:
        options = (
            {"g": "48", "bf": "2", "crf": "20"} if video == "libx264" else {"deadline": "realtime", "cpu-used": "8"}
        )
        pictures: Any = container.add_stream(video, rate=PICTURES, options=options)
        pictures.width, pictures.height, pictures.pix_fmt = *size, "yuv420p10le" if ten_bit else "yuv420p"
        tracks = [container.add_stream(audio, rate=RATE, layout="stereo") for _ in range(sounds)]
        packets = [
            packet for frame in _frames(shown or seconds, size, uneven=uneven) for packet in pictures.encode(frame)
        ]
        packets += pictures.encode(None)
        for number, track in enumerate(tracks, 1):
            track.metadata["title"] = f"Hum {number}"
            frames = _sound(seconds, HUM_HZ * number)
            packets += [packet for frame in frames for packet in track.encode(frame)] + track.encode(None)
        for packet in sorted(packets, key=lambda p: float((p.dts if p.dts is not None else p.pts) * p.time_base)):
            container.mux(packet)
    return path


def _frames(seconds: int, size: tuple[int, int], *, uneven: bool) -> Any:
    for number in range(seconds * PICTURES):
        flash = number >= PICTURES and number % PICTURES < FLASH_PICTURES
        if uneven and not flash and number % 3 == 1:
            continue
        pixels = np.full((size[1], size[0], 3), 255 if flash else 40, np.uint8)
        if not flash:
            pixels[:, : 1 + size[0] * (number % PICTURES) // PICTURES] = 90, 60, 120
        frame = av.VideoFrame.from_ndarray(pixels, format="rgb24")
        frame.pts, frame.time_base = number, Fraction(1, PICTURES)
        yield frame


def _sound(seconds: int, hum_hz: float) -> Any:
    at = np.arange(seconds * RATE) / RATE
    beep = (at >= 1.0) & (at % 1.0 < BEEP_SECONDS)
    wave = 0.01 * np.sin(2 * np.pi * hum_hz * at) + 0.7 * beep * np.sin(2 * np.pi * 1000 * at)
    for start in range(0, len(wave), 960):
        part = np.tile(wave[start : start + 960].astype(np.float32), (2, 1))
        frame = av.AudioFrame.from_ndarray(part, format="fltp", layout="stereo")
        frame.sample_rate, frame.pts = RATE, start
        yield frame


def hum_hz(sound: Floats, rate: int) -> float:
    """What is strongest beneath the beeps, in the half second before the first."""
    part = np.asarray(sound[0], np.float64)[rate // 4 : 3 * rate // 4]
    spectrum = np.abs(np.fft.rfft(part * np.hanning(len(part))))
    return float(np.argmax(spectrum)) * rate / len(part)


def flashes(path: Path) -> Floats:
    """The seconds at which flashes begin."""
    found, bright = [], False
    with av.open(str(path)) as container:
        for frame in container.decode(video=0):
            was, bright = bright, float(frame.to_ndarray(format="gray").mean()) > 200.0
            if bright and not was:
                found.append(float(frame.time or 0.0))
    return np.array(found)


def beeps(path: Path) -> Floats:
    """The seconds at which beeps begin."""
    parts, begins = [], None
    with av.open(str(path)) as container:
        stream = container.streams.audio[0]
        resampler = av.AudioResampler(format="fltp", layout="mono", rate=stream.rate)
        for frame in container.decode(stream):
            begins = float(frame.time or 0.0) if begins is None else begins
            parts += [part.to_ndarray()[0] for part in resampler.resample(frame)]
    loud = np.flatnonzero(np.abs(np.concatenate(parts)) > 0.2) / stream.rate
    first = np.diff(loud, prepend=-1.0) > 0.3
    return (begins or 0.0) + loud[first]


def apart_ms(flashed: Floats, beeped: Floats) -> Floats:
    """How far each flash is from the beep nearest to it, ms."""
    return 1000.0 * np.abs(flashed[:, None] - beeped).min(axis=1)


def turn(path: Path) -> Path:
    """Have players turn an MP4's pictures a quarter clockwise, by the matrix in the head of their track (ISO 14496-12)."""
    data = bytearray(path.read_bytes())
    for track in _boxes(data, *_inside(data, b"moov")):
        start, stop, kind = track
        if kind == b"trak" and b"vmhd" in data[start:stop]:
            head = next(start for start, _, kind in _boxes(data, start + 8, stop) if kind == b"tkhd")
            matrix = head + 12 + 20 + 8 + 8  # behind times and number, what is reserved, and layer, group and volume
            one, high = 0x10000, 90
            data[matrix : matrix + 36] = struct.pack(">9i", 0, one, 0, -one, 0, 0, high * one, 0, 0x4000_0000)
    path.write_bytes(data)
    return path


def _inside(data: bytearray, kind: bytes) -> tuple[int, int]:
    start = data.find(kind) - 4
    return start + 8, start + struct.unpack_from(">I", data, start)[0]


def _boxes(data: bytearray, start: int, stop: int) -> Iterator[tuple[int, int, bytes]]:
    while start < stop:
        length, kind = struct.unpack_from(">I4s", data, start)
        yield start, start + length, kind
        start += length

"""Impulse responses: three synthesised rooms, and the preparation of any response.

Made rooms: early reflections of a shoebox by image sources (J. B. Allen and D. A. Berkley, "Image method for efficiently simulating small-room
acoustics", JASA 65(4), 1979), then noise that decays in octaves as the room does. Longer and shorter decays: the tail's short-time spectra are
read more slowly or quickly and given random phases, which a tail, being noise, does not show.
"""

from dataclasses import dataclass

import numpy as np

from latespin.caches import MEGABYTE, kept
from latespin.dsp.arrays import Audio, Floats, amplitude

SPEED_M = 343.0
OCTAVES = (125.0, 250.0, 500.0, 1_000.0, 2_000.0, 4_000.0, 8_000.0)
EARLY_SECONDS, EARLY_SHARE = 0.08, 0.12  # what is not stretched: at most so long, and so much of a response
QUIET_DB, SILENT_DB = -75.0, -90.0
FRAME = 2048


@dataclass(frozen=True)
class Shoebox:
    """Length, width and height in metres; decay in octaves from 125 Hz, seconds; what the walls throw back; where the sources' middle and the ears are.

    apart_m : between the sources of the left and the right channel.
    """

    size_m: tuple[float, float, float]
    decays: tuple[float, ...]
    wall: float
    source_m: tuple[float, float, float]
    ears_m: tuple[float, float, float]
    apart_m: float


ROOMS = {
    "snug": Shoebox((4.6, 3.4, 2.5), (0.42, 0.40, 0.38, 0.36, 0.34, 0.31, 0.26), 0.78, (3.6, 1.4, 1.3), (1.3, 1.9, 1.2), 1.6),
    "rink": Shoebox((58.0, 28.0, 9.0), (3.6, 3.3, 2.9, 2.6, 2.2, 1.6, 0.9), 0.88, (40.0, 12.0, 5.5), (22.0, 16.0, 1.7), 8.0),
    "nave": Shoebox((34.0, 13.0, 15.0), (4.6, 4.6, 4.4, 4.1, 3.4, 2.4, 1.3), 0.93, (25.0, 6.0, 3.0), (9.0, 7.2, 1.7), 5.0),
}  # fmt: skip


@kept(24 * MEGABYTE)
def made_room(name: str, rate: int) -> Audio:
    """The response ``[4, frames]`` of a shipped room, as :class:`Convolver` takes it; energy 1 at each ear. Not to be changed."""
    box = ROOMS[name]
    frames = round(room_seconds(name) * rate)
    rng = np.random.default_rng(1924)
    (from_left, density_from), (from_right, _) = (_images(box, rate, side) for side in (-0.5, 0.5))
    early = np.concatenate((from_left, from_right))
    tail = np.stack([_decaying_noise(box.decays, frames, rate, rng) for _ in range(4)])
    seconds = np.arange(frames) / rate
    come = np.clip((seconds - 0.35 * density_from) / (0.65 * density_from), 0.0, 1.0)
    response = tail * come
    span = slice(round(0.5 * density_from * rate), round(density_from * rate))
    share = np.sqrt(np.mean(early[:, span] ** 2) / (np.mean(tail[:, span] ** 2) + 1e-20))
    response *= share * 1.3
    response[:, : early.shape[1]] += early * np.clip(1.5 - seconds[: early.shape[1]] / density_from, 0.0, 1.0)
    return normalised(response.astype(np.float32))


def room_seconds(name: str) -> float:
    """How long the response of a shipped room is."""
    return 1.15 * max(ROOMS[name].decays)


def _images(box: Shoebox, rate: int, side: float) -> tuple[Floats, float]:
    """Early reflections without the direct sound, ``[2, frames]``, and when they get dense, seconds; side : −0.5 of the left source, 0.5 of the right."""
    size, middle, head = (np.array(v, np.float64) for v in (box.size_m, box.source_m, box.ears_m))
    source = middle + np.array([0.0, side * box.apart_m, 0.0])
    volume = float(np.prod(size))
    dense = float(np.clip(0.0022 * np.sqrt(volume), 0.02, 0.12))
    reach = dense * 1.5 * SPEED_M + float(np.linalg.norm(source - head))
    orders = [int(np.ceil(reach / (2 * s))) + 1 for s in box.size_m]
    n = np.stack(np.meshgrid(*[np.arange(-o, o + 1) for o in orders], indexing="ij"), axis=-1).reshape(-1, 1, 3)
    q = np.stack(np.meshgrid([0, 1], [0, 1], [0, 1], indexing="ij"), axis=-1).reshape(1, -1, 3)
    places = ((1 - 2 * q) * source + 2 * n * size).reshape(-1, 3)
    bounces = (np.abs(n - q) + np.abs(n)).sum(axis=2).ravel()
    early = np.zeros((2, round((1.5 * dense + 0.005) * rate)))
    direct = np.linalg.norm(source - head) / SPEED_M
    for ear, shift in enumerate((-0.09, 0.09)):
        away = np.linalg.norm(places - (head + np.array([0.0, shift, 0.0])), axis=1)
        at = np.round((away / SPEED_M - direct) * rate).astype(np.int64)
        there = (bounces > 0) & (at >= 0) & (at < early.shape[1])
        facing = 1.0 + 0.5 * np.sign(shift) * (places[:, 1] - head[1]) / np.maximum(away, 0.1)
        gains = box.wall**bounces / np.maximum(away, 0.3) * facing
        np.add.at(early[ear], at[there], gains[there])
    return early, dense


def _decaying_noise(decays: tuple[float, ...], frames: int, rate: int, rng: np.random.Generator) -> Floats:
    """White noise whose octaves fall by 60 dB in the times given; below and above as the nearest octave."""
    size = 1 << (frames - 1).bit_length()
    spectrum = np.fft.rfft(rng.standard_normal(size))
    octaves = np.log2(np.maximum(np.fft.rfftfreq(size, 1.0 / rate), 1.0))
    centres, seconds = np.log2(OCTAVES), np.arange(frames) / rate
    total = np.zeros(frames)
    for i, decay in enumerate(decays):
        weight = np.clip(1.0 - np.abs(octaves - centres[i]), 0.0, 1.0)
        if i in (0, len(decays) - 1):
            weight = np.where((octaves < centres[i]) == (i == 0), 1.0, weight)
        tilt = np.where(octaves > centres[3], 10.0 ** (-3.0 * (octaves - centres[3]) / 20.0), 1.0)
        total += np.fft.irfft(spectrum * np.sqrt(weight) * tilt, size)[:frames] * 10.0 ** (-3.0 * seconds / decay)
    return total


def prepared(response: Audio, rate: int, stretch: float = 1.0) -> Audio:
    """A response from a file ready for use: trimmed, its decay stretched, energy 1 at the louder ear; ``[2 or 4, frames]``.

    Silence before its first sound and what is 75 dB below its peak at its end are cut off. A silent one gives no frames.
    """
    both = response if response.shape[0] > 1 else np.repeat(response, 2, axis=0)
    level = np.abs(both).max(axis=0)
    peak = float(level.max()) if level.size else 0.0
    if peak < amplitude(SILENT_DB):
        return np.zeros((len(both), 0), np.float32)
    first = int(np.argmax(level > peak * 0.02))
    last = len(level) - int(np.argmax(level[::-1] > peak * amplitude(QUIET_DB)))
    kept = both[:, max(0, first - round(0.001 * rate)) : last].copy()
    fade = min(kept.shape[1], round(0.01 * rate))
    kept[:, kept.shape[1] - fade :] *= np.linspace(1.0, 0.0, fade, dtype=np.float32)
    return normalised(stretched_tail(kept, rate, stretch))


def normalised(response: Audio) -> Audio:
    """Such that noise through it is as loud as before, at the louder ear."""
    energies = np.sum(np.square(response, dtype=np.float64), axis=1)
    energy = energies.reshape(-1, 2).sum(axis=0).max()
    made = np.asarray(response / np.sqrt(max(energy, 1e-20)), np.float32)
    made.setflags(write=False)
    return made


def stretched_tail(response: Audio, rate: int, stretch: float) -> Audio:
    """The response with what comes after the early reflections decaying ``stretch`` times as slowly."""
    early = min(round(EARLY_SECONDS * rate), round(EARLY_SHARE * response.shape[1]))
    tail = response[:, early:]
    if stretch == 1.0 or tail.shape[1] < 2 * FRAME:
        return response
    hop = FRAME // 4
    window = np.hanning(FRAME + 1)[:FRAME]
    padded = np.pad(response.astype(np.float64), ((0, 0), (FRAME // 2, FRAME)))
    count = max(1, round(stretch * tail.shape[1] / hop))
    rng = np.random.default_rng(7)
    made = np.zeros((len(response), early + (count + 5) * hop))
    for n in range(count):
        at = early + n * hop / stretch
        for c in range(len(response)):
            magnitude = np.abs(np.fft.rfft(padded[c, int(at) : int(at) + FRAME] * window))
            phases = np.exp(2j * np.pi * rng.uniform(size=len(magnitude)))
            start = early + n * hop - FRAME // 2
            piece = np.fft.irfft(magnitude * phases) * window
            low = max(0, start)
            made[c, low : start + FRAME] += piece[low - start :] * np.sqrt(4.0 / 3.0)
    blend = np.clip((np.arange(made.shape[1]) - early + FRAME // 2) / FRAME, 0.0, 1.0)
    out = made * np.sqrt(blend)
    head = response[:, : early + FRAME // 2] * np.sqrt(1.0 - blend[: early + FRAME // 2])
    out[:, : head.shape[1]] += head[:, : out.shape[1]]
    return np.asarray(out, np.float32)

"""How far onsets of a stretched piece are from where they belong, and how much of their attack is lost.

A note is judged in the bands in which it is heard. The weight of a band is the rise of the piece at the onset, times the
share of the note in the power there. In those bands the rises of the result are aligned with those of the piece played at that tempo.
"""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from latespin.dsp.arrays import Audio
from stretch_pieces import RATE, Note

STEP = 44  # frames: a millisecond
SIZE = 1024
BANDS = 24
REACH = 40  # steps to each side of an onset
PATTERN = 15  # steps of these that are compared, so that neighbours count for little
FURTHEST = 30  # steps by which an onset may be off
LAG = 4  # steps to each side over which a rise is taken
DEPTH = 24.0  # dB below a note from which its rise counts
LEAST_RISE = 6.0  # dB, in its clearest band: softer onsets cannot be heard
Levels = NDArray[np.float64]


@dataclass(frozen=True)
class OnsetFigures:
    """By how many ms each onset that can be heard is off, and how many dB its rise is less steep."""

    displacement: NDArray[np.float64]
    attack_loss: NDArray[np.float64]


def onset_figures(out: Audio, truth: Audio, notes: list[Note], length_ratio: float) -> OnsetFigures:
    """Figures of all notes of a piece."""
    result, played = _levels(out), _levels(truth)
    off, lost = [], []
    for note in notes:
        at = round(note.frame(length_ratio) / STEP)
        if at < 2 * REACH or at + 2 * REACH > min(len(result), len(played)):
            continue
        weights = _weights(note, played, at, length_ratio)
        if weights.max() < LEAST_RISE:
            continue
        displacement, loss = _compared(result, played, weights, at)
        off.append(displacement)
        lost.append(loss)
    return OnsetFigures(np.array(off), np.array(lost))


def _weights(note: Note, played: Levels, at: int, length_ratio: float) -> Levels:
    """How much a note is heard to begin in each band, dB."""
    lead = 2 * REACH * STEP
    own = np.concatenate((np.zeros(lead + SIZE), note.wave(length_ratio)[: 4 * lead]))
    alone = _levels(0.4 * own[None])
    at_own = round((lead + SIZE) / STEP)
    after = 10 ** (np.stack((alone[at_own : at_own + 30].max(axis=0), played[at : at + 30].max(axis=0))) / 10)
    rise = np.minimum(DEPTH, played[at : at + 15].max(axis=0) - played[at - 25 : at - 5].max(axis=0))
    return np.asarray(np.maximum(0.0, rise) * np.minimum(1.0, after[0] / after[1]) ** 2)


def _compared(result: Levels, played: Levels, weights: Levels, at: int) -> tuple[float, float]:
    """Displacement, ms, and loss, dB, of one onset."""
    floor = played[at : at + 15].max(axis=0) - DEPTH
    there = _rises(np.maximum(floor, played[at - PATTERN - LAG : at + PATTERN + LAG + 1]))
    reach = PATTERN + FURTHEST
    here = _rises(np.maximum(floor, result[at - reach - LAG : at + reach + LAG + 1]))
    parts = np.lib.stride_tricks.sliding_window_view(here, len(there), axis=0).transpose(0, 2, 1)
    both = np.sum(parts * there * weights, axis=(1, 2))
    scores = both / (1e-9 + np.sqrt(np.sum(parts**2 * weights, axis=(1, 2)) * np.sum(there**2 * weights)))
    best = int(np.argmax(scores))
    steepest = [np.sum(weights * rises.max(axis=0)) / weights.sum() for rises in (there, parts[best])]
    return (best + _top(scores, best) - FURTHEST) * 1000 * STEP / RATE, float(steepest[0] - steepest[1])


def _top(scores: Levels, best: int) -> float:
    """Where the parabola about the best score is highest, steps from it."""
    if not 0 < best < len(scores) - 1:
        return 0.0
    left, middle, right = scores[best - 1 : best + 2]
    bend = left - 2 * middle + right
    return float(0.5 * (left - right) / bend) if bend else 0.0


def _rises(levels: Levels) -> Levels:
    """How many dB every band rises over 8 ms, from each step's middle."""
    return np.maximum(0.0, levels[2 * LAG :] - levels[: -2 * LAG])


def _levels(sound: NDArray[np.floating]) -> Levels:
    """``[steps, bands]`` dB, in bands a third of an octave wide from 60 Hz to 15 kHz; step i around frame i · STEP."""
    mono = np.pad(np.asarray(sound, np.float64).mean(axis=0), SIZE // 2)
    frames = np.lib.stride_tricks.sliding_window_view(mono, SIZE)[::STEP]
    hz = np.fft.rfftfreq(SIZE, 1 / RATE)
    edges = pairwise(np.geomspace(60.0, 15_000.0, BANDS + 1))
    bank = np.array([np.interp(hz, (low * 0.8, low, high, high * 1.25), (0, 1, 1, 0)) for low, high in edges])
    window = np.hanning(SIZE)
    parts = np.array_split(frames, 1 + len(frames) // 2000)
    power = np.concatenate([np.abs(np.fft.rfft(part * window)) ** 2 @ bank.T for part in parts])
    return np.asarray(10 * np.log10(power + 1e-4))

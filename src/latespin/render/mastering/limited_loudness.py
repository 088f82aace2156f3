"""Predicts how loud a limited version becomes with a different gain before the limiter, from one pass of the limiter.

A limiter hardly changes the spectrum. The K-weighted energy of each 10 ms therefore scales with the square of its gain.
That gain is computed from the peaks of groups of 16 frames instead of from every frame, which is a sixteenth of the work.
"""

import numpy as np

from latespin.analysis.facts import BLOCK_FRAMES
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.dynamics.limiter import PLACE_SECONDS, LimiterGain
from latespin.dsp.kernels import kernel
from latespin.dsp.metering.loudness import STEPS_PER_SECOND, loudness_of
from latespin.memory import let_go
from latespin.render.mastering.level import LevelPlan

GROUP = 16
CLOSE_LU, TRIES = 0.004, 12
HARDLY_LOUDER_LU = 0.05  # less than which is not worth any more gain
GRID_DB = 0.25


class LimitedLoudness:
    """Of a sound ``[channels, frames]`` before its level."""

    def __init__(self, sound: Audio, rate: int) -> None:
        self._sound, self._rate = sound, rate
        self._found: Floats | None = None

    def gain_for(self, target_lufs: float, plan: LevelPlan, energies: Floats, most_db: float) -> tuple[float, bool]:
        """The gain for a loudness, dB, ``most_db`` at most; and whether it stays below that since no more gain makes it louder.

        plan, energies : of a round that was tried: the weighted energy of each hundredth of a second that it gave.
        """
        before = self._powers(plan, plan.gain_db)

        def loudness(gain_db: float) -> float:
            return loudness_of(energies * self._powers(plan, gain_db) / before)

        if loudness(plan.gain_db) > target_lufs:
            low = plan.gain_db - 1.0
            while loudness(low) > target_lufs:
                low -= 1.0
            return _crossing(loudness, target_lufs, low, plan.gain_db), False
        if (highest := loudness(most_db)) > target_lufs:
            return _crossing(loudness, target_lufs, plan.gain_db, most_db), False
        grid = np.append(np.arange(plan.gain_db, most_db, GRID_DB), most_db)
        reached = np.array([*(loudness(gain) for gain in grid[:-1]), highest])
        if reached.max() > target_lufs:
            above = int(np.argmax(reached > target_lufs))
            return _crossing(loudness, target_lufs, float(grid[above - 1]), float(grid[above])), False
        enough = int(np.argmax(reached >= reached.max() - HARDLY_LOUDER_LU))
        return float(grid[enough]), enough < len(grid) - 1

    def _powers(self, plan: LevelPlan, gain_db: float) -> Floats:
        """The mean square of the gain in every hundredth of a second, the limiter's included."""
        peaks, gain = self._peaks(), amplitude(gain_db)
        ceilings = np.full(len(peaks), plan.ceiling or 1.0)
        if plan.lowered:
            places = (np.arange(len(peaks)) * GROUP / self._rate / PLACE_SECONDS).astype(np.int64)
            lowered = np.array(plan.lowered)
            ceilings *= np.where(places < len(lowered), lowered[np.minimum(places, len(lowered) - 1)], 1.0)
        limiter = LimiterGain(self._rate / GROUP)
        needed = np.minimum(1.0, ceilings / np.maximum(peaks * gain, 1e-9))
        gains = limiter.process(np.append(needed, np.ones(limiter.latency)))[limiter.latency :]
        total = np.concatenate(([0.0], np.cumsum(np.square(gains))))
        edges = np.arange(int(self._sound.shape[1] * STEPS_PER_SECOND / self._rate) + 1) * (
            self._rate / STEPS_PER_SECOND / GROUP
        )
        sums = np.interp(edges, np.arange(len(total)), total)
        return np.asarray(np.diff(sums) / np.diff(edges) * gain**2)

    def _peaks(self) -> Floats:
        """The highest sample of every group of frames, of all channels."""
        if self._found is None:
            self._found = np.zeros(-(-self._sound.shape[1] // GROUP), np.float32)
            for start in range(0, self._sound.shape[1], BLOCK_FRAMES):
                for channel in self._sound:
                    _highest(channel[start : start + BLOCK_FRAMES], self._found[start // GROUP :])
                let_go(self._sound)
        return self._found


def _crossing(loudness, target: float, low: float, high: float) -> float:  # type: ignore[no-untyped-def]
    """Where a loudness that is lower than the target at ``low``, and higher at ``high``, reaches it.

    By false position; a side that stays twice counts half (M. Dowell and P. Jarratt, "A modified regula falsi method", BIT 11, 1971).
    """
    below, above, rose = loudness(low) - target, loudness(high) - target, 0
    middle = high
    for _ in range(TRIES):
        middle = (low * above - high * below) / (above - below)
        off = loudness(middle) - target
        if abs(off) < CLOSE_LU:
            break
        if off < 0.0:
            low, below, above, rose = middle, off, above / (2.0 if rose > 0 else 1.0), 1
        else:
            high, above, below, rose = middle, off, below / (2.0 if rose < 0 else 1.0), -1
    return float(middle)


@kernel()
def _highest(channel, out):  # type: ignore[no-untyped-def]
    for n in range(len(channel)):
        out[n // GROUP] = max(out[n // GROUP], abs(channel[n]))

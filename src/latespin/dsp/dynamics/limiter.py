"""A look-ahead true-peak limiter with adaptive release.

The gain every frame needs is the ceiling over its true peak. A sliding minimum makes that need known one attack time ahead, a release lets it
go again, and two moving averages in a row round the way down so that the gain has always arrived when the peak does. This is the classic
arrangement of lookahead limiters (U. Zölzer (ed.), DAFX: Digital Audio Effects, 2nd ed., 2011, section 4.2.2), fed with the true-peak envelope
of ITU-R BS.1770-5 in place of the sample peak.

The release adapts (after the auto release of D. Giannoulis, M. Massberg and J. D. Reiss, "Parameter automation in a dynamic range compressor",
JAES 61(10), 2013): a peak by itself is let go of within 10 ms, so that little of the song is touched; where the limiter works on and on, release
grows to 250 ms, so that it does not ride on the wave of a bass.

Own design: where much has to be taken off peak after peak, a slow stage (``slow_gain.py``) that looks 40 ms ahead and lets go within a second takes
on a share of it; the quick one is left with the tips. Much limiting then changes the level of a phrase more than the shape of its waves.
"""

import numpy as np
from numba import njit

from latespin.dsp.arrays import Audio, Floats, check_audio, check_range
from latespin.dsp.dynamics.slow_gain import SlowGain
from latespin.dsp.metering.true_peak import HALF_TAPS, peak_envelope

ATTACK_SECONDS = 0.003
PLACE_SECONDS = 0.01  # in which a ceiling may be lower than elsewhere
FAST_RELEASE_SECONDS, SLOW_RELEASE_SECONDS = 0.010, 0.250
BUSY_SECONDS = 0.3  # over which it is judged how much it has to do
RELEASES = 64  # release times between the fast and the slow one


class Limiter:
    """Keeps true peaks at or below a ceiling.

    Takes blocks of any size and returns the same number of frames, with ``latency``. The result does not
    depend on how the blocks are cut.

    rate : frames per second. ceiling : highest true peak as a ratio of full scale, above 0 to 4.
    link : 1, all channels share one gain, which keeps the picture where it is; 0, each has its own.
    lowered : what the ceiling is multiplied by in every ``PLACE_SECONDS`` of the sound, above 0 to 1; 1 beyond its end.
    """

    def __init__(
        self, rate: int, channels: int, ceiling: float, link: float = 1.0, lowered: Floats | None = None
    ) -> None:
        check_range("ceiling", ceiling, 1e-4, 4.0)
        check_range("link", link, 0.0, 1.0)
        self._rate, self._ceiling = rate, ceiling
        self._lowered, self._at = lowered, -HALF_TAPS
        self._link = link if channels > 1 else 1.0
        self._gains = [_Gain(rate) for _ in range(1 if self._link == 1.0 else channels)]
        self.latency = HALF_TAPS + self._gains[0].latency
        self._sound = np.zeros((channels, 2 * HALF_TAPS + 1), np.float32)
        self._delayed = np.zeros((channels, self._gains[0].latency), np.float32)
        self.lowest_gain = 1.0

    def process(self, block: Audio) -> Audio:
        """Limit ``[channels, frames]``; returns the same number of frames, delayed by ``latency``."""
        check_audio(block)
        frames = block.shape[1]
        if frames == 0:
            return block.copy()
        joined = np.concatenate((self._sound, block), axis=1)
        self._sound = joined[:, -(2 * HALF_TAPS + 1) :].copy()
        ready = joined[:, HALF_TAPS + 1 : HALF_TAPS + 1 + frames]
        gains = [gain.process(need) for gain, need in zip(self._gains, self._needs(joined, frames), strict=True)]
        self.lowest_gain = min(self.lowest_gain, *(float(gain.min()) for gain in gains))
        delayed = np.concatenate((self._delayed, ready), axis=1)
        self._delayed = delayed[:, frames:].copy()
        out: Audio = delayed[:, :frames] * np.array(gains, np.float32)
        return out

    def _needs(self, joined: Audio, frames: int) -> list[Floats]:
        """The gain each frame needs, for all channels or for each of them.

        The envelope of a frame needs its neighbours to both sides; its sound leaves HALF_TAPS late.
        """
        parts = [joined] if len(self._gains) == 1 else [row[None] for row in joined]
        ceilings = self._ceilings(frames)
        needs = []
        for part in parts:
            peaks = peak_envelope(part, self._rate, float(np.min(ceilings)))[HALF_TAPS + 1 : HALF_TAPS + 1 + frames]
            needs.append(np.minimum(1.0, ceilings / np.maximum(peaks.astype(np.float64), 1e-9)))
        if len(needs) == 1:
            return needs
        least = np.minimum.reduce(needs) ** self._link
        return [least * need ** (1.0 - self._link) for need in needs]

    def _ceilings(self, frames: int) -> Floats:
        """The ceiling of the next frames, or one for all of them."""
        if self._lowered is None:
            return np.array([self._ceiling])
        places = (np.arange(self._at, self._at + frames) / (PLACE_SECONDS * self._rate)).astype(np.int64)
        self._at += frames
        within = (places >= 0) & (places < len(self._lowered))
        return np.where(
            within, self._ceiling * self._lowered[np.clip(places, 0, len(self._lowered) - 1)], self._ceiling
        )


class _Gain:
    """The gain that has always arrived when it is needed: a slow one where much has to be taken off, and a quick one for the rest."""

    def __init__(self, rate: int) -> None:
        self._box = max(1, round(ATTACK_SECONDS * rate / 2))
        self._slow = SlowGain(rate)
        self.latency = self._slow.latency + 2 * self._box
        seconds = np.geomspace(FAST_RELEASE_SECONDS, SLOW_RELEASE_SECONDS, RELEASES)
        self._releases = 1.0 - np.exp(-1.0 / (seconds * rate))
        self._busy = 1.0 - np.exp(-1.0 / (BUSY_SECONDS * rate))
        self._waiting, self._slowed = np.ones(self._slow.latency), np.ones(2 * self._box)
        self._needs = np.ones(2 * self._box)
        self._state = np.array([1.0, 0.0])  # the gain now, and how busy it has been
        self._averages = [_RunningMean(self._box + 1), _RunningMean(self._box + 1)]

    def process(self, needed: Floats) -> Floats:
        """The gain of each frame, from the gains needed."""
        slow = self._slow.process(needed)
        slowed, self._slowed = _delayed(self._slowed, slow)
        waiting, self._waiting = _delayed(self._waiting, needed)
        needs = np.concatenate((self._needs, np.minimum(1.0, waiting / slow)))
        self._needs = needs[len(needed) :].copy()
        gain = np.empty(len(needed))
        _sliding_minimum(needs, 2 * self._box + 1, gain)
        _release(gain, self._releases, self._busy, self._state)
        for average in self._averages:
            gain = average.process(gain)
        return gain * slowed


def _delayed(kept: Floats, values: Floats) -> tuple[Floats, Floats]:
    """Values as late as there are ``kept`` ones, and those to keep for the next."""
    joined = np.concatenate((kept, values))
    return joined[: len(values)], joined[len(values) :].copy()


class _RunningMean:
    """The mean of the last ``span`` values, all 1 before the first."""

    def __init__(self, span: int) -> None:
        self._kept = np.ones(span)
        self._sum = np.array([float(span)])

    def process(self, values: Floats) -> Floats:
        joined = np.concatenate((self._kept, values))
        self._kept = joined[len(values) :].copy()
        out = np.empty(len(values))
        _running_mean(joined, self._sum, out)
        return out


@njit(cache=True, nogil=True)
def _sliding_minimum(values, span, out):  # type: ignore[no-untyped-def]
    """``out[n]`` is the least of ``values[n : n + span]`` (D. Lemire's streaming minimum, 2006)."""
    queue = np.empty(len(values), np.int64)
    head, tail = 0, 0
    for n in range(len(values)):
        while tail > head and values[queue[tail - 1]] >= values[n]:
            tail -= 1
        queue[tail] = n
        tail += 1
        if queue[head] <= n - span:
            head += 1
        if n >= span - 1:
            out[n - span + 1] = values[queue[head]]


@njit(cache=True, nogil=True)
def _release(values, releases, share, state):  # type: ignore[no-untyped-def]
    """Down at once, up again exponentially, the more slowly the busier it has been; in place."""
    gain, busy = state
    last = len(releases) - 1
    for n in range(len(values)):
        if values[n] <= gain:
            gain = values[n]
        else:
            gain += releases[int(busy * last)] * (values[n] - gain)
        busy += share * ((1.0 if values[n] < 1.0 else 0.0) - busy)
        values[n] = gain
    state[0], state[1] = gain, busy


@njit(cache=True, nogil=True)
def _running_mean(joined, total, out):  # type: ignore[no-untyped-def]
    """``joined`` holds one span of former values, whose sum is ``total[0]``, before the new ones."""
    span = len(joined) - len(out)
    running = total[0]
    for n in range(len(out)):
        running += joined[n + span] - joined[n]
        out[n] = running / span
    total[0] = running

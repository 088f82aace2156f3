"""A look-ahead true-peak limiter with adaptive release.

The gain every frame needs is the ceiling over its true peak. A sliding minimum makes that need known one attack time ahead, a release lets it
go again, and two moving averages in a row round the way down so that the gain has always arrived when the peak does. This is the classic
arrangement of lookahead limiters (U. Zölzer (ed.), DAFX: Digital Audio Effects, 2nd ed., 2011, section 4.2.2), fed with the true-peak envelope
of ITU-R BS.1770-5 in place of the sample peak.

The release adapts (after the auto release of D. Giannoulis, M. Massberg and J. D. Reiss, "Parameter automation in a dynamic range compressor",
JAES 61(10), 2013): a peak by itself is let go of within 10 ms, so that little of the song is touched; where the limiter works on and on, release
grows to 250 ms, so that it does not ride on the wave of a bass.

Own design: where much has to be taken off peak after peak, two slower stages (``busy_stage.py``) that look 40 and 22 ms ahead take on
most of it; the quick one is left with the tips. Much limiting then changes the level of a phrase more than the shape of its waves.
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats, check_audio, check_range
from latespin.dsp.dynamics.busy_stage import BusyStage, StageSettings
from latespin.dsp.dynamics.gain_stage import GainStage
from latespin.dsp.kernels import kernel
from latespin.dsp.metering.true_peak import HALF_TAPS, peak_envelope

ATTACK_SECONDS = 0.003
PLACE_SECONDS = 0.01  # in which a ceiling may be lower than elsewhere
FAST_RELEASE_SECONDS, SLOW_RELEASE_SECONDS = 0.010, 0.250
BUSY_SECONDS = 0.3  # over which it is judged how much it has to do
SLOW = StageSettings(attack_seconds=0.04, averages=3, release_seconds=(0.02, 0.7), leaves_db=1.8, engages=(0.005, 0.05))
MIDDLE = StageSettings(
    attack_seconds=0.022, averages=2, release_seconds=(0.001, 0.002), leaves_db=0.0, engages=(0.002, 0.02)
)


@dataclass(frozen=True, eq=False)
class Need:
    """A block of sound ``[channels, frames]``, and the gains it needs, of all channels or of each."""

    sound: Audio
    gains: list[Floats]


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
        self._gains = [LimiterGain(rate) for _ in range(1 if self._link == 1.0 else channels)]
        self.latency = HALF_TAPS + self._gains[0].latency
        self._sound = np.zeros((channels, 2 * HALF_TAPS + 1), np.float32)
        self._delayed = np.zeros((channels, self._gains[0].latency), np.float32)
        self.lowest_gain = 1.0

    def process(self, block: Audio) -> Audio:
        """Limit ``[channels, frames]``; returns the same number of frames, delayed by ``latency``."""
        return self.limited(self.looked_at(block))

    def looked_at(self, block: Audio) -> Need:
        """The first half of the work: what gain the next block needs."""
        check_audio(block)
        frames = block.shape[1]
        joined = np.concatenate((self._sound, block), axis=1)
        self._sound = joined[:, -(2 * HALF_TAPS + 1) :].copy()
        needs = self._needs(joined, frames) if frames else [np.zeros(0) for _ in self._gains]
        return Need(joined[:, HALF_TAPS + 1 : HALF_TAPS + 1 + frames], needs)

    def limited(self, seen: Need) -> Audio:
        """The second half: the sound turned down. It needs nothing but what :meth:`looked_at` gave, so both may run at once on different blocks."""
        frames = seen.sound.shape[1]
        if frames == 0:
            return seen.sound.copy()
        gains = [gain.process(need) for gain, need in zip(self._gains, seen.gains, strict=True)]
        self.lowest_gain = min(self.lowest_gain, *(float(gain.min()) for gain in gains))
        delayed = np.concatenate((self._delayed, seen.sound), axis=1)
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
            need = np.empty(frames)
            _below(peaks, ceilings, need)
            needs.append(need)
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


@kernel()
def _below(peaks, ceilings, out):  # type: ignore[no-untyped-def]
    """The gain that brings each peak to the ceiling, 1 where it is below it. ceilings : of each, or one for all."""
    for n in range(len(out)):
        ceiling = ceilings[n] if len(ceilings) > 1 else ceilings[0]
        out[n] = ceiling / peaks[n] if peaks[n] > ceiling else 1.0


class LimiterGain:
    """The gain that has always arrived when it is needed: slower stages where much has to be taken off, and a quick one for the rest."""

    def __init__(self, rate: float) -> None:
        self._busy = [BusyStage(rate, settings) for settings in (SLOW, MIDDLE)]
        box = max(1, round(ATTACK_SECONDS * rate / 2))
        self._quick = GainStage(rate, box, 2, (FAST_RELEASE_SECONDS, SLOW_RELEASE_SECONDS), BUSY_SECONDS)
        self._waiting = [np.ones(stage.latency) for stage in self._busy]
        following: tuple[BusyStage | GainStage, ...] = (*self._busy[1:], self._quick)
        self._gained = [np.ones(stage.latency) for stage in following]
        self.latency = self._busy[0].latency + sum(stage.latency for stage in following)

    def process(self, needed: Floats) -> Floats:
        """The gain of each frame, from the gains needed."""
        total = np.ones(len(needed))
        for number, stage in enumerate(self._busy):
            gain = stage.process(needed)
            waiting, self._waiting[number] = _delayed(self._waiting[number], needed)
            needed = np.minimum(1.0, waiting / gain)
            total, self._gained[number] = _delayed(self._gained[number], total * gain)
        return self._quick.process(needed) * total


def _delayed(kept: Floats, values: Floats) -> tuple[Floats, Floats]:
    """Values as late as there are ``kept`` ones, and those to keep for the next."""
    joined = np.concatenate((kept, values))
    return joined[: len(values)], joined[len(values) :].copy()

"""Loudness of playback."""

import time
from dataclasses import dataclass, replace

from latespin.dsp.arrays import Audio, decibels
from latespin.dsp.metering.loudness import LoudnessMeter
from latespin.dsp.metering.true_peak import TruePeakMeter

QUIET = float("-inf")
PAUSE_SECONDS = 0.5  # after which a new integration begins


@dataclass(frozen=True)
class Meters:
    """Meter readings: LUFS momentary, short-term and integrated, and the highest true peak in dBTP; the last two since play or a change."""

    momentary: float = QUIET
    short_term: float = QUIET
    integrated: float = QUIET
    true_peak: float = QUIET


class LiveMeter:
    """Loudness of playback; a pause of half a second, or a change of what is played, starts a new integration."""

    def __init__(self, rate: int) -> None:
        self._rate = rate
        self._shown, self._last = Meters(), 0.0
        self._start()

    def hear(self, blocks: list[Audio | None]) -> Meters:
        """Readings after these blocks; None stands where something else begins to be played."""
        now = time.monotonic()
        if blocks and now - self._last > PAUSE_SECONDS:
            self._start()
        for block in blocks:
            self._last = now
            if block is None:
                self._since, self._peak = self._loudness.steps, TruePeakMeter(self._rate, 2)
                continue
            self._loudness.push(block)
            self._peak.push(block)
        if not blocks:
            quiet = now - self._last > PAUSE_SECONDS
            return replace(self._shown, momentary=QUIET, short_term=QUIET) if quiet else self._shown
        self._shown = Meters(
            self._loudness.momentary_lufs(), self._loudness.short_term_lufs(),
            self._loudness.integrated_lufs(self._since), decibels(self._peak.peak()),
        )  # fmt: skip
        return self._shown

    def _start(self) -> None:
        self._loudness, self._peak = LoudnessMeter(self._rate, 2), TruePeakMeter(self._rate, 2)
        self._shown, self._last, self._since = Meters(), time.monotonic(), 0

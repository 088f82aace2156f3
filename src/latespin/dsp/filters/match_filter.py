"""A streaming filter with a response each for mid and side, of linear or minimum phase.

Linear phase: the impulse response of a real, even spectrum, windowed (L. R. Rabiner and B. Gold, "Theory and Application of Digital Signal
Processing", 1975, section 3.8). Minimum phase by folding the real cepstrum (A. V. Oppenheim and R. W. Schafer, "Discrete-Time Signal
Processing", section 12.3).
"""

from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats, amplitudes, mid_and_side
from latespin.dsp.filters.convolution import BLOCK, Convolver

TAPS_SECONDS = 0.186


@dataclass(frozen=True)
class MatchFilter:
    """Two responses as bytes of float32, so that equal filters are equal; delay : of their middle, frames."""

    mid: bytes
    side: bytes
    delay: int

    @property
    def response(self) -> Audio:
        """Both, ``[2, taps]``."""
        return np.stack((np.frombuffer(self.mid, np.float32), np.frombuffer(self.side, np.float32)))


def filter_of(mid_db: Floats, side_db: Floats, hz: Floats, rate: int, *, minimum: bool) -> MatchFilter:
    """A filter with gains in dB at frequencies, even on a logarithmic axis between them and level beyond."""
    taps = 1 << round(np.log2(TAPS_SECONDS * rate))
    rows = [_taps(gains, hz, rate, taps, minimum=minimum).astype(np.float32).tobytes() for gains in (mid_db, side_db)]
    return MatchFilter(rows[0], rows[1], 0 if minimum else taps // 2)


def _taps(gains_db: Floats, hz: Floats, rate: int, taps: int, *, minimum: bool) -> Floats:
    size = 4 * taps
    grid = np.maximum(np.fft.rfftfreq(size, 1.0 / rate), 1.0)
    decibels = np.interp(np.log(grid), np.log(hz), gains_db)
    if not minimum:
        wave = np.fft.irfft(amplitudes(decibels), size)
        centred = np.roll(wave, taps // 2)[:taps]
        return np.asarray(centred * np.hanning(taps + 1)[:taps])
    cepstrum = np.fft.irfft(decibels * np.log(10.0) / 20.0, size)
    cepstrum[1 : size // 2] *= 2.0
    cepstrum[size // 2 + 1 :] = 0.0
    wave = np.fft.irfft(np.exp(np.fft.rfft(cepstrum)), size)[:taps]
    fade = np.ones(taps)
    fade[taps // 2 :] = np.cos(0.5 * np.pi * np.arange(taps - taps // 2) / (taps - taps // 2)) ** 2
    return np.asarray(wave * fade)


class Matcher:
    """Filters blocks ``[channels, frames]`` of one or two channels, ``latency`` frames late."""

    def __init__(self, made: MatchFilter) -> None:
        self._convolver = Convolver(made.response)
        self.latency = BLOCK + made.delay

    def process(self, block: Audio) -> Audio:
        """Filter one more block; the output is ``latency`` frames late."""
        if block.shape[0] == 1:
            return self._convolver.process(np.concatenate((block, block)))[:1]
        mid, side = self._convolver.process(np.stack(mid_and_side(block)))
        return np.stack((mid + side, mid - side))

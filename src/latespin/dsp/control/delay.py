"""Delays: of whole frames, to compensate latency; and fractional ones, whose length may glide."""

import numpy as np

from latespin.dsp.arrays import Audio, Floats


class Delay:
    """Delays by ``frames``; silence at first."""

    def __init__(self, channels: int, frames: int) -> None:
        self._kept = np.zeros((channels, frames), np.float32)

    def process(self, block: Audio) -> Audio:
        """One more block ``[channels, frames]``."""
        heard = np.concatenate((self._kept, block), axis=1)
        self._kept = heard[:, block.shape[1] :].copy()
        return heard[:, : block.shape[1]]


class FractionalDelay:
    """One channel delayed by up to ``longest`` frames, read between frames; a delay of whole frames is exact.

    Third-order Lagrange interpolation: T. I. Laakso et al., "Splitting the unit delay", IEEE SP Magazine 13(1), 1996.
    """

    def __init__(self, longest: int) -> None:
        self._kept = np.zeros(longest + 3, np.float32)

    def process(self, sound: Audio, delay: float | Floats) -> Audio:
        """One more block ``[frames]``; the delay, one or for each frame, is at least two frames."""
        heard = np.concatenate((self._kept, sound))
        first = len(self._kept)
        self._kept = heard[len(sound) :]
        delays = np.clip(delay, 2.0, first - 2.0)
        if np.ndim(delays) == 0 and float(delays).is_integer():
            return heard[first - int(delays) : len(heard) - int(delays)]
        places = first + np.arange(len(sound)) - delays
        whole = np.floor(places).astype(np.int64)
        d = (places - whole).astype(np.float32)
        below, above, far = d + 1, d - 1, d - 2
        outer = (heard[whole + 2] * below * above - heard[whole - 1] * above * far) * d / 6
        inner = (heard[whole] * above - heard[whole + 1] * d) * below * far / 2
        return np.asarray(outer + inner, np.float32)

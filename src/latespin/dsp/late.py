"""A plain delay of whole frames, so that what comes late can be laid beside what does not."""

import numpy as np

from latespin.dsp.types import Audio


class Late:
    """Gives back what came in ``frames`` ago, as many frames as come in; silence at first."""

    def __init__(self, channels: int, frames: int) -> None:
        self._kept = np.zeros((channels, frames), np.float32)

    def process(self, block: Audio) -> Audio:
        """One more block ``[channels, frames]``."""
        heard = np.concatenate((self._kept, block), axis=1)
        self._kept = heard[:, block.shape[1] :].copy()
        return heard[:, : block.shape[1]]

"""Bins of a stretch that are read at other places of the song than the rest of their frames.

Own design: a soft onset raises some bins. These go at the song's own pace while it is heard, from an instant that lies exactly where
the time map puts it; all other bins of the same frames go on as if there were nothing. A note that enters softly is copied, and nothing else is moved.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Spectra


@dataclass(frozen=True)
class Rereading:
    """Some bins of some frames in a row.

    first : number of the first of its frames.  around, after, before : places of the song for these frames, and half a hop after and
    before the middle between each and the one before.  led : which of them carry phases on.  bins : which bins, bool ``[bins]``.
    """

    first: int
    around: np.ndarray
    after: np.ndarray
    before: np.ndarray
    led: np.ndarray
    bins: np.ndarray

    @property
    def frames(self) -> np.ndarray:
        """Their numbers."""
        return self.first + np.arange(len(self.led))

    @property
    def places(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """All places of the song."""
        return self.around, self.after, self.before


def reread(
    rereadings: list[Rereading],
    spectra: Callable[[np.ndarray, np.ndarray], Spectra],
    like: np.ndarray,
    now: Spectra,
    advance: Spectra,
) -> None:
    """Exchange bins in ``now`` and ``advance``, ``[frames, channels, bins]``, in place.

    spectra : around places, of frames with these numbers.  like : which of a rereading's bins each bin of these spectra is.
    """
    if not rereadings:
        return
    frames = np.concatenate([reading.frames for reading in rereadings])
    led = np.concatenate([reading.led for reading in rereadings])
    around, after, before = (np.concatenate(part) for part in zip(*(r.places for r in rereadings), strict=True))
    found = spectra(
        np.concatenate((around, after[led], before[led])), np.concatenate((frames, frames[led], frames[led]))
    )
    count = np.count_nonzero(led)
    grown = found[len(frames) : len(frames) + count] * np.conj(found[len(frames) + count :])
    done = done_led = 0
    for reading in rereadings:
        bins = reading.bins[like]
        now[reading.first : reading.first + len(reading.led)][..., bins] = found[done:][: len(reading.led)][..., bins]
        done += len(reading.led)
        for frame in reading.frames[reading.led]:
            advance[frame][..., bins] = grown[done_led][..., bins]
            done_led += 1

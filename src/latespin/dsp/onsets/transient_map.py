"""The attacks of a song, kept. What finds them is loaded with the first that are asked for: most versions need none."""

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.onsets.results import NEIGHBOUR_SECONDS, Transients

START_SECONDS, QUARTER_SECONDS, START_SHARE = (
    0.002,
    0.25,
    0.03,
)  # a song that is as loud so soon, of its first quarter second, begins at once
BLOCK_SECONDS, CONTEXT_SECONDS = 4.0, 0.4


class TransientMap:
    """The attacks of a whole song, found block by block where they are asked for, and kept.

    May be used from several threads at once.
    """

    def __init__(self, song: Audio, rate: float) -> None:
        self._song, self._rate = song, rate
        self._block = max(1, round(BLOCK_SECONDS * rate))
        self._found: dict[int, Transients] = {}

    def between(self, start: float, stop: float) -> Transients:
        """The attacks of all blocks that reach into ``start`` to ``stop`` (frames of the song)."""
        blocks = [self._in_block(b) for b in range(int(start // self._block), int(stop // self._block) + 1)]
        return Transients(
            np.concatenate([b.frames for b in blocks]),
            np.concatenate([b.strengths for b in blocks]),
            np.concatenate([b.soft for b in blocks]),
        )

    def _in_block(self, block: int) -> Transients:
        """The attacks of one block, judged with a little of its neighbours."""
        if block not in self._found:
            from latespin.dsp.onsets.soft_onsets import APART_SECONDS
            from latespin.dsp.onsets.transients import find_attacks

            context = round(CONTEXT_SECONDS * self._rate)
            start = block * self._block
            low, high = max(0, start - context), min(self._song.shape[1], start + self._block + context)
            found = find_attacks(self._song[:, low : max(low, high)], self._rate)
            frames, strengths, soft = found.frames + low, found.strengths, found.soft + low
            kept = (frames >= start) & (frames < start + self._block)
            if block == 0 and _begins_at_once(self._song, self._rate):
                kept &= frames > NEIGHBOUR_SECONDS * self._rate
                frames, strengths = np.append(0, frames), np.append(1.0, strengths)
                kept = np.append(True, kept)
                soft = soft[soft > APART_SECONDS * self._rate]
            soft = soft[(soft >= start) & (soft < start + self._block)]
            self._found[block] = Transients(frames[kept], strengths[kept], soft)
        return self._found[block]


def _begins_at_once(song: Audio, rate: float) -> bool:
    """Whether a song is there from its first frames on: then its start is an attack that nothing comes before."""
    first = np.abs(song[:, : max(1, round(START_SECONDS * rate))]).max(initial=0.0)
    return bool(first > START_SHARE * np.abs(song[:, : max(1, round(QUARTER_SECONDS * rate))]).max(initial=0.0))

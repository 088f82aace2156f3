"""Folding more than two channels to stereo."""

import math

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.memory import let_go, room_for

BLOCK_FRAMES = 1 << 18

# Levels of ITU-R BS.775-4, Annex 4: centre and surrounds 3 dB down, the LFE left out.
_SHARE = math.sqrt(0.5)
# What each channel in WAVE order gives to (left, right), by number of channels.
_LEFT, _RIGHT, _BOTH, _NONE = (1.0, 0.0), (0.0, 1.0), (_SHARE, _SHARE), (0.0, 0.0)
_LEFT_BACK, _RIGHT_BACK = (_SHARE, 0.0), (0.0, _SHARE)
_LAYOUTS = {
    3: (_LEFT, _RIGHT, _BOTH),
    4: (_LEFT, _RIGHT, _LEFT_BACK, _RIGHT_BACK),
    5: (_LEFT, _RIGHT, _BOTH, _LEFT_BACK, _RIGHT_BACK),
    6: (_LEFT, _RIGHT, _BOTH, _NONE, _LEFT_BACK, _RIGHT_BACK),
    7: (_LEFT, _RIGHT, _BOTH, _NONE, _BOTH, _LEFT_BACK, _RIGHT_BACK),
    8: (_LEFT, _RIGHT, _BOTH, _NONE, _LEFT_BACK, _RIGHT_BACK, _LEFT_BACK, _RIGHT_BACK),
}


def fold_to_stereo(song: Audio) -> Audio:
    """``[channels, frames]`` to at most two channels; one or two stay as they are.

    Channels beyond the eighth alternate between left and right, 3 dB down.
    """
    channels = song.shape[0]
    if channels <= 2:
        return song
    rows = list(_LAYOUTS[min(channels, 8)])
    rows += [(_LEFT_BACK, _RIGHT_BACK)[i % 2] for i in range(channels - len(rows))]
    matrix = np.array(rows, dtype=np.float32).T
    folded = room_for(2, song.shape[1])
    for start in range(0, song.shape[1], BLOCK_FRAMES):
        np.matmul(matrix, song[:, start : start + BLOCK_FRAMES], out=folded[:, start : start + BLOCK_FRAMES])
        let_go(song)
        let_go(folded)
    return folded

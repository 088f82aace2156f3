"""Scoring candidates by their features with a small network, whose weights ship with the application.

``tools/fit_reading.py`` fits it on pieces with known beats: the expected score of the choice, candidates weighed by the softmax of
what the network gives, is made as high as it gets (Adam; D. P. Kingma and J. Ba, ICLR 2015), with dropout of inputs. For *presence*, no beat is one
more thing to choose, with a score of 0: it is right for noise, talk and knocks at random.
"""

from dataclasses import dataclass
from functools import cache
from importlib.resources import files

import numpy as np

from latespin.dsp.arrays import Floats

NO_BEAT = 0.0  # the score of there being no beat, to compare those of ``presence`` with
FARTHEST = 4.0  # standard deviations at which what describes a candidate is cut off
WEIGHTS = "choices.npz"


@dataclass(frozen=True)
class Choice:
    """Weights: mean and scale ``[k]`` of the inputs, hidden ``[k, h]`` with bias and out ``[h]``, straight ``[k]``."""

    mean: Floats
    scale: Floats
    hidden: Floats
    bias: Floats
    out: Floats
    straight: Floats

    def scores(self, described: Floats) -> Floats:
        """A score for each candidate ``[n]``, as natural logarithms of its chance up to a constant; described : ``[n, k]``."""
        x = np.clip((described - self.mean) / self.scale, -FARTHEST, FARTHEST)
        return np.asarray(np.tanh(x @ self.hidden + self.bias) @ self.out + x @ self.straight)


@cache
def shipped(kind: str) -> Choice:
    """The weights for ``beats``, for their ``presence``, or for ``bars``."""
    with (files("latespin.analysis.rhythm") / WEIGHTS).open("rb") as file:
        kept = np.load(file)
        return Choice(
            *(
                kept[f"{kind}_{name}"].astype(np.float64)
                for name in ("mean", "scale", "hidden", "bias", "out", "straight")
            )
        )


def chances(scores: Floats) -> Floats:
    """Chances that add up to 1."""
    likely = np.exp(scores - np.max(scores))
    return np.asarray(likely / likely.sum())

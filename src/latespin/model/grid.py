"""The grid of a track: where its beats and bars lie."""

from typing import Annotated

from latespin.model import parameters as p
from latespin.model.parameters import Checked


class Grid(Checked, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A steady tempo from a first beat of a bar on."""

    bpm: Annotated[float, p.BPM]
    first_beat_seconds: Annotated[float, p.FIRST_BEAT] = p.FIRST_BEAT.default
    beats_per_bar: Annotated[int, p.BEATS_PER_BAR] = 4

    @property
    def bar_seconds(self) -> float:
        """How long a bar lasts in the track."""
        return 60.0 / self.bpm * self.beats_per_bar

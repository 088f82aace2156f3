"""How long a version rings on is known without rendering it."""

import pytest

from latespin.model.effects.effects import Hall
from latespin.model.moments.endings import AnyEnding, CleanStop, EchoEnd, Ending, Fade, NoEnding, RingOut, TapeStopEnd
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.moments import AnyMoment, Moments, Throw
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.timeline.tail_lengths import tail_after
from tests.conftest import noise, track_of


@pytest.mark.parametrize(
    "way", [NoEnding(), RingOut(), EchoEnd(), Fade(), CleanStop(), TapeStopEnd()], ids=lambda w: type(w).__name__
)
@pytest.mark.parametrize("hall", [False, True])
@pytest.mark.parametrize("late", [(), ("echo",), ("hall",), ("dip",)])
def test_the_tail_foretold_is_the_tail_rendered(way: AnyEnding, hall: bool, late: tuple[str, ...]) -> None:
    """The chain is exactly as long as said."""
    moments: list[AnyMoment] = []
    for what in late:
        place = {"id": what, "start": Position(beat=18.0), "end": Position(beat=20.0)}
        moments.append(ColourDip(colour="hall", **place) if what == "dip" else Throw(into=what, **place))  # type: ignore[arg-type]
    stages = Stages(
        colour=Colour(effects=(Hall(on=hall),)), moments=Moments(placed=tuple(moments)), ending=Ending(way=way)
    )
    readers = TrackRenderer(track_of(noise(12.0)), Grid(bpm=120.0))
    chain, made = readers.chain(stages), readers.arrangement(stages)
    assert chain.frames == made.map.after_frames + tail_after(stages, made, readers.context(stages))

"""What was played, as moments and lanes of a version."""

import numpy as np
from msgspec.structs import replace

from latespin.model.documents.take_edits import thinned
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.moments.held import Held
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import parameters_of
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.hold_recorder import PlayedMove
from latespin.render.playing.live_controls import Turned


def moment_of(move: PlayedMove, ident: str, take: str) -> Held:
    """A played move as a moment at its place in the song."""
    start, end = (position_of(frame, move.programme) for frame in (move.start, move.stop))
    return replace(move.moment, id=ident, take=take, start=start, end=end)


def position_of(frame: float, programme: PlaybackRequest) -> Position:
    """The position in the song of a frame of what is played, in beats where there are any."""
    grid, rate = programme.readers.grid, programme.readers.track.rate
    seconds = programme.to_before(float(frame)) / rate
    return Position(seconds=seconds) if grid is None else Position(beat=float(grid.number_at(seconds)))


def lane_of(turned: Turned) -> Lane | None:
    """What a control did as a lane over that range; None where its effect is gone."""
    ident, name = turned.control
    effect = turned.programme.stages.colour.find(ident)
    if effect is None or len(turned.knots) < 2:
        return None
    frames, values = np.array(turned.knots).T
    parameter = parameters_of(type(effect))[name]
    kept = thinned(frames, values, parameter)
    points = tuple(
        LanePoint(at=position_of(frames[i], turned.programme), value=parameter.clamp(float(values[i]))) for i in kept
    )
    return Lane(field=name, points=points, played=True)

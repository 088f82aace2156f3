"""What was played, as moments of a version."""

from msgspec.structs import replace

from latespin.model.moments.held import Held
from latespin.model.timing.positions import Position
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.live_hand import PlayedMove


def moment_of(move: PlayedMove, ident: str, take: str) -> Held:
    """A played move as a moment at its place in the song. The programme it was played over is the move's token."""
    programme = move.token
    assert isinstance(programme, PlaybackRequest)
    start, end = (position_of(frame, programme) for frame in (move.start, move.stop))
    return replace(move.moment, id=ident, take=take, start=start, end=end)


def position_of(frame: int, programme: PlaybackRequest) -> Position:
    """The position in the song of a frame of what is played, in beats where there are any."""
    grid, rate = programme.readers.grid, programme.readers.track.rate
    seconds = programme.to_before(float(frame)) / rate
    return Position(seconds=seconds) if grid is None else Position(beat=float(grid.number_at(seconds)))

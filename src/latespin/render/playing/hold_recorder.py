"""Which moves are held, and since where: recorded as moves over frames of After."""

import dataclasses
from collections import deque
from dataclasses import dataclass

from msgspec.structs import replace

from latespin.model.arranging.held_clock import moves_clock
from latespin.model.arranging.held_slices import slice_frames, slice_start, slices_back
from latespin.model.moments.held import Held, HeldRepeat
from latespin.render.playback.programme import PlaybackRequest


@dataclass(frozen=True)
class Whereabouts:
    """What plays at a frame of the ring: frame ``at`` of a programme, and how many frames before it lead there without a jump."""

    at: int
    unbroken: int
    programme: PlaybackRequest

    @property
    def song(self) -> int:
        """The frame of the song, which the clock of its beats goes by."""
        return self.programme.song_frame(self.at)


@dataclass(frozen=True)
class PlayedMove:
    """A move as it was played, over frames of After of a programme."""

    ident: str
    moment: Held
    start: int
    stop: int
    programme: PlaybackRequest


@dataclass(frozen=True)
class _Hold:
    moment: Held
    start: int
    output: int
    where: Whereabouts


class HoldRecorder:
    """Not locked: whoever shares it locks."""

    def __init__(self) -> None:
        self._holds: dict[str, _Hold] = {}
        self.played: deque[PlayedMove] = deque(maxlen=10_000)

    @property
    def held(self) -> frozenset[str]:
        """Names of the moves that are held."""
        return frozenset(self._holds)

    def press(self, ident: str, moment: Held, where: Whereabouts, output: int, *, coming: bool = False) -> Held:
        """Begin a move at a frame of the output; one of that name ends. Returns the move as it is caught there."""
        self.release(ident, where.at, output)
        moment = caught(moment, where, coming=coming)
        self._holds[ident] = _Hold(moment, where.at, output, where)
        return moment

    def cut(self, ident: str, value: str, where: Whereabouts, output: int) -> Held | None:
        """Give the slice of a repeat that is held another note value; it begins where it began. None where none is held."""
        hold = self._holds.get(ident)
        if hold is None or not isinstance(hold.moment, HeldRepeat):
            return None
        clock = where.programme.context().clock
        first = slice_start(hold.moment, hold.where.song, clock)
        moment = replace(hold.moment, value=value, free=False)
        back = max(0.0, (where.song - first) / slice_frames(moment, where.song, clock))
        self.release(ident, where.at, output)
        moment = replace(moment, back=min(back, MOST_BACK))
        self._holds[ident] = _Hold(moment, where.at, output, where)
        return moment

    def amend(self, ident: str, moment: Held) -> None:
        """Keep a move that is held as another one."""
        hold = self._holds.get(ident)
        if hold is not None:
            self._holds[ident] = dataclasses.replace(hold, moment=moment)

    def release(self, ident: str, at: int, output: int) -> None:
        """End a move at a frame of After, and of the output; unknown names are ignored. One that moved the clock is as long as it was heard."""
        hold = self._holds.pop(ident, None)
        if hold is not None:
            end = hold.start + output - hold.output if moves_clock(hold.moment) else at
            if end > hold.start:
                self.played.append(PlayedMove(ident, hold.moment, hold.start, end, hold.where.programme))

    def release_all(self, at: int | None, output: int) -> None:
        """End all, at a frame, or where nothing has been heard of them."""
        for ident, hold in list(self._holds.items()):
            self.release(ident, hold.start if at is None else at, output)

    def split(self, ended: int, where: Whereabouts) -> None:
        """The song has jumped, as loops do: what is held is two moves, before the jump and after it."""
        for ident, hold in list(self._holds.items()):
            self.release(ident, ended, hold.output + max(0, ended - hold.start))
            self._holds[ident] = _Hold(hold.moment, where.at, hold.output + max(0, ended - hold.start), where)

    def take(self) -> list[PlayedMove]:
        """The moves that have ended since the last call."""
        found = []
        while self.played:
            found.append(self.played.popleft())
        return found


MOST_BACK = 400.0


def caught(moment: Held, where: Whereabouts, *, coming: bool) -> Held:
    """A move as it is when it is pressed there: a repeat with its slice. Where too little has sounded, it takes what comes."""
    if not isinstance(moment, HeldRepeat):
        return moment
    clock = where.programme.context().clock
    back = slices_back(moment, where.song, clock, coming=coming)
    if back * slice_frames(moment, where.song, clock) > where.unbroken:
        back = 0.0
    return replace(moment, back=back)

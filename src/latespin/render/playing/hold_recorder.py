"""Which moves are held, and since where: recorded as moves over frames of After."""

import dataclasses
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from latespin.model.arranging.held_clock import moves_clock
from latespin.model.arranging.held_slices import slice_frames, slice_start, slices_back
from latespin.model.moments.held import Held, HeldRepeat
from latespin.render.effects.context import EffectContext


@dataclass(frozen=True)
class Whereabouts:
    """What plays at a frame of the ring: frame ``at`` of a version, which is ``beat_frame`` to the clock of its beats.

    unbroken : frames before it that lead there without a jump.  token : tells programmes apart.  gain : by which the version's level was changed.
    """

    at: int
    unbroken: int
    find_context: Callable[[], EffectContext]
    token: object
    gain: float = 1.0
    song: int | None = None

    @property
    def beat_frame(self) -> int:
        """The frame without held moves that the version has already."""
        return self.at if self.song is None else self.song


@dataclass(frozen=True)
class PlayedMove:
    """A move as it was played, over frames of After of the programme that is told by ``token``."""

    ident: str
    moment: Held
    start: int
    stop: int
    token: object


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
        clock = where.find_context().clock
        first = slice_start(hold.moment, hold.where.beat_frame, clock)
        moment = replace(hold.moment, value=value, free=False)
        back = max(0.0, (where.beat_frame - first) / slice_frames(moment, where.beat_frame, clock))
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
                self.played.append(PlayedMove(ident, hold.moment, hold.start, end, hold.where.token))

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
    clock = where.find_context().clock
    back = slices_back(moment, where.beat_frame, clock, coming=coming)
    if back * slice_frames(moment, where.beat_frame, clock) > where.unbroken:
        back = 0.0
    return replace(moment, back=back)

"""Which moves are held, and since where: recorded as moves over frames of After."""

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass

from msgspec.structs import replace

from latespin.model.arranging.held_slices import slice_frames, slice_start, slices_back
from latespin.model.moments.held import Held, HeldRepeat
from latespin.render.effects.context import EffectContext


@dataclass(frozen=True)
class Whereabouts:
    """What plays at a frame of the ring: frame ``at`` of a version.

    unbroken : frames before it that lead there without a jump.  token : tells programmes apart.  gain : by which the version's level was changed.
    """

    at: int
    unbroken: int
    find_context: Callable[[], EffectContext]
    token: object
    gain: float = 1.0


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

    def press(self, ident: str, moment: Held, where: Whereabouts, *, coming: bool = False) -> Held:
        """Begin a move; one of that name ends. Returns the move as it is caught there."""
        self.release(ident, where.at)
        moment = caught(moment, where, coming=coming)
        self._holds[ident] = _Hold(moment, where.at, where)
        return moment

    def cut(self, ident: str, value: str, where: Whereabouts) -> Held | None:
        """Give the slice of a repeat that is held another note value; it begins where it began. None where none is held."""
        hold = self._holds.get(ident)
        if hold is None or not isinstance(hold.moment, HeldRepeat):
            return None
        clock = where.find_context().clock
        first = slice_start(hold.moment, hold.start, clock)
        moment = replace(hold.moment, value=value, free=False)
        back = max(0.0, (where.at - first) / slice_frames(moment, where.at, clock))
        self.release(ident, where.at)
        moment = replace(moment, back=min(back, MOST_BACK))
        self._holds[ident] = _Hold(moment, where.at, where)
        return moment

    def release(self, ident: str, at: int) -> None:
        """End a move at a frame of After; unknown names are ignored."""
        hold = self._holds.pop(ident, None)
        if hold is not None and at > hold.start:
            self.played.append(PlayedMove(ident, hold.moment, hold.start, at, hold.where.token))

    def release_all(self, at: int | None) -> None:
        """End all, at a frame, or where nothing has been heard of them."""
        for ident, hold in list(self._holds.items()):
            self.release(ident, hold.start if at is None else at)

    def split(self, ended: int, where: Whereabouts) -> None:
        """The song has jumped, as loops do: what is held is two moves, before the jump and after it."""
        for ident, hold in list(self._holds.items()):
            self.release(ident, ended)
            self._holds[ident] = _Hold(hold.moment, where.at, where)

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
    back = slices_back(moment, where.at, clock, coming=coming)
    if back * slice_frames(moment, where.at, clock) > where.unbroken:
        back = 0.0
    return replace(moment, back=back)

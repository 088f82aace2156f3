"""Controls of effects that are turned while the song plays, and what was turned."""

import threading
from dataclasses import dataclass, field, replace

from msgspec import structs

from latespin.model.effects.automation import GLIDING, LanePoint
from latespin.model.effects.effects import AnyEffect
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Stages
from latespin.render.effects.context import SHORTEST_GLIDE_SECONDS, SHORTEST_SECONDS, control_of
from latespin.render.effects.live_lane import LiveLane, LiveWay
from latespin.render.playback.programme import PlaybackRequest

Control = tuple[str, str]  # an effect’s id and a field
SPARE_SECONDS = 0.002  # by which a segment is longer than the shortest one of a lane
AT_START = Position(seconds=0.0)


@dataclass
class Turned:
    """What a control did in one go: frames of After and values, over the programme it was played over.

    touched : whether it was where a knob had been turned to.
    """

    control: Control
    programme: PlaybackRequest
    knots: list[tuple[float, float]] = field(default_factory=list)
    touched: bool = False


class LiveControls:
    """Which controls are live, and their values. ``turn`` from any thread, the rest from the player's.

    controls : of effects of the version.
    """

    def __init__(self, controls: frozenset[Control]) -> None:
        self.controls = controls
        self._ways: dict[Control, LiveWay] = {}
        self._before: dict[Control, LiveWay] = {}  # of the stream that played last
        self._wanted: dict[Control, float] = {}
        self._recording: dict[Control, Turned] = {}
        self.turned: list[Turned] = []
        self.armed = False
        self._lock = threading.Lock()

    def with_controls(self, controls: frozenset[Control]) -> "LiveControls":
        """Others in place of these: those that stay keep their values, and what was recorded is kept."""
        made = LiveControls(controls)
        made._wanted = {control: value for control, value in self._wanted.items() if control in controls}
        made.turned, made.armed = self.take_turned(), self.armed
        return made

    def turn(self, control: Control, value: float) -> None:
        """Go to a value."""
        self._wanted[control] = value
        way = self._ways.get(control)
        if way is not None:
            way.target = value

    def value(self, control: Control) -> float | None:
        """The value a control was turned to, if it was."""
        return self._wanted.get(control)

    def release(self, control: Control) -> None:
        """Let the version’s own value of a control hold again."""
        self._wanted.pop(control, None)
        way = self._ways.get(control)
        if way is not None:
            way.target = None

    def forget(self) -> None:
        """Let the version’s own values hold again."""
        self._wanted.clear()
        for way in self._ways.values():
            way.target = None

    def key(self, programme: PlaybackRequest) -> PlaybackRequest:
        """The programme without the values of its controls: programmes of one key sound the same with them turned."""
        colour = programme.stages.colour
        effects = tuple(self._still(effect) for effect in colour.effects)
        return replace(
            programme, stages=structs.replace(programme.stages, colour=structs.replace(colour, effects=effects))
        )

    def _still(self, effect: AnyEffect) -> AnyEffect:
        declared = parameters_of(type(effect))
        names = [name for ident, name in self.controls if ident == effect.id and name in declared]
        return structs.replace(effect, **{name: declared[name].default for name in names}) if names else effect

    def over(self, programme: PlaybackRequest) -> PlaybackRequest:
        """The programme with live lanes in place of its controls; the same programme where it has none of them."""
        colour, clock = programme.stages.colour, programme.context().clock
        self._before, self._ways = self._ways, {}
        effects = tuple(self._alive(effect, clock) for effect in colour.effects)
        if not self._ways or programme.side != "after":
            self._ways = {}
            return programme
        stages: Stages = structs.replace(programme.stages, colour=structs.replace(colour, effects=effects))
        return replace(programme, stages=stages)

    def _alive(self, effect: AnyEffect, clock: BeatClock) -> AnyEffect:
        declared, lanes = parameters_of(type(effect)), list(effect.lanes)
        for ident, name in self.controls:
            if ident != effect.id or name not in declared:
                continue
            parameter = declared[name]
            rest, target = control_of(effect, name, clock).point, self._wanted.get((ident, name))
            before = self._before.get((ident, name))
            begin = before.last if before is not None and target is not None else None
            segment = round(
                (SPARE_SECONDS + (SHORTEST_GLIDE_SECONDS if name in GLIDING else SHORTEST_SECONDS)) * clock.rate
            )
            way = LiveWay(
                rest, target, (parameter.low, parameter.high), segment, logarithmic=parameter.logarithmic, begin=begin
            )
            self._ways[ident, name] = way
            lanes = [lane for lane in lanes if lane.field != name]
            point = LanePoint(at=AT_START, value=float(getattr(effect, name)))
            lanes.append(LiveLane(field=name, points=(point,), played=True, way=way))
        return structs.replace(effect, lanes=tuple(lanes))

    def advance(self, programme: PlaybackRequest, first: int, upto: int) -> None:
        """Make the values of all known up to a frame of After, and note them while recording."""
        for control, way in self._ways.items():
            added = way.advance(first, upto)
            if self.armed:
                self._note(control, programme, added)
            elif control in self._recording:
                self._finish(control)

    def _note(self, control: Control, programme: PlaybackRequest, added: list[tuple[float, float]]) -> None:
        for knot in added:
            noted = self._recording.get(control)
            if noted is not None and knot[0] < noted.knots[-1][0]:
                self._finish(control)
                noted = None
            if noted is None:
                noted = self._recording[control] = Turned(control, programme)
            noted.knots.append(knot)
            noted.touched = noted.touched or control in self._wanted

    def _finish(self, control: Control) -> None:
        with self._lock:
            noted = self._recording.pop(control)
            if noted.touched or len({value for _, value in noted.knots}) > 1:
                self.turned.append(noted)

    def take_turned(self) -> list[Turned]:
        """What was turned since the last call; ends what is being recorded."""
        for control in list(self._recording):
            self._finish(control)
        with self._lock:
            found, self.turned = self.turned, []
        return found

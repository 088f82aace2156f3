"""Pads and knobs over one player: what is held and turned, and what is recorded of it. Loads kernels: not before a song is open."""

import threading

from msgspec.structs import replace

from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.media.midi.surface_reader import KnobEvent, PadEvent
from latespin.model.documents.take_edits import quantised, with_take
from latespin.model.documents.version_edits import new_id
from latespin.model.effects.automation import Lane
from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.held import HeldEffect, HeldRepeat
from latespin.model.moments.takes import Take
from latespin.model.playing.surface_map import SurfaceMap
from latespin.model.version import Stages
from latespin.render.playback.player import Player
from latespin.render.playing.held_sound import prepare
from latespin.render.playing.live_controls import Control, LiveControls, Turned
from latespin.render.playing.performer import Performer, controls_of, pad_ident
from latespin.render.playing.takes import lane_of, moment_of


class LiveSession:
    """``handle`` may be called from any thread, all else from the main thread."""

    def __init__(self, document: Document, player: Player, surface: SurfaceMap) -> None:
        self._document, self.player = document, player
        self._lock = threading.Lock()
        self._armed_take: Take | None = None
        self._last_place = 0
        self.quantise, self.strength = "", 100.0
        self.controls = LiveControls(controls_of(surface, self._effects()))
        self.performer = Performer(surface, player.live.hand, self.controls, self._effects)
        self._own = self._own_values()
        player.live.separates_drums = any(_on_drums(pad.move) for pad in surface.pads)
        player.set_live(self.controls if self.controls.controls else None)

    def _effects(self) -> tuple[AnyEffect, ...]:
        return self._document.stages.colour.effects

    def handle(self, event: PadEvent | KnobEvent) -> None:
        """A pad or knob was moved."""
        with self._lock:
            self.performer.handle(event)

    def release_all(self) -> None:
        """Let all pads go."""
        with self._lock:
            self.performer.release_all()

    def close(self) -> None:
        """The panel is closed: nothing is held or live any more."""
        self.release_all()
        self.player.live.separates_drums = False
        self.player.set_live(None)

    def prepare(self) -> None:
        """Work out beforehand what pads with effects need. Takes a while: not for the main thread."""
        programme = self.player.place()[0]
        if programme is not None:
            for pad in self.performer.surface.pads:
                if isinstance(pad.move, HeldEffect):
                    prepare(pad.move, programme.context())

    # -- the version changes ----------------------------------------------------------------------------------

    def follow(self) -> None:
        """The version has changed: live controls go where its values were set otherwise, and others become live."""
        with self._lock:
            wanted = controls_of(self.performer.surface, self._effects())
            if wanted != self.controls.controls:
                self.controls = self.performer.controls = self.controls.with_controls(wanted)
                self.performer.forget_knobs()
                self.player.set_live(self.controls if wanted else None)
            before, self._own = self._own, self._own_values()
            for control, own in self._own.items():
                value = self.controls.value(control)
                if value is not None and own not in (value, before.get(control, own)):
                    self.controls.turn(control, own)
                    self.performer.forget_knobs()

    def _own_values(self) -> dict[Control, float]:
        """What the version has, of the live controls."""
        colour = self._document.stages.colour
        effects = {control: colour.find(control[0]) for control in self.controls.controls}
        return {control: float(getattr(e, control[1])) for control, e in effects.items() if e is not None}

    def turned_values(self) -> dict[Control, float]:
        """The values knobs were turned to."""
        values = {control: self.controls.value(control) for control in self.controls.controls}
        return {control: value for control, value in values.items() if value is not None}

    def with_turned(self, stages: Stages) -> tuple[Stages, bool]:
        """The version with what knobs were turned to, as its own values; and whether the automation of any is in the way."""
        automated = False
        for (ident, field), value in self.turned_values().items():
            effect = stages.colour.find(ident)
            if effect is None:
                continue
            if any(lane.field == field for lane in effect.lanes):
                self.controls.release((ident, field))
                automated = True
            elif getattr(effect, field) != value:
                stages = replace(stages, colour=stages.colour.with_changed(replace(effect, **{field: value})))
        return stages, automated

    # -- recording --------------------------------------------------------------------------------------------

    @property
    def armed(self) -> bool:
        """Whether what is played is kept."""
        return self._armed_take is not None

    def arm(self, on: bool) -> None:
        """Begin a take, or end it."""
        self._armed_take = None
        if on:
            used = {take.name for take in self._document.stages.moments.takes}
            number = next(n for n in range(1, 10_000) if tr("Take {0}").format(n) not in used)
            self._armed_take = Take(id=new_id(), name=tr("Take {0}").format(number))
            self.player.live.hand.take_played()
            self.controls.take_turned()
        self.controls.armed = on

    def went_round(self) -> bool:
        """Whether the song has jumped back since the last call, as a loop does."""
        programme, frame = self.player.place()
        back = frame < self._last_place - self.player.rate // 4 and programme is not None and programme.loop is not None
        self._last_place = frame
        return back

    def stop(self) -> None:
        """Playback has stopped: what is held ends there."""
        self.release_all()
        self.player.live.hand.stop()
        self._last_place = 0

    def commit(self) -> None:
        """Put what was recorded into the version, as one step with what the take has already."""
        moves, turned = self.player.live.hand.take_played(), self.controls.take_turned()
        take = self._armed_take
        if take is None or not (moves or turned):
            return
        document = self._document
        found = next((known for known in document.stages.moments.takes if known.id == take.id), take)
        made = [replace(moment_of(move, new_id(), take.id), label=self._name_of(move.ident)) for move in moves]
        if self.quantise:
            made = [quantised(move, self.quantise, self.strength / 100.0, document.grid) for move in made]
        lanes = [(each.control[0], lane) for each in turned if (lane := self._lane_of(each)) is not None]
        if not (made or lanes):
            return
        document.edit_stages(
            tr("Record {0}").format(take.name), with_take(document.stages, found, made, lanes), take.id
        )
        self.player.live.hand.forget()
        self.controls.forget()

    def _lane_of(self, turned: Turned) -> Lane | None:
        """What a control did, unless it stayed where the version has it."""
        lane, effect = lane_of(turned), self._document.stages.colour.find(turned.control[0])
        if lane is None or effect is None:
            return None
        automated = any(other.field == lane.field for other in effect.lanes)
        stayed = {point.value for point in lane.points} == {getattr(effect, lane.field)}
        return None if stayed and not automated else lane

    def _name_of(self, ident: str) -> str:
        """What is written on the pad that a move was played on."""
        pads = self.performer.surface.pads
        return next((tr(pad.name) for number, pad in enumerate(pads) if pad_ident(number) == ident), "")


def _on_drums(move: object) -> bool:
    return isinstance(move, HeldRepeat) and move.material == "drums"

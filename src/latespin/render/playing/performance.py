"""A performance that was recorded as MIDI, applied to a version as if it had been played to it."""

from collections.abc import Sequence
from dataclasses import dataclass

import mido

from latespin.errors import Unusable
from latespin.media.midi.surface_reader import KnobEvent, PadEvent, SurfaceReader
from latespin.model.documents.take_edits import with_take
from latespin.model.documents.version_edits import new_id
from latespin.model.moments.held import Held
from latespin.model.moments.takes import Take
from latespin.model.playing.surface_map import EffectTarget, SurfaceMap
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.hold_recorder import HoldRecorder, Whereabouts
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.performer import Performer
from latespin.render.playing.takes import lane_of, moment_of

BLOCK = 512


@dataclass(frozen=True)
class TimedMessage:
    """A message, and when it comes, seconds from the start of After."""

    seconds: float
    message: mido.Message


class _Recorded:
    """A hand that only records, at a frame of After."""

    def __init__(self, programme: PlaybackRequest) -> None:
        self._programme = programme
        self.recorder = HoldRecorder()
        self.frame = 0

    @property
    def where(self) -> Whereabouts:
        """Everything before it has sounded."""
        return Whereabouts(self.frame, self.frame, self._programme.context, self._programme)

    def press(self, ident: str, moment: Held, *, coming: bool = False) -> None:
        """Hold a move."""
        self.recorder.press(ident, moment, self.where, coming=coming)

    def release(self, ident: str) -> None:
        """Let it go."""
        self.recorder.release(ident, self.frame)

    def cut(self, ident: str, value: str) -> None:
        """Give a repeat other slices."""
        self.recorder.cut(ident, value, self.where)


def performed(
    stages: Stages, readers: TrackRenderer, messages: Sequence[TimedMessage], surface: SurfaceMap, name: str
) -> Stages:
    """The version with what messages play on it, as a take. Raises Unusable where they play nothing."""
    programme = PlaybackRequest(readers, "after", stages, LevelPlan())
    end, rate = programme.map().after_frames, readers.track.rate
    hand, effects = _Recorded(programme), stages.colour.effects
    targets = [knob.target for knob in surface.knobs if isinstance(knob.target, EffectTarget)]
    controls = LiveControls(frozenset((e.id, t.field) for t in targets if (e := t.find(effects)) is not None))
    controls.over(programme)
    controls.armed = True
    performer, reader = Performer(surface, hand, controls, lambda: effects), SurfaceReader(surface)
    played, last = 0, 0
    for timed in messages:
        frame = round(timed.seconds * rate)
        if frame >= end:
            break
        last = _advance(controls, programme, last, frame)
        hand.frame = frame
        for event in reader.read(timed.message):
            performer.handle(event)
            played += isinstance(event, PadEvent | KnobEvent)
    _advance(controls, programme, last, min(end, last + rate))
    hand.frame = end
    performer.release_all()
    moves, turned = hand.recorder.take(), controls.take_turned()
    if not (moves or turned):
        why = "none of its messages is in the map" if not played else "it changes nothing"
        raise Unusable(
            f"{name} plays nothing on this version: {why}. Choose another file, or another map with --surface."
        )
    take = Take(id=new_id(), name=name)
    made = [moment_of(move, new_id(), take.id) for move in moves]
    lanes = [(each.control[0], lane) for each in turned if (lane := lane_of(each)) is not None]
    return with_take(stages, take, made, lanes)


def _advance(controls: LiveControls, programme: PlaybackRequest, last: int, frame: int) -> int:
    """Let live controls run to a frame, in blocks as they do when they are played."""
    while last < frame:
        step = min(BLOCK, frame - last)
        controls.advance(programme, last, last + step)
        last += step
    return last

"""A performance that was recorded as MIDI, applied to a version as if it had been played to it."""

from collections.abc import Sequence
from dataclasses import dataclass

import mido

from latespin.dsp.timing.speed_by_time import SpeedByTime
from latespin.errors import Unusable
from latespin.language import tr
from latespin.media.midi.surface_reader import KnobEvent, PadEvent, SurfaceReader
from latespin.model.arranging.held_clock import bend_of, moves_clock
from latespin.model.documents.take_edits import with_take
from latespin.model.documents.version_edits import new_id
from latespin.model.moments.held import Held
from latespin.model.moments.takes import Take
from latespin.model.playing.surface_map import SurfaceMap
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.hold_recorder import HoldRecorder, Whereabouts
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.live_hand import RIDE, TEMPO
from latespin.render.playing.live_tempo import LiveTempo
from latespin.render.playing.performer import Performer, controls_of
from latespin.render.playing.takes import lane_of, moment_of

BLOCK = 512


@dataclass(frozen=True)
class TimedMessage:
    """A message, and when it comes, seconds from the start of After."""

    seconds: float
    message: mido.Message


class _Recorded:
    """A hand that only records, at a frame of its output; the song falls behind or gets ahead where a move moves its clock."""

    def __init__(self, programme: PlaybackRequest) -> None:
        self._programme, self._rate = programme, programme.readers.track.rate
        self.recorder = HoldRecorder()
        self.frame = 0
        self._offset = 0
        self._clocks: dict[str, tuple[int, int, SpeedByTime]] = {}
        self._tempo: LiveTempo | None = None

    @property
    def song(self) -> int:
        """The frame of the song."""
        if not self._clocks:
            return self.frame + self._offset
        song, output, bend = next(reversed(self._clocks.values()))
        return song + int(bend.place_at(float(self.frame - output)) + 1e-6)

    @property
    def where(self) -> Whereabouts:
        """Everything before it has sounded."""
        return Whereabouts(self.song, self.song, self._programme)

    def press(self, ident: str, moment: Held, *, coming: bool = False) -> None:
        """Hold a move."""
        self._let_clock_go(ident)
        self.recorder.press(ident, moment, self.where, self.frame, coming=coming)
        if moves_clock(moment):
            self._clocks[ident] = self.song, self.frame, bend_of(moment, self._rate)

    def release(self, ident: str) -> None:
        """Let it go."""
        self.recorder.release(ident, self.song, self.frame)
        self._let_clock_go(ident)

    def cut(self, ident: str, value: str) -> None:
        """Give a repeat other slices."""
        self.recorder.cut(ident, value, self.where, self.frame)

    def ride(self, percent: float) -> None:
        """Run faster or slower."""
        if self._tempo is None and percent != 0.0:
            self._tempo = LiveTempo(self._rate)
            self.recorder.press(TEMPO, RIDE, self.where, self.frame)
            self._clocks[TEMPO] = self.song, self.frame, self._tempo.bend
        if self._tempo is not None:
            song, output, _ = self._clocks[TEMPO]
            self._clocks[TEMPO] = song, output, self._tempo.turn(percent, self.frame - output)
            self.recorder.amend(TEMPO, self._tempo.as_moment(RIDE))

    def run_to(self, frame: int) -> None:
        """Go on to a frame of the output; a tempo that is back at the song's own ends."""
        self.frame = frame
        if self._tempo is not None and self._tempo.over(frame - self._clocks[TEMPO][1]):
            self._tempo = None
            self.release(TEMPO)

    def _let_clock_go(self, ident: str) -> None:
        if ident in self._clocks:
            song = self.song
            del self._clocks[ident]
            self._offset = song - self.frame


def performed(
    stages: Stages, readers: TrackRenderer, messages: Sequence[TimedMessage], surface: SurfaceMap, name: str
) -> Stages:
    """The version with what messages play on it, as a take. Raises Unusable where they play nothing."""
    programme = PlaybackRequest(readers, "after", stages, LevelPlan())
    end, rate = programme.map().after_frames, readers.track.rate
    hand, effects = _Recorded(programme), stages.colour.effects
    controls = LiveControls(controls_of(surface, effects))
    controls.over(programme)
    controls.armed = True
    performer, reader = Performer(surface, hand, controls, lambda: effects), SurfaceReader(surface)
    played, last = 0, 0
    for timed in messages:
        frame = round(timed.seconds * rate)
        hand.run_to(frame)
        if hand.song >= end:
            break
        last = _advance(controls, programme, last, hand.song)
        for event in reader.read(timed.message):
            performer.handle(event)
            played += isinstance(event, PadEvent | KnobEvent)
    _advance(controls, programme, last, min(end, last + rate))
    hand.run_to(hand.frame + max(0, end - hand.song))
    performer.release_all()
    hand.recorder.release_all(hand.song, hand.frame)
    moves, turned = hand.recorder.take(), controls.take_turned()
    if not (moves or turned):
        why = tr("{0} changes nothing on this version.") if played else tr("No message of {0} is in the map.")
        raise Unusable(f"{why.format(name)} {tr('Choose another file, or another map with --surface.')}")
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

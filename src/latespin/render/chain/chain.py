"""The chain: a version of a track as a stream of blocks, before Level.

Source → what moments do before the effects → (one channel becomes two where a stage needs it) → the effects, one after the other
→ effects and gains that come and go → what is laid over it → the ending and the tail that follow the music.
"""

import math
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass

import numpy as np

from latespin.ahead import ReadAhead
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.timing.speed_by_time import ease_down
from latespin.model import version as v
from latespin.model.arranging.arrangement import Arrangement, PlacedMoment
from latespin.model.effects.effects import AnyEffect, Hall
from latespin.model.moments.endings import Fade
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.render.effects.context import EffectContext, amount_of
from latespin.render.effects.effect_node import EffectNode
from latespin.render.effects.registry import plan
from latespin.render.sources.edited_reader import DraftEditedReader, Source
from latespin.render.sources.music_reader import DraftReader
from latespin.render.timeline.overlays import Overlay
from latespin.render.timeline.tail_lengths import effects_of, on_version_hall, tail_frames
from latespin.render.timeline.timed_filters import WARM_UP_SECONDS, TimedFilter, amounts
from latespin.render.timeline.timed_gain import apply_gain

END_FADE_SECONDS = 0.03
UNSTRETCHED_SECONDS = 0.3  # of a draft's warm-up, where it has to be stretched first
WARM_UP_BLOCK = 1 << 15

Solo = tuple[str, int]  # an effect, by its id, and the part of it that is heard alone


@dataclass(frozen=True)
class OverlaySet:
    """Overlays of a version: ``early`` before the effects, ``late`` after them."""

    early: tuple[Overlay, ...] = ()
    late: tuple[Overlay, ...] = ()

    def kept_bytes(self) -> int:
        """Memory used, bytes."""
        return sum(overlay.kept_bytes() for overlay in (*self.early, *self.late))


class Chain:
    """Gives the frames of After in order, in blocks of any size; the result does not depend on the size.

    ``seek`` goes anywhere: the effects are warmed up by the music before that place, so that what is heard
    equals the whole render within −80 dB.
    """

    def __init__(
        self, reader: Source, stages: v.Stages, arrangement: Arrangement, context: EffectContext, laid: OverlaySet,
        solo: Solo | None = None,
    ) -> None:  # fmt: skip
        self._reader = reader
        self._source: Source | DraftReader | DraftEditedReader | ReadAhead = reader
        self._arrangement, self._setting, self._laid = arrangement, context, laid
        self.rate = reader.track.rate
        arranged = self._arrangement
        effects = effects_of(stages.colour, arranged)
        self._solo = solo
        self._plan = plan(effects, context, _dipped(effects, stages.colour, arranged, context))
        self.nodes: list[EffectNode] = []
        self._begin(0)
        stereo = bool(effects or arranged.dips or arranged.held or self._laid.late)
        self.channels = 2 if stereo else int(reader.track.sound.shape[0])
        self._filters()
        self.music_frames = reader.map.after_frames
        self.tail_frames = tail_frames(stages.colour, context, arranged)
        ends = [overlay.first + overlay.frames for overlay in self._laid.late]
        self.frames = max(
            [self.music_frames + self.tail_frames, *([] if isinstance(arranged.close.way, Fade) else ends)]
        )
        self.position = 0

    def _filters(self) -> None:
        """Fresh filters of moments."""
        arranged, source_channels = self._arrangement, int(self._reader.track.sound.shape[0])
        self._muffles = [TimedFilter(during, self.rate, source_channels) for during in arranged.muffles]
        own = [d for d in arranged.dips if isinstance(d.moment, ColourDip) and d.moment.colour in ("water", "phone")]
        self._dips = [TimedFilter(during, self.rate, self.channels) for during in own]
        self._filtered = [(d.start, d.stop) for d in (*arranged.muffles, *own)]

    def seek(self, frame: int, at_most_seconds: float = math.inf, *, draft: bool = False) -> None:
        """Make ``frame`` the next one to be read, warmed up by ``at_most_seconds`` of the music before it.

        draft : what has not been stretched yet is not waited for.
        """
        self.position = frame
        self._source = self._reader
        if draft:
            early = round((at_most_seconds + 1.0) * self.rate)
            self._source = self._reader.draft(max(0, frame - early), 2 * early)
            if self._source is not self._reader:
                at_most_seconds = min(at_most_seconds, UNSTRETCHED_SECONDS)
        self._filters()
        start = max(0, frame - round(min(self._warm_up(frame), at_most_seconds * self.rate)))
        self._begin(start)
        while start < frame:
            stop = min(frame, start + WARM_UP_BLOCK)
            self._with_effects(start, stop - start)
            start = stop

    def _warm_up(self, frame: int) -> float:
        """Length of the history that influences the sound at a place, frames."""
        early = round(WARM_UP_SECONDS * self.rate)
        within = any(start - early < frame < stop for start, stop in self._filtered)
        return max(sum(node.warm_up_frames for node in self.nodes), early if within else 0)

    def ready(self, frame: int, frames: int) -> bool:
        """Whether ``seek`` to a frame without a limit, and ``frames`` to be read from there, would not have to wait.

        Where they would, some of what is missing is made in the background.
        """
        start = max(0, frame - round(self._warm_up(frame)))
        ahead = sum(node.latency for node in self.nodes)
        needed = start, frame + frames + ahead - start
        if self._reader.has(*needed):
            return True
        self._reader.approach(*needed)
        return False

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``; fewer at the end of After, none beyond it."""
        frames = max(0, min(frames, self.frames - self.position))
        block = self._with_effects(self.position, frames)
        for overlay in self._laid.late:
            overlay.add_to(block, self.position)
        self._fade_out(block)
        self._fade_end(block)
        self.position += frames
        return block

    def read_ahead(self, pool: ThreadPoolExecutor) -> None:
        """Read the music on a thread of ``pool`` while effects work on what comes before; for reading all of it in order."""
        self._source = ReadAhead(self._reader.read, self.frames, pool)

    def read_stereo(self, frames: int) -> Audio:
        """Like :meth:`read`, in two channels, with silence beyond the end."""
        block = self.read(frames)
        out = np.zeros((2, frames), np.float32)
        out[:, : block.shape[1]] = block
        return out

    def _begin(self, start: int) -> None:
        """Fresh effects that begin at a frame."""
        if self.nodes and not any(node.begun for node in self.nodes):
            for node in self.nodes:
                node.begin(start)
            return
        alone, part = self._solo or (None, 0)
        self.nodes = [
            EffectNode(effect, self._setting, amount, gain, start, part if effect.id == alone else None)
            for effect, amount, gain in self._plan
        ]

    def _with_effects(self, start: int, frames: int) -> Audio:
        block = self._pulled(len(self.nodes), start, frames)
        for dip in self._dips:
            dip.process(block, start)
        for during in self._arrangement.gains:
            apply_gain(during, block, start, self.rate)
        return block

    def _pulled(self, count: int, start: int, frames: int) -> Audio:
        """The output of the first ``count`` effects, which read ahead by their latency."""
        if count == 0:
            return self._plain(start, frames)
        return self.nodes[count - 1].pull(lambda first, more: self._pulled(count - 1, first, more), frames)

    def _plain(self, start: int, frames: int) -> Audio:
        """The frames before any colour."""
        block = self._source.read(start, frames)
        for overlay in self._laid.early:
            overlay.add_to(block, start)
        for muffle in self._muffles:
            muffle.process(block, start)
        return np.repeat(block, 2, axis=0) if block.shape[0] < self.channels else block

    def _fade_out(self, block: Audio) -> None:
        """The fade of an ending, over the whole sound."""
        close = self._arrangement.close
        if isinstance(close.way, Fade) and self.position + block.shape[1] > close.at:
            at = np.arange(self.position, self.position + block.shape[1], dtype=np.float64)
            block *= ease_down((at - close.at) / max(1, close.length), close.way.tension).astype(np.float32)

    def _fade_end(self, block: Audio) -> None:
        """Bring the very end of a tail, by then 70 dB down, to nothing."""
        fade = min(self.tail_frames, round(END_FADE_SECONDS * self.rate))
        first = self.frames - fade - self.position
        if fade and first < block.shape[1]:
            at = np.arange(max(0, first), block.shape[1])
            block[:, at] *= ((self.frames - self.position - at) / fade).astype(np.float32)


def _dipped(
    effects: tuple[AnyEffect, ...], colour: v.Colour, arranged: Arrangement, context: EffectContext
) -> dict[str, Automation]:
    """The amounts of effects that moments move, by their ids: the version's hall, and the effects of moments."""
    ranges = {
        during.moment.effect_in_chain.id: _within(during)
        for during in arranged.dips
        if isinstance(during.moment, EffectRange)
    }
    dips = [during for during in arranged.dips if on_version_hall(during.moment)]
    hall = next((effect for effect in effects if isinstance(effect, Hall)), None)
    if not dips or hall is None:
        return ranges
    own = amount_of(hall, context.clock) if hall in colour.heard else Automation(0.0)
    return ranges | {hall.id: Automation(lambda frames: _moved(own.at_places(frames), dips, frames))}


def _within(during: PlacedMoment) -> Automation:
    """The amount of a moment's effect."""
    return Automation(lambda frames: amounts(during, frames))


def _moved(own: Floats, dips: list[PlacedMoment], frames: Floats) -> Floats:
    """An amount on its way to that of moments and back."""
    amount = own.copy()
    for during in dips:
        assert isinstance(during.moment, ColourDip)
        full = during.moment.amount_percent / 100.0
        way = amounts(during, frames) / full if full > 0.0 else amounts(during, frames)
        amount += way * (full - own)
    return np.clip(amount, 0.0, 1.0)

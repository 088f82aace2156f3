"""Tail lengths of a version, computed without rendering it."""

import dataclasses

import numpy as np
from msgspec.structs import replace

from latespin.dsp.reverb.hall_design import TAIL_DB, HallSettings, fall_frames
from latespin.model.arranging.arrangement import Arrangement, PlacedMoment
from latespin.model.arranging.placement import ResolvedEnding
from latespin.model.effects.effects import AnyEffect, Hall
from latespin.model.moments.endings import EchoEnd, Fade, RingOut
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.held import HeldEffect
from latespin.model.moments.moments import DropIn, SendMoment, Throw
from latespin.model.version import Colour, Stages
from latespin.render.effects.context import EffectContext
from latespin.render.effects.registry import tail_of
from latespin.render.playing.held_sound import held_tail

ECHO_FALL_DB, LONGEST_ECHO_SECONDS = 60.0, 30.0
ROOM_SIZE, ROOM_TONE_HZ, ROOM_PRE_DELAY, DIP_DECAY_SECONDS = 0.6, 6_000.0, 0.015, 3.0


def effects_of(colour: Colour, arrangement: Arrangement) -> tuple[AnyEffect, ...]:
    """The effects to build, in order: those that are heard, the hall that moments open, and those of moments."""
    ranges = [d.moment.effect_in_chain for d in arrangement.dips if isinstance(d.moment, EffectRange)]
    return (*_ringing(colour, arrangement), *ranges)


def _ringing(colour: Colour, arrangement: Arrangement) -> tuple[AnyEffect, ...]:
    """Those that may ring on after the music; those of moments fade out within their ranges."""
    heard = colour.heard
    if not any(on_version_hall(d.moment) for d in arrangement.dips) or any(isinstance(e, Hall) for e in heard):
        return heard
    hall = colour.hall or Hall(id="hall")
    return (*heard, replace(hall, on=True, lanes=()))


def tail_frames(colour: Colour, context: EffectContext, arrangement: Arrangement) -> int:
    """Tail of the Effects stage after the music, frames; 0 after a fade."""
    if isinstance(arrangement.close.way, Fade):
        return 0
    return tail_of(_ringing(colour, arrangement), context)


def on_version_hall(moment: object) -> bool:
    """Whether a moment moves the amount of the Effects stage's hall."""
    return isinstance(moment, ColourDip) and moment.colour == "version-hall"


def tail_after(stages: Stages, arrangement: Arrangement, context: EffectContext) -> int:
    """Frames from the end of the music to the end of the sound."""
    if isinstance(arrangement.close.way, Fade):
        return 0
    music, rate = arrangement.song.after_frames, context.rate
    ends = [
        music + tail_frames(stages.colour, context, arrangement),
        ending_tail(arrangement.close, rate) + arrangement.close.at,
    ]
    sends = [sent for during in arrangement.sounds if (sent := send_of(during)) is not None]
    ends += [throw_end(during, rate) for during in (*arrangement.throws, *sends)]
    own = [d for d in arrangement.dips if isinstance(d.moment, ColourDip) and d.moment.colour == "hall"]
    ends += [during.stop + fall_frames(rate, dip_hall(), TAIL_DB) for during in own]
    ends += [d.stop + held_tail(d.moment, context) for d in arrangement.held if isinstance(d.moment, HeldEffect)]
    return max(0, max(ends) - music)


def ending_tail(close: ResolvedEnding, rate: int) -> int:
    """Frames that an ending adds after the place it ends at, its own room or repeats."""
    way = close.way
    if isinstance(way, RingOut):
        return ring_out_frames(way, rate)
    return close.length if isinstance(way, EchoEnd) else 0


def send_of(during: PlacedMoment) -> PlacedMoment | None:
    """The throw of a dropped-in sound into its own echo or hall; None without one."""
    drop = during.moment
    assert isinstance(drop, DropIn)
    if drop.send == "none":
        return None
    sent = {name: getattr(drop, name) for name in SendMoment.__struct_fields__}
    return dataclasses.replace(during, moment=Throw(into=drop.send, **sent))


def throw_end(during: PlacedMoment, rate: int) -> int:
    """The frame at which a throw has died away."""
    moment = during.moment
    assert isinstance(moment, Throw)
    if moment.into == "echo":
        return during.stop + during.delay + echo_frames(moment, during.delay, rate)
    return during.stop + fall_frames(rate, throw_hall(moment), TAIL_DB)


def echo_frames(moment: Throw, delay: int, rate: int) -> int:
    """Tail of an echo after its first repeat, frames."""
    feedback = moment.feedback_percent / 100.0
    rounds = 1 if feedback <= 0.001 else 1 + int(np.ceil(ECHO_FALL_DB / (-20.0 * np.log10(feedback))))
    return min(rounds * delay, round(LONGEST_ECHO_SECONDS * rate))


def ring_out_frames(way: RingOut, rate: int) -> int:
    """The tail of a ring-out after the stop, frames."""
    if way.tail == "length":
        return round(way.tail_seconds * rate)
    return fall_frames(rate, ring_out_hall(way), TAIL_DB)


def ring_out_hall(way: RingOut) -> HallSettings:
    """The room of a ring-out."""
    return HallSettings(way.decay_seconds, way.size_percent / 100.0, 0.0, way.tone_hz, 1.0, 1.0)


def throw_hall(moment: Throw) -> HallSettings:
    """The room a throw goes into."""
    return HallSettings(moment.decay_seconds, ROOM_SIZE, ROOM_PRE_DELAY, ROOM_TONE_HZ, 1.0, 1.0)


def dip_hall() -> HallSettings:
    """The room of a effect dip."""
    return HallSettings(DIP_DECAY_SECONDS, ROOM_SIZE, ROOM_PRE_DELAY, ROOM_TONE_HZ, 1.0, 1.0)

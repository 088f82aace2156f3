"""A take as MIDI messages, as the control surface of a map would have sent them."""

import mido
import numpy as np
from msgspec.structs import replace

from latespin.model.effects.effects import AnyEffect
from latespin.model.moments.held import Held, HeldRepeat
from latespin.model.moments.takes import Ride
from latespin.model.playing.surface_map import EffectTarget, Pad, Source, SurfaceMap
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.context import SHORTEST_SECONDS, control_of
from latespin.render.playing.live_controls import SPARE_SECONDS

STEP_SECONDS, VELOCITY = 0.02, 100
AHEAD_SECONDS = SHORTEST_SECONDS + SPARE_SECONDS  # from the turn of a knob until its control is there

Timed = tuple[float, mido.Message]


def messages_of(stages: Stages, readers: TrackRenderer, surface: SurfaceMap, take: str) -> tuple[list[Timed], int]:
    """The messages by seconds of After, and how many moves and knobs of the take no pad or knob of the map can play."""
    found: list[Timed] = []
    missing = 0
    arranged = readers.arrangement(stages)
    for placed in arranged.held:
        if isinstance(placed.moment, Held) and placed.moment.take == take:
            pad = next((pad for pad in surface.pads if pad.source is not None and _plays(pad, placed.moment)), None)
            if pad is None or pad.source is None:
                missing += 1
                continue
            found.append((placed.start / readers.track.rate, _pressing(pad.source, VELOCITY)))
            found.append((placed.stop / readers.track.rate, _pressing(pad.source, 0)))
    rides = next((known.rides for known in stages.moments.takes if known.id == take), ())
    for ride in rides:
        turned = _turned(ride, stages, readers, surface)
        missing += not turned
        found += turned
    return sorted(found, key=lambda timed: timed[0]), missing


def _plays(pad: Pad, moment: Held) -> bool:
    """Whether a pad plays a move, wherever it stands."""
    if type(moment) is not type(pad.move):
        return False
    nowhere = {"id": "", "take": "", "label": "", "on": True, "start": Position(beat=0.0), "end": Position(beat=1.0)}
    back = {"back": 1.0} if isinstance(moment, HeldRepeat) else {}
    return bool(replace(moment, **nowhere, **back) == replace(pad.move, **nowhere, **back))


def _pressing(source: Source, velocity: int) -> mido.Message:
    channel = (source.channel or 1) - 1
    if source.kind == "note":
        return mido.Message("note_on", note=source.number, velocity=velocity, channel=channel)
    return mido.Message("control_change", control=source.number, value=127 if velocity else 0, channel=channel)


def _turned(ride: Ride, stages: Stages, readers: TrackRenderer, surface: SurfaceMap) -> list[Timed]:
    """The messages of a knob; none where no knob of the map turns that."""
    effect, effects = stages.colour.find(ride.effect), stages.colour.effects
    source = next((knob.source for knob in surface.knobs if knob.source is not None and isinstance(knob.target, EffectTarget)
                   and knob.target.find(effects) is effect and knob.target.field == ride.field), None)  # fmt: skip
    if effect is None or source is None or source.kind == "relative":
        return []
    return _sampled(ride, effect, readers, stages, source)


def _sampled(ride: Ride, effect: AnyEffect, readers: TrackRenderer, stages: Stages, source: Source) -> list[Timed]:
    clock, made = readers.context(stages).clock, readers.arrangement(stages).map
    rate, parameter = readers.track.rate, parameters_of(type(effect))[ride.field]
    start, end = (made.after_at(at.seconds_or_even(readers.grid) * rate) for at in (ride.start, ride.end))
    frames = np.arange(start, end + STEP_SECONDS * rate, STEP_SECONDS * rate)
    heard_later = np.where(frames > start, frames + AHEAD_SECONDS * rate, start)
    values = control_of(effect, ride.field, clock).at_places(np.minimum(heard_later, end))
    found: list[Timed] = []
    last: list[mido.Message] = []
    for frame, value in zip(frames.tolist(), values.tolist(), strict=True):
        messages = _turning(source, parameter.to_fraction(value))
        if messages != last:
            found += [(frame / rate, message) for message in messages]
            last = messages
    return found


def _turning(source: Source, share: float) -> list[mido.Message]:
    channel = (source.channel or 1) - 1
    if source.kind == "pitch-bend":
        return [mido.Message("pitchwheel", pitch=round(share * 16383) - 8192, channel=channel)]
    if source.kind == "control-14":
        coarse, fine = divmod(round(share * 16383), 128)
        pairs = ((source.number, coarse), (source.number + 32, fine))
    else:
        pairs = ((source.number, round(share * 127)),)  # type: ignore[assignment]
    return [mido.Message("control_change", control=number, value=value, channel=channel) for number, value in pairs]

"""The curve of a moment over its length, for drawing: speed, pitch or amount as heard."""

import numpy as np

from latespin.dsp.arrays import Floats
from latespin.dsp.timing.speed_by_time import ease_down, slowing
from latespin.model.moments.faded_effects import ColourDip, EffectRange
from latespin.model.moments.moments import (
    AnyMoment,
    Cover,
    Dip,
    DropIn,
    GainChange,
    PitchGlide,
    Ramp,
    Reverse,
    SpinUp,
    StuckRecord,
    Stutter,
    TapeStop,
)
from latespin.model.values.note_values import beats_of

POINTS = 65


def speeds_of(moment: AnyMoment, x: Floats) -> Floats | None:
    """Relative speed at shares of the moment's length, 1 being the version's speed; None for kinds that do not change the speed."""
    if isinstance(moment, TapeStop):
        return _stop_speeds(moment, x)
    if isinstance(moment, SpinUp):
        return slowing(1.0 - x, moment.tension)
    if isinstance(moment, Dip):
        return _dip_speeds(moment, x)
    if isinstance(moment, Ramp):
        return np.asarray(moment.speed + (1.0 - moment.speed) * ease_down(x, moment.tension))
    return None


def _stop_speeds(moment: TapeStop, x: Floats) -> Floats:
    share = moment.second_percent / 100.0 if moment.two_stages else 0.0
    up = moment.spins_up
    lasts = (1.0 - up) * (1.0 - moment.gap_percent / 100.0)
    fall = slowing(np.minimum(1.0, x / lasts), moment.tension, moment.depth_percent / 100.0, share)
    stopped = np.where(x <= lasts, fall, 0.0)
    if up == 0.0:
        return stopped
    return np.where(x < 1.0 - up, stopped, slowing(np.clip((1.0 - x) / up, 0.0, 1.0), moment.tension))


def _dip_speeds(moment: Dip, x: Floats) -> Floats:
    depth, held = moment.depth_percent / 100.0, moment.hold_percent / 100.0
    down = moment.lowest_percent / 100.0 * (1.0 - held)
    back = 1.0 - held - down
    there = slowing(np.minimum(1.0, x / down), moment.tension, depth)
    return np.where(x < down + held, there, slowing(np.minimum(1.0, (1.0 - x) / back), moment.tension_back, depth))


def gain_height(gains_db: Floats, widest_db: float = 12.0) -> Floats:
    """Heights 0 to 1 of gains: the middle is 0 dB, the top and the bottom are ``widest_db`` away from it."""
    return np.clip(0.5 + gains_db / (2.0 * widest_db), 0.02, 1.0)


def glide_of(moment: PitchGlide, x: Floats) -> Floats:
    """The pitch glide so far, semitones."""
    way = np.minimum(1.0, 2.0 * np.minimum(x, 1.0 - x)) if moment.back else x
    return np.asarray(moment.semitones * (1.0 - ease_down(way, moment.tension)))


def dip_of(moment: ColourDip | EffectRange, x: Floats) -> Floats:
    """Weight of an effect at a place, 0 to 1."""
    attack, release = moment.attack_percent / 100.0, moment.release_percent / 100.0
    shrink = max(1.0, attack + release)
    come = 1.0 - ease_down(x / max(1e-9, attack / shrink), moment.tension)
    go = 1.0 - ease_down((1.0 - x) / max(1e-9, release / shrink), moment.tension)
    inside = (x >= 0.0) & (x < 1.0)
    return np.asarray(moment.amount_percent / 100.0 * np.where(inside, np.minimum(come, go), 0.0))


def gain_shape(at: Floats, length: float, fade_in: float, fade_out: float) -> Floats:
    """Share of a gain in dB, 0 to 1, ``at`` from the start of its range; all three in the same unit."""
    come, go = at / max(1e-9, fade_in), (length - at) / max(1e-9, fade_out)
    return np.asarray(np.clip(np.minimum(come, go), 0.0, 1.0))


def gain_of(moment: GainChange, x: Floats, beats: float, seconds: float) -> Floats:
    """Gain in dB at shares of the moment's length, which is ``beats`` and ``seconds`` of the version."""
    fades = [beats_of(value) for value in (moment.fade_in_value, moment.fade_out_value)]
    if moment.free:
        beats, fades = seconds, [ms / 1000.0 for ms in (moment.fade_in_ms, moment.fade_out_ms)]
    shrink = min(1.0, beats / max(1e-9, sum(fades)))
    return np.asarray(moment.gain_db * gain_shape(x * beats, beats, shrink * fades[0], shrink * fades[1]))


def outline(moment: AnyMoment, beats: float, seconds: float) -> Floats:
    """Heights from 0 to 1 over the length of a moment, in beats and in seconds of After, for its shape on a waveform."""
    x = np.linspace(0.0, 1.0, POINTS)
    speeds = speeds_of(moment, x)
    if speeds is not None:
        return speeds / max(1.0, float(speeds.max()))
    if isinstance(moment, PitchGlide):
        return np.clip(0.5 + glide_of(moment, x) / 24.0, 0.02, 1.0)
    if isinstance(moment, ColourDip | EffectRange):
        return 1.0 - 0.9 * dip_of(moment, x)
    if isinstance(moment, GainChange):
        return gain_height(gain_of(moment, x, beats, seconds))
    if isinstance(moment, StuckRecord):
        return 1.0 - 0.75 * ((x * seconds / moment.turn_seconds) % 1.0)
    if isinstance(moment, Stutter):
        return _teeth(moment.values, beats, moment.free, x)
    if isinstance(moment, Cover) and moment.way == "repeat":
        return _teeth((moment.value,), beats, False, x)
    if isinstance(moment, Reverse) or (isinstance(moment, Cover) and moment.way == "reverse"):
        return 0.15 + 0.85 * x
    if isinstance(moment, Cover):
        return np.full(POINTS, 0.08 if moment.way == "silence" else 0.3)
    return np.full(POINTS, 0.5 if isinstance(moment, DropIn) else 0.65)


def _teeth(values: tuple[str, ...], beats: float, free: bool, x: Floats) -> Floats:
    """A falling tooth for each repeat; free repeats as far as they can be told apart."""
    which = np.minimum((x * len(values)).astype(int), len(values) - 1)
    share = beats / len(values)
    repeats = np.array([min(24.0, share / beats_of(value)) if not free else 24.0 for value in values])[which]
    within = (x * len(values) - which) * repeats
    return np.asarray(1.0 - 0.75 * (within % 1.0))


def bendable_tension(moment: AnyMoment) -> float | None:
    """The tension of a moment whose outline falls from its start, or rises to its end, as the curve does; None for others."""
    falls = isinstance(moment, TapeStop | SpinUp) or (isinstance(moment, Ramp) and moment.speed < 1.0)
    if falls or (isinstance(moment, PitchGlide) and moment.semitones < 0.0 and not moment.back):
        return moment.tension  # type: ignore[union-attr]
    return None

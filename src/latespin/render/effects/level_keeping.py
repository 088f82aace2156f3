"""The gain that keeps the loudness across an effect, predicted from the song's profile."""

from collections.abc import Callable

import numpy as np

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Floats
from latespin.dsp.control.automation import Automation
from latespin.model.effects.effects import AnyEffect
from latespin.render.effects.context import AutomatedEffect, EffectContext
from latespin.render.effects.factory import factory_of

Predict = Callable[[AnyEffect, float], Profile]
KEPT_AT, KEPT_AT_MOVING = (0.0, 0.1, 0.25, 0.5, 0.75, 1.0), (0.0, 0.25, 0.5, 1.0)
COARSE, FINE, OF_WHOLE_RANGE, SAME_DB = (
    3,
    9,
    17,
    0.3,
)  # values of a control at which the gain is worked out; FINE where it differs by more


def kept_level(
    effect: AnyEffect, context: EffectContext, before: Profile, amount: Automation
) -> tuple[Automation, Profile]:
    """The gain that keeps the loudness before an effect, by its amount; and the song's profile after it."""
    moving = AutomatedEffect(effect, context.clock)
    places = np.linspace(0.0, float(max(1, context.frames)), 64)
    turned = any(lane.played and lane.field == "amount_percent" for lane in effect.lanes)
    usually = amount.steady if amount.steady is not None else float(np.mean(amount.at_places(places)))
    often = effect.amount_percent / 100.0 if turned else usually
    known: dict[tuple[AnyEffect, float], Profile] = {}

    def predict(values: AnyEffect, at: float) -> Profile:
        """The profile after the effect with some values, worked out once."""
        if (values, at) not in known:
            known[values, at] = factory_of(effect).predict_profile(values, context, before, at)
        return known[values, at]

    gain = _kept_gain(effect, context, before, amount, moving, predict)
    after = predict(moving.usual(context.frames), often)
    kept = (
        gain.steady if gain.steady is not None else np.sqrt(before.power / after.power) if effect.keeps_level else 1.0
    )
    return gain, after.through(kept * kept)


def _kept_gain(
    effect: AnyEffect,
    context: EffectContext,
    before: Profile,
    amount: Automation,
    moving: AutomatedEffect,
    predict: Predict,
) -> Automation:
    """The gain over the song: by its amount, and by what else of it moves."""
    if not effect.keeps_level:
        return Automation(1.0)
    few = KEPT_AT if moving.steady else KEPT_AT_MOVING
    amounts = np.unique([amount.steady] if amount.steady is not None else [*few, effect.amount_percent / 100.0])

    def gains_of(values: AnyEffect) -> Floats:
        after = [predict(values, at) for at in amounts.tolist()]
        gains = np.array([np.sqrt(before.power / predict_profile.power) for predict_profile in after])
        return np.where(amounts == 0.0, 1.0, gains)

    sole = moving.sole()
    if moving.steady or (moving.played and sole is None):
        gains = gains_of(effect)
        return amount.through(lambda a: np.interp(a, amounts, gains))
    if sole is None:
        places, values = moving.along(context.frames)
        worked_out = {id(each): gains_of(each) for each in {id(each): each for each in values}.values()}
        table = np.array([worked_out[id(each)] for each in values]).T
        return Automation(lambda frames: _between(table, places, amounts, frames, amount.at_places(frames)))
    scale, values = sole.between_extremes(COARSE)
    table = np.array([gains_of(each) for each in values]).T
    if float(np.ptp(np.log10(table), axis=1).max()) * 20.0 > SAME_DB:  # else it has next to no say in the level
        scale, values = sole.between_extremes(OF_WHOLE_RANGE if moving.played else FINE)
        table = np.array([gains_of(each) for each in values]).T
    return Automation(lambda frames: _between(table, scale, amounts, sole.scaled(frames), amount.at_places(frames)))


def _between(table: Floats, places: Floats, amounts: Floats, at: Floats, heard: Floats) -> Floats:
    """Values of a table ``[amounts, places]`` at places and amounts, straight between its own."""
    rows = np.array([np.interp(at, places, row) for row in table])
    if len(amounts) == 1:
        return np.asarray(rows[0])
    low = np.clip(np.searchsorted(amounts, heard, "right") - 1, 0, len(amounts) - 2)
    share = (heard - amounts[low]) / (amounts[low + 1] - amounts[low])
    which = np.arange(len(at))
    return np.asarray(rows[low, which] + share * (rows[low + 1, which] - rows[low, which]))

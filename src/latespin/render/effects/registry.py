"""A version's effects with what keeps their level, and how long they ring on."""

from latespin.dsp.control.automation import Automation
from latespin.model.effects.effects import AnyEffect
from latespin.render.effects.context import AutomatedEffect, EffectContext, amount_of
from latespin.render.effects.factory import factory_of
from latespin.render.effects.level_keeping import kept_level


def plan(
    effects: tuple[AnyEffect, ...], context: EffectContext, amounts: dict[str, Automation] | None = None
) -> list[tuple[AnyEffect, Automation, Automation]]:
    """Each effect with its amount and the gain that keeps the level, in order."""
    if not effects:
        return []  # the profile is not worked out for nothing
    profile, found = context.profile, []
    for effect in effects:
        given = (amounts or {}).get(effect.id)
        amount = given or amount_of(effect, context.clock)
        kept = context.kept_levels.get(effect)
        if given is not None or kept is None or kept[0] is not profile:
            kept = profile, *kept_level(effect, context, profile, amount)
            if given is None:
                context.keep_level(effect, kept)
        _, kept_gain, profile = kept
        found.append((effect, amount, kept_gain))
    return found


def tail_of(effects: tuple[AnyEffect, ...], context: EffectContext) -> int:
    """Combined tail of effects in series, frames."""
    return sum(factory_of(effect).tail(AutomatedEffect(effect, context.clock).largest(), context) for effect in effects)

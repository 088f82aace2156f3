"""Several moments changed as one: each takes of a change what it has."""

from collections.abc import Sequence

from msgspec.structs import fields, replace

from latespin.model.moments.moments import AnyMoment, EffectMoment
from latespin.model.moments.moving import nudged
from latespin.model.timing.beat_grid import Grid


def with_field(moments: Sequence[AnyMoment], lead: AnyMoment, field: str, value: object) -> list[AnyMoment]:
    """Those that have a field, with it changed; of an effect of a range only what differs from that of ``lead``, where it is of the same kind.

    Raises what making a moment raises.
    """
    changed: list[AnyMoment] = []
    for moment in moments:
        if isinstance(moment, EffectMoment) and isinstance(lead, EffectMoment) and field == "effect":
            if type(moment.effect) is type(lead.effect):
                changed.append(_with_effect(moment, lead, value))
        elif field in moment.__struct_fields__:
            changed.append(replace(moment, **{field: value}))
    return changed


def _with_effect(moment: EffectMoment, lead: EffectMoment, effect: object) -> EffectMoment:
    if type(effect) is not type(lead.effect):
        return replace(moment, effect=effect)
    differ = {
        f.name: new for f in fields(lead.effect) if (new := getattr(effect, f.name)) != getattr(lead.effect, f.name)
    }
    return replace(moment, effect=replace(moment.effect, **differ))


def moved_along(moments: Sequence[AnyMoment], lead: AnyMoment, moved: AnyMoment, grid: Grid | None) -> list[AnyMoment]:
    """All moved as far as ``lead`` is: in beats where both its places are on beats, else in seconds."""
    beats = moved.start.beat - lead.start.beat if moved.start.beat is not None and lead.start.beat is not None else 0.0
    seconds = 0.0 if beats else moved.start.at(grid) - lead.start.at(grid)
    return [
        moved
        if moment.id == lead.id
        else nudged(moment, grid, beats=beats, seconds=seconds)
        if beats or seconds
        else moment
        for moment in moments
    ]

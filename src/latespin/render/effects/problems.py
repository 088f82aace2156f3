"""Problems of a version's effects; the rest of the version is heard all the same."""

from latespin.language import tr
from latespin.model.arranging.arrangement import Arrangement
from latespin.model.arranging.placement import Problem
from latespin.model.effects.automation import LanePoint
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import AnyEffect, Echo, Spin
from latespin.model.timing.positions import BEATLESS_BPM, say_place
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Stages
from latespin.render.effects.context import EffectContext, lane_shape
from latespin.render.effects.sound_files import faulty_sounds, missing_sounds


def goes_by_beats(effect: AnyEffect) -> bool:
    """True if an effect sounds different when the beats move."""
    placed = any(point.at.beat is not None for lane in effect.lanes for point in lane.points)
    return placed or isinstance(effect, Echo) or (isinstance(effect, Spin) and effect.by == "bars")


def version_problems(stages: Stages, arrangement: Arrangement, context: EffectContext) -> tuple[Problem, ...]:
    """Everything that a version asks for and does not get, its level apart."""
    says = tr("Stutter: there are hardly any drums here to repeat. Repeat the whole song instead.")
    unclear = [Problem(m.id, says, left_out=False) for m in stages.moments.heard if m in context.unclear_drums]
    return (*arrangement.problems, *colour_problems(stages, context), *unclear)


def colour_problems(stages: Stages, context: EffectContext) -> tuple[Problem, ...]:
    """Files that are missing or unusable, points that cannot be placed, bars where there are none."""
    found = [*missing_sounds(stages), *faulty_sounds(stages, context.sounds)]
    for ident, effect in stages.heard_effects:
        title = tr(effect_title(effect))
        if context.clock.grid is None and goes_by_beats(effect):
            says = tr(
                "{0}: this song has no bars, so beats of {1:g} BPM from its start are used. Tap its tempo to change that."
            )
            found.append(Problem(ident, says.format(title, BEATLESS_BPM), left_out=False))
        for lane in effect.lanes:
            left = lane_shape(effect, lane, context.clock)[1]
            if left:
                label = tr(parameters_of(type(effect))[lane.field].label)
                found.append(Problem(ident, f"{title}, {label}: {_named(left, context)}", left_out=False))
    return tuple(found)


def _named(points: list[LanePoint], context: EffectContext) -> str:
    """The points left out, with reasons."""
    grid = context.clock.grid
    places = ", ".join(say_place(point.at, grid) for point in points[:3]) + (" …" if len(points) > 3 else "")
    says = tr(
        "the point at {0} is left out: it lies before the one before it, or past the song’s end. Put the points in order."
    )
    return says.format(places)

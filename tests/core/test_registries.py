"""Every declared effect, moment, ending, command-line option and term: nothing is forgotten, nothing is declared twice."""

from functools import cache
from itertools import pairwise
from typing import get_args, get_type_hints

import click
import msgspec
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.cli.main import all_commands
from latespin.cli.options import parameter_option
from latespin.model.arranging.time_edits import changes_time
from latespin.model.documents.documents import Session, read_session, to_json
from latespin.model.effects.declaration import EFFECTS, GROUPS, Effect, effect_info
from latespin.model.effects.effects import AnyEffect, Eq
from latespin.model.moments.declaration import MOMENTS, moment_info
from latespin.model.moments.endings import ENDINGS, AnyEnding, ending_info
from latespin.model.moments.moments import AnyMoment, Cover, Moments, bends_time
from latespin.model.timing.positions import Position
from latespin.model.values.kinds import Kinds, kind_of
from latespin.model.values.parameters import Parameter, parameters_of
from latespin.model.values.words import label_of, words_of
from latespin.model.version import Colour, Level, Stages, Time, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import factory_of, processor_for
from latespin.render.effects.registry import plan
from tests.core.test_effects import GRID, music, stages, track_of

SETTINGS = {"id", "on", "keep_level", "lanes", "path"}  # of every effect, or not in its form
PLACED = {"id", "on", "label", "start", "end", "at", "path", "take", "points"}
EFFECT = pytest.mark.parametrize("kind", EFFECTS)
FIELD_LISTS = (
    [
        (kind, EFFECTS[kind], (*effect_info(kind).main, *effect_info(kind).more), SETTINGS | {"amount_percent"})
        for kind in EFFECTS
    ]
    + [
        (
            kind,
            MOMENTS[kind],
            moment_info(kind).fields,
            PLACED | ({"effect"} if kind in ("effect", "held-effect") else set()),
        )
        for kind in MOMENTS
    ]
    + [(f"ending {kind}", ENDINGS[kind], ending_info(kind).fields, PLACED) for kind in ENDINGS]
)


def test_the_unions_hold_every_declared_kind():
    assert set(get_args(AnyEffect)) == set(EFFECTS.values())
    assert set(get_args(AnyMoment)) == set(MOMENTS.values())
    assert set(get_args(AnyEnding)) == set(ENDINGS.values())


@pytest.mark.parametrize(("name", "kind", "fields", "elsewhere"), FIELD_LISTS, ids=[row[0] for row in FIELD_LISTS])
def test_each_field_is_in_its_form_once_and_has_words(name, kind, fields, elsewhere):
    assert len(set(fields)) == len(fields)
    assert set(fields) == {field.name for field in msgspec.structs.fields(kind)} - elsewhere
    parameters, words = parameters_of(kind), words_of(kind)
    for field in fields:
        assert (field in parameters) != (field in words), f"{field} is a number or has words"
        label = label_of(kind, field)
        sentence = parameters[field].sentence if field in parameters else words[field].sentence
        assert label == label.strip()
        assert sentence.endswith(".")
        assert sentence != label
    for field in sorted(elsewhere - {"id", "lanes", "start", "end", "at", "take", "points", "amount_percent"}):
        assert label_of(kind, field), "it is set outside of the form, as a step of undo with a label"


@pytest.mark.parametrize(("name", "kind", "fields", "elsewhere"), FIELD_LISTS, ids=[row[0] for row in FIELD_LISTS])
def test_each_choice_has_its_word(name, kind, fields, elsewhere):
    hints = get_type_hints(kind, include_extras=True)
    for field, words in words_of(kind).items():
        values = get_args(get_args(hints[field])[0])
        if words.choices:
            assert set(words.choices) == set(values)
            assert len(set(words.choices.values())) == len(values), "two choices have the same word"


@EFFECT
def test_an_effect_is_titled_grouped_and_described(kind):
    info = effect_info(kind)
    assert info.group in GROUPS
    assert info.title
    assert info.summary.endswith((".", "…"))
    assert kind_of(EFFECTS[kind]()) == kind


@EFFECT
def test_an_effect_goes_through_a_file_with_every_field(kind):
    effect = _unusual(EFFECTS[kind])
    version = Version(id="v", name="v", stages=Stages(colour=Colour(effects=(effect,))))
    again = read_session(to_json(Session(versions=(version,))), "s").versions[0].stages.colour.effects[0]
    assert again == effect


@EFFECT
def test_an_effect_is_not_heard_at_amount_zero_or_switched_off(kind):
    silent = EFFECTS[kind](id="e", amount_percent=0.0)
    off = EFFECTS[kind](id="e", on=False)
    assert not silent.heard
    assert not off.heard
    assert EFFECTS[kind](id="e").heard
    assert Colour(effects=(silent, msgspec.structs.replace(off, id="f"))).heard == ()


@EFFECT
def test_the_kept_level_is_the_gain_between_the_predicted_loudnesses(kind):
    effect, context = EFFECTS[kind](id="e"), _context()
    ((_, amount, gain),) = plan((effect,), context)
    before = context.profile
    after = factory_of(effect).predict_profile(effect, context, before, amount.point(0))
    kept = 1.0 if effect.sets_level else float(np.sqrt(before.power / after.power))
    assert gain.point(0) == pytest.approx(kept, rel=1e-6)
    unkept = msgspec.structs.replace(effect, keep_level=False)
    assert plan((unkept,), context)[0][2].point(0) == 1.0


@EFFECT
def test_a_tail_is_a_number_of_frames(kind):
    effect = EFFECTS[kind](id="e")
    tail = factory_of(effect).tail(effect, _context())
    assert isinstance(tail, int)
    assert 0 <= tail < 60 * 44_100


def test_a_tag_is_declared_once_and_known_afterwards():
    kinds = Kinds[str]("snack")

    class Popcorn(msgspec.Struct, tag="popcorn"):
        pass

    assert kinds.declare("sold by the rink")(Popcorn) is Popcorn
    assert (kinds.by_tag, kinds.info("popcorn")) == ({"popcorn": Popcorn}, "sold by the rink")
    with pytest.raises(ValueError, match="the snack “popcorn” is declared twice"):
        kinds.declare("again")(Popcorn)
    with pytest.raises(KeyError):
        kinds.info("nachos")


def test_two_factories_for_one_effect_are_refused():
    class Another(Effect, frozen=True, kw_only=True, tag="another"):
        amount_percent: float = 50.0

    processor_for(Another)(type(factory_of(EFFECTS["hall"]())))
    with pytest.raises(ValueError, match="two factories"):
        processor_for(Another)(type(factory_of(EFFECTS["hall"]())))


@pytest.mark.parametrize("kind", MOMENTS)
def test_a_moment_is_titled_and_what_changes_the_time_is_laid(kind):
    info = moment_info(kind)
    assert info.title
    assert info.summary.endswith(".")
    assert info.beats > 0.0
    moment = MOMENTS[kind](start=Position(beat=0.0), end=Position(beat=info.beats))
    assert kind_of(moment) == kind
    assert changes_time(type(moment)) == (bends_time(moment) or isinstance(moment, Cover)), (
        "it has a function that lays it"
    )
    again = msgspec.convert(msgspec.to_builtins(Moments(placed=(moment,))), Moments)
    assert again.placed == (moment,)


@pytest.mark.parametrize("kind", ENDINGS)
def test_an_ending_is_titled_and_goes_through_a_file(kind):
    assert ending_info(kind).title
    assert ending_info(kind).summary.endswith(".")
    ending = ENDINGS[kind]()
    assert msgspec.convert(msgspec.to_builtins(ending), AnyEnding) == ending


PARAMETERS = [
    (f"{kind.__name__}.{name}", parameter)
    for kind in (Time, Level, *EFFECTS.values(), *MOMENTS.values(), *ENDINGS.values())
    for name, parameter in parameters_of(kind).items()
]


@pytest.mark.parametrize("parameter", [p for _, p in PARAMETERS], ids=[n for n, _ in PARAMETERS])
def test_a_parameter_is_consistent(parameter: Parameter):
    assert parameter.low <= parameter.default <= parameter.high
    assert not parameter.logarithmic or parameter.low > 0.0
    assert parameter.step > (1.0 if parameter.logarithmic else 0.0)
    fractions = [parameter.to_fraction(v) for v in (parameter.low, parameter.default, parameter.high)]
    assert fractions[0] == 0.0
    assert fractions[2] == pytest.approx(1.0)
    assert all(a <= b for a, b in pairwise(fractions))


@given(which=st.sampled_from(PARAMETERS), fraction=st.floats(0.0, 1.0))
def test_a_fraction_of_a_bar_gives_a_value_within_the_limits_that_gives_it_back(which, fraction):
    parameter = which[1]
    value = parameter.from_fraction(fraction)
    assert parameter.low <= value <= parameter.high
    assert abs(parameter.from_fraction(parameter.to_fraction(value)) - value) <= 10.0**-parameter.decimals


@pytest.mark.parametrize(
    "text",
    ["bench", "ribbon", "what of", "are taken away", "is said", "way round", "Give way", "Audition", "colour "],
)
def test_labels_and_sentences_use_the_words_of_the_trade(text):
    sentences = [p.sentence + p.label for _, p in PARAMETERS]
    sentences += [effect_info(kind).summary for kind in EFFECTS] + [moment_info(kind).summary for kind in MOMENTS]
    assert [s for s in sentences if text in s] == []


# -- the command line ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", all_commands())
def test_every_command_and_option_has_help(name):
    command = all_commands()[name]
    assert command.help or command.hidden
    for option in command.params:
        if isinstance(option, click.Option):
            assert option.help, f"{name} {option.opts[0]}"
            assert option.help.endswith((".", "}", ")")), option.help


def test_an_option_of_a_parameter_has_its_limits_and_its_sentence():
    @click.command()
    @parameter_option(Time, "semitones")
    @parameter_option(Level, "ceiling_dbtp", "--ceiling")
    def command(**_):
        """Nothing."""

    options = {option.opts[0]: option for option in command.params}
    for flag, parameter, unit in (
        ("--semitones", parameters_of(Time)["semitones"], "semitones"),
        ("--ceiling", parameters_of(Level)["ceiling_dbtp"], "dBTP"),
    ):
        assert isinstance(options[flag].type, click.FloatRange)
        assert (options[flag].type.min, options[flag].type.max) == (parameter.low, parameter.high)
        assert options[flag].help == f"{parameter.sentence} In {unit}."


@cache
def _context() -> EffectContext:
    """What effects are made in, on six seconds of noise with the spectrum of music."""
    return TrackRenderer(track_of(music()), GRID).context(stages(Eq(id="e")))


def _unusual(kind: type[Effect]) -> Effect:
    """An effect none of whose fields has its default."""
    values = {}
    for field in msgspec.structs.fields(kind):
        if field.name in parameters_of(kind):
            parameter = parameters_of(kind)[field.name]
            values[field.name] = parameter.low if parameter.default != parameter.low else parameter.high
        elif field.default is True or field.default is False:
            values[field.name] = not field.default
        elif field.name in words_of(kind) and words_of(kind)[field.name].choices:
            values[field.name] = [c for c in words_of(kind)[field.name].choices if c != field.default][-1]
    return kind(
        **{**values, "id": "unusual", "path": "a.wav"} if "path" in kind.__struct_fields__ else {**values, "id": "u"}
    )

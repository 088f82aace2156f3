"""Versions in words: cards, titles and stage sentences say what is heard and nothing else."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.effects.effects import Eq, Hall, Layer, SmallSpeaker, Spin, Vinyl
from latespin.model.moments.declaration import MOMENTS, moment_title
from latespin.model.moments.endings import ENDINGS, CleanStop, Ending, Fade, NoEnding, RingOut, ending_info
from latespin.model.moments.moments import Moments, Stutter, TapeStop
from latespin.model.text.describe import (
    AS_IT_WAS,
    MOST_COLOURS,
    OFF,
    say_colour,
    say_effect,
    say_ending,
    say_level,
    say_moments,
    say_time,
    say_version,
    shift_text,
    speed_text,
    title_suffix,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Length, Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.tone_match import Match
from latespin.model.version import UNTOUCHED, Colour, Level, Stages, Time

NBSP = "\N{NO-BREAK SPACE}"
SONG = Layout(180 * 44_100, 44_100, Grid(bpm=120.0))


@pytest.mark.parametrize(
    ("time", "said"),
    [
        (Time(), AS_IT_WAS), (Time(on=False, speed=0.5), OFF), (Time(speed=0.85), "0.85× · −2.8 st, linked"),
        (Time(speed=0.85, pitch="held"), "0.85× · pitch held"), (Time(semitones=-3.0, pitch="held"), "1.00× · −3.0 st, transposed"),
        (Time(speed=0.8, semitones=3.86314), "0.80× · pitch held"), (Time(halftime="song"), "halftime · −12.0 st, linked"),
        (Time(speed=0.9, formants="kept"), "0.90× · −1.8 st, linked · formants kept"),
        (Time(speed=0.5, pitch="held", character="voice"), "0.50× · pitch held · voice"),
        (Time(curve=(CurvePoint(place=0.0, speed=0.9), CurvePoint(place=1.0, speed=1.1)), pitch="held"), "0.90× → 1.10× · pitch held"),
    ],
)  # fmt: skip
def test_the_time_stage(time: Time, said: str) -> None:
    if time.halftime == "song":
        assert say_time(time).startswith("halftime")
        counted = say_time(time, Grid(bpm=92.0))
        assert "92 BPM felt as 46" in counted
        assert "74 BPM felt as 37" in say_time(replace(time, speed=0.8), Grid(bpm=92.0))
    else:
        assert say_time(time).replace(NBSP, " ") == said


@given(speed=st.floats(0.03, 4.0))
def test_a_speed_is_said_to_half_a_thousandth(speed: float) -> None:
    said = speed_text(speed)
    assert said.endswith("×")
    assert float(said[:-1]) == pytest.approx(speed, abs=5.1e-4)
    assert len(said[:-1].split(".")[1]) >= 2


@given(semitones=st.floats(-24.0, 24.0), decimals=st.integers(0, 2))
def test_a_shift_is_said_with_its_sign(semitones: float, decimals: int) -> None:
    said = shift_text(Time(pitch="held", semitones=semitones), decimals).replace(NBSP, " ")
    number = float(said.split()[0].replace("−", "-"))
    assert said.endswith(" st")
    assert number == pytest.approx(semitones, abs=0.51 * 10.0**-decimals + 0.005)


@pytest.mark.parametrize("kind", EFFECTS)
def test_every_effect_is_said_by_its_title_or_what_it_is(kind: str) -> None:
    said = say_effect(EFFECTS[kind](id="e"))
    assert said.startswith(effect_info(kind).title) or kind in ("layer", "speaker")
    lane = Lane(
        field="amount_percent",
        points=(LanePoint(at=Position(seconds=0.0), value=0.0), LanePoint(at=Position(seconds=9.0), value=50.0)),
    )
    if kind != "layer":
        assert "automated" in say_effect(EFFECTS[kind](id="e", lanes=(lane,)))


def test_effects_are_counted_beyond_the_first_few() -> None:
    effects = tuple(Vinyl(id=str(i)) for i in range(MOST_COLOURS + 2))
    assert say_colour(Colour(effects=effects)).count("Vinyl") == MOST_COLOURS
    assert say_colour(Colour(effects=effects)).endswith("· 2 more")
    assert say_colour(Colour(on=False, effects=effects)) == OFF
    assert say_colour(Colour(effects=(Vinyl(id="v", on=False),))) == AS_IT_WAS
    assert say_effect(Layer(id="l", sound="rain", gain_db=-20.0)).replace(NBSP, " ") == "Rain −20 dB"
    assert say_effect(SmallSpeaker(id="s", speaker="hailer")).startswith("Loud-hailer")
    assert say_effect(Hall(id="h", decay_seconds=3.2, amount_percent=28.0)).replace(NBSP, " ") == "Hall 3.2 s at 28 %"


@pytest.mark.parametrize("kind", MOMENTS)
def test_one_moment_is_named_two_are_counted_and_kinds_are_not_mixed(kind: str) -> None:
    one = MOMENTS[kind](id="a", start=Position(beat=0.0), end=Position(beat=1.0))
    title = moment_title(one)
    assert say_moments(Moments(placed=(one,))) == title
    assert say_moments(Moments(placed=(one, replace(one, id="b")))) == f"2 × {title}"
    other = TapeStop if kind != "tape-stop" else Stutter
    mixed = (one, other(id="c", start=Position(beat=4.0), end=Position(beat=5.0)))
    assert say_moments(Moments(placed=mixed)) == "2 moments"


def test_moments_that_are_off_are_said_to_be() -> None:
    one = TapeStop(id="a", on=False, start=Position(beat=0.0), end=Position(beat=1.0))
    assert say_moments(Moments()) == "None"
    assert say_moments(Moments(placed=(one,))) == "1, all off"
    assert say_moments(Moments(on=False, placed=(one,))) == OFF


@pytest.mark.parametrize("kind", ENDINGS)
def test_every_ending_is_said_with_its_place(kind: str) -> None:
    way = ENDINGS[kind]() if kind == "none" else ENDINGS[kind](at=Position(beat=240.0))
    said = say_ending(Ending(way=way), SONG)
    assert said.startswith(ending_info(kind).title)
    assert ("bar 61" in said) == (kind != "none")
    assert say_ending(Ending(on=False, way=way), SONG) == OFF


def test_endings_say_how_long_they_take() -> None:
    assert say_ending(Ending(way=RingOut(decay_seconds=4.5)), None).replace(NBSP, " ") == "Ring-out, 4.5 s"
    assert "8" in say_ending(Ending(way=Fade(length=Length(seconds=8.0))), None)
    assert say_ending(Ending(way=CleanStop(at=Position(seconds=65.0))), None).endswith("1:05.000")


@pytest.mark.parametrize(
    ("level", "said"),
    [
        (Level(), "−14.0 LUFS · −1.0 dBTP"), (Level(on=False), OFF), (Level(target_lufs=None), "As loud as it is · −1.0 dBTP"),
        (Level(as_before=True), "As loud as before · −1.0 dBTP"),
    ],
)  # fmt: skip
def test_the_level_stage(level: Level, said: str) -> None:
    assert say_level(level).replace(NBSP, " ") == said


def test_a_version_says_only_what_it_does() -> None:
    assert say_version(UNTOUCHED) == AS_IT_WAS
    quiet = replace(UNTOUCHED, time=Time(speed=0.8), ending=Ending(way=RingOut()))
    assert say_version(quiet).replace(NBSP, " ") == "0.80× · −3.9 st, linked · Ring-out"
    assert isinstance(UNTOUCHED.ending.way, NoEnding)
    matched = Stages(level=Level(match=Match()))
    assert ("matched" in say_version(matched)) == (matched.level.matched is not None)


@pytest.mark.parametrize(
    ("stages", "suffix"),
    [
        (UNTOUCHED, ""), (Stages(time=Time(speed=0.8)), "slowed"), (Stages(time=Time(speed=1.2)), "sped up"),
        (Stages(time=Time(pitch="held", semitones=2.0)), "transposed"),
        (Stages(time=Time(speed=0.8), colour=Colour(effects=(Hall(id="h"),))), "slowed + reverb"),
        (Stages(colour=Colour(effects=(Spin(id="s"), Eq(id="e")))), "8D"),
        (Stages(time=Time(halftime="bar")), "halftime"), (Stages(time=Time(on=False, speed=0.5)), ""),
        (Stages(time=Time(curve=(CurvePoint(place=0.0, speed=0.9), CurvePoint(place=1.0, speed=1.1)))), "speed curve"),
    ],
)  # fmt: skip
def test_a_title_has_what_is_audible(stages: Stages, suffix: str) -> None:
    assert title_suffix(stages) == suffix


def test_what_is_left_out_is_not_in_the_title() -> None:
    stages = Stages(time=Time(speed=0.8), colour=Colour(effects=(Hall(id="h"), Vinyl(id="v"))))
    assert title_suffix(stages) == "slowed + reverb + lo-fi"
    assert title_suffix(stages, {"h"}) == "slowed + lo-fi"

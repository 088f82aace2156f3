"""Options of the command line as values: what they ask of the stages, and what they refuse."""

import click
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.cli.options import (
    EndingOption,
    LengthOption,
    LoudnessOption,
    PlaceOption,
    SpeedCurveOption,
    SpeedOption,
)
from latespin.cli.stages import asked_stages, check_together, fitted_to, layout_for, speed_for, with_ending
from latespin.jobs import Quietly
from latespin.model.effects.effects import Echo
from latespin.model.moments.endings import EchoEnd, Ending, NoEnding, RingOut
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.timing.time_map import compile_time_map
from latespin.model.values.parameters import SMEAR_SPEED, SPEED, TARGET
from latespin.model.version import UNTOUCHED, Colour, Level, Stages, Time
from tests.conftest import noise, track_of

NOTHING = {
    "speed": None, "semitones": None, "speed_curve": None, "character": None, "keep_formants": False, "formants": None,
    "halftime": None, "octave_down": False, "hold_pitch": False, "loudness": None, "limit_by": None, "ceiling": None,
}  # fmt: skip


def asked(stages: Stages = UNTOUCHED, **options: object) -> Stages:
    """Stages with these options and no others."""
    return asked_stages(stages, **{**NOTHING, **options})


def converted(option: click.ParamType, text: str) -> object:
    """What an option makes of a text."""
    return option.convert(text, None, None)


def test_no_option_changes_nothing() -> None:
    recipe = Stages(time=Time(speed=0.8), level=Level(target_lufs=-9.0))
    assert asked(recipe) == recipe
    assert asked() == UNTOUCHED


@pytest.mark.parametrize(
    ("options", "time"),
    [
        ({"speed": 0.8}, Time(speed=0.8)),
        ({"speed": 0.8, "hold_pitch": True}, Time(speed=0.8, pitch="held")),
        ({"semitones": -3.0}, Time(semitones=-3.0)),
        ({"keep_formants": True, "formants": 2.0}, Time(formants="kept", formant_semitones=2.0)),
        ({"halftime": "2bar", "octave_down": True}, Time(halftime="2bar", octave_down=True)),
        ({"character": "voice"}, Time(character="voice")),
    ],
)
def test_each_option_of_time_sets_its_field(options: dict[str, object], time: Time) -> None:
    assert asked(**options).time == time


def test_a_curve_sets_speed_one_unless_a_speed_is_given_too() -> None:
    curve = converted(SpeedCurveOption(), "0=0.9,1=1.15")
    recipe = Stages(time=Time(speed=0.5))
    assert asked(recipe, speed_curve=curve).time.speed == 1.0
    assert asked(recipe, speed_curve=curve, speed=0.7).time.speed == 0.7


@pytest.mark.parametrize(
    ("options", "level"),
    [
        ({"loudness": -12.0}, Level(target_lufs=-12.0)),
        ({"loudness": "before"}, Level(target_lufs=None, as_before=True)),
        ({"ceiling": -2.0}, Level(target_lufs=None, ceiling_dbtp=-2.0)),
        ({"limit_by": 6.0}, Level(target_lufs=None, allowance_db=6.0)),
        ({"loudness": -12.0, "ceiling": -2.0, "limit_by": 6.0}, Level(target_lufs=-12.0, ceiling_dbtp=-2.0, allowance_db=6.0)),
    ],
)  # fmt: skip
def test_each_option_of_level_switches_it_on_with_its_value(options: dict[str, object], level: Level) -> None:
    made = asked(**options).level
    assert made.on
    assert (made.target_lufs if not made.as_before else None) == level.target_lufs
    assert (made.as_before, made.ceiling_dbtp, made.allowance_db) == (
        level.as_before,
        level.ceiling_dbtp,
        level.allowance_db,
    )


def test_off_leaves_the_level_alone_whatever_else_is_said() -> None:
    assert not asked(loudness="off", ceiling=-3.0).level.on
    recipe = Stages(level=Level(target_lufs=-9.0))
    assert not asked(recipe, loudness="off").level.on


@given(speed=st.floats(0.26, 3.9), seconds=st.floats(1.0, 30.0))
def test_a_length_gives_the_speed_at_which_the_music_lasts_it(speed: float, seconds: float) -> None:
    track = track_of(noise(0.1))
    frames = round(seconds * track.rate)
    track = track_of(noise(0.1)[:, :1].repeat(1, axis=1).repeat(frames, axis=1))
    made = fitted_to(UNTOUCHED, track, seconds / speed)
    after = compile_time_map(made.time, track.frames, track.rate).after_frames
    assert after == pytest.approx(seconds / speed * track.rate, abs=1.5)


@pytest.mark.parametrize("seconds", [0.5, 500.0])
def test_a_length_out_of_reach_says_what_can_be_had(seconds: float) -> None:
    with pytest.raises(click.UsageError, match=r"it can be 0:02\.5 to 0:40\.0"):
        fitted_to(UNTOUCHED, track_of(noise(10.0)), seconds)


@given(source=st.floats(40.0, 200.0), speed=st.floats(SPEED.low, SPEED.high))
def test_a_tempo_gives_its_speed_and_one_out_of_reach_its_limits(source: float, speed: float) -> None:
    inside = min(max(speed, SPEED.low * 1.001), SPEED.high * 0.999)
    assert speed_for(source * inside, source) == pytest.approx(inside)
    with pytest.raises(click.UsageError, match="out of reach"):
        speed_for(source * SPEED.high * 1.01, source)


@pytest.mark.parametrize(
    ("length", "bpm", "source", "options", "words"),
    [
        (90.0, None, None, {"speed": 0.8}, "are one value"), (90.0, 84.0, 96.0, {}, "are one value"),
        (None, 84.0, None, {}, "add --source-bpm"), (None, None, None, {"octave_down": True}, "goes with --halftime"),
    ],
)  # fmt: skip
def test_options_that_contradict_or_lack_another_are_refused(length, bpm, source, options, words: str) -> None:
    with pytest.raises(click.UsageError, match=words):
        check_together(length, bpm, source, {**NOTHING, **options})


# -- what the options are made of ------------------------------------------------------------------------------------------


@given(speed=st.floats(SMEAR_SPEED.low, SMEAR_SPEED.high))
def test_a_speed_may_be_a_ratio_per_cent_or_a_change(speed: float) -> None:
    option = SpeedOption()
    assert converted(option, f"{speed:.6f}") == pytest.approx(speed, abs=1e-6)
    assert converted(option, f"{100.0 * speed:.4f} %") == pytest.approx(speed, abs=1e-6)
    assert converted(option, f"{100.0 * (speed - 1.0):+.4f}%") == pytest.approx(speed, abs=1e-6)


@pytest.mark.parametrize(
    ("option", "text", "words"),
    [
        (SpeedOption(), "9", "out of range"), (SpeedOption(), "fast", "not a number"), (LengthOption(), "0", "above zero"),
        (LengthOption(), "long", "not a length"), (PlaceOption(), "-1", "out of range"), (LoudnessOption(), "-90", "Use “off”"),
        (SpeedCurveOption(), "0=0.9,2=1", "can be"), (SpeedCurveOption(), "slow", "not a speed curve"),
        (EndingOption(), "bang@61", "is not an ending"), (EndingOption(), "none", "is not an ending"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused_with_what_can(option: click.ParamType, text: str, words: str) -> None:
    with pytest.raises(click.BadParameter, match=words):
        converted(option, text)


def test_loudness_takes_words_and_endings_take_places() -> None:
    assert converted(LoudnessOption(), "BEFORE") == "before"
    assert converted(LoudnessOption(), f"{TARGET.low}") == TARGET.low
    assert converted(EndingOption(), "ring-out@61.3") == ("ring-out", "61.3")
    assert converted(EndingOption(), "fade") == ("fade", "auto")
    assert converted(PlaceOption(), "0:00") == 0.0


def test_an_ending_of_the_same_kind_keeps_a_recipes_settings() -> None:
    grid = Grid(bpm=120.0)
    recipe = Stages(ending=Ending(way=RingOut(decay_seconds=7.5)))
    same = with_ending(recipe, ("ring-out", "9"), grid).ending.way
    assert same == RingOut(decay_seconds=7.5, at=Position(beat=32.0))
    other = with_ending(recipe, ("echo", "auto"), grid).ending.way
    assert other == EchoEnd()
    assert with_ending(recipe, None, grid) is recipe


@pytest.mark.parametrize(
    ("stages", "ending", "is_read"),
    [
        (UNTOUCHED, None, False), (UNTOUCHED, ("fade", "auto"), True), (Stages(time=Time(halftime="bar")), None, True),
        (Stages(time=Time(halftime="song")), None, False), (Stages(colour=Colour(effects=(Echo(id="e"),))), None, True),
        (Stages(ending=Ending(way=RingOut())), None, True), (Stages(ending=Ending(on=False, way=RingOut())), None, False),
    ],
)  # fmt: skip
def test_the_song_is_analysed_only_where_something_needs_its_beats(monkeypatch, stages, ending, is_read: bool) -> None:
    calls = []

    def read(track, work):
        from latespin.analysis.results import Reading

        calls.append(track)
        return Reading(seconds=2.0)

    monkeypatch.setattr("latespin.media.storage.analysis_cache.read_track", read)
    layout = layout_for(track_of(noise(2.0)), stages, ending, Grid(bpm=97.0), Quietly())
    assert bool(calls) == is_read
    assert layout.grid is not None
    assert layout.grid.bpm == 97.0, "the tempo given wins over the one detected"
    assert isinstance(UNTOUCHED.ending.way, NoEnding)

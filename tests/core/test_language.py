"""Sentences that the core composes, in a language that shouts: every word of ours is in it, and can be typed back."""

import re
from collections.abc import Iterator

import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.language import ENGLISH, Language, catalogue, install_translation, localised, speak, spoken, tr
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import ConvolutionReverb, Echo, Hall
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import ENDINGS, Ending, Fade, NoEnding
from latespin.model.moments.moments import Moments
from latespin.model.text.describe import say_ending, say_level, say_moments, say_time, say_version
from latespin.model.text.stretch_warnings import strain_of
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Length, Position, parse_place, parse_span, say_place, say_span
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.version import HALFTIME_BARS, Colour, Level, Match, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems
from tests.conftest import noise, track_of

UNITS = re.compile(r"(?<=[\d\s])(st|dB|dBTP|LUFS|Hz|kHz|ms|s|ct)\b")
GRID = Grid(bpm=120.0, beats_per_bar=4)


def shouted(text: str) -> str:
    """All capitals but for the placeholders, with a mark."""
    parts = re.split(r"(\{[^}]*\})", text)
    return "".join(part if part.startswith("{") else part.upper() for part in parts) + "¶"


@pytest.fixture(autouse=True)
def _language(monkeypatch: pytest.MonkeyPatch) -> None:
    """For one test; the window's own language, where one is installed, comes back afterwards."""
    monkeypatch.setattr("latespin.language._installed", [shouted])
    monkeypatch.setattr("latespin.language._spoken", [Language("shouted", ",")])


def bare_words(sentence: str) -> list[str]:
    """Words of a sentence that did not go through translation."""
    return re.findall(r"[a-z]{2,}", UNITS.sub("", sentence))


def versions() -> Iterator[Stages]:
    """Versions with each kind of everything, on and off."""
    for speed, semitones, pitch in ((1.0, 0.0, "held"), (0.8, 0.0, "held"), (0.8, 2.0, "held"), (0.8, 2.0, "linked")):
        yield Stages(time=Time(speed=speed, semitones=semitones, pitch=pitch, formants="kept", formant_semitones=1.0))
    for halftime in ("song", *HALFTIME_BARS):
        yield Stages(time=Time(halftime=halftime, character="voice"))
    yield Stages(time=Time(curve=(CurvePoint(place=0.0, speed=0.9), CurvePoint(place=1.0, speed=1.2))))
    lane = Lane(field="amount_percent", points=(LanePoint(at=Position(seconds=1.0), value=5.0),))
    for kind in EFFECTS.values():
        yield Stages(colour=Colour(effects=(kind(id="a"), kind(id="b", lanes=(lane,)), kind(id="c"), kind(id="d"))))
    start, end = Position(beat=1.0), Position(beat=3.0)
    for moment in MOMENTS.values():
        two = (moment(id="m", start=start, end=end), moment(id="n", start=end, end=Position(beat=5.0)))
        yield Stages(moments=Moments(placed=two))
        yield Stages(moments=Moments(placed=two, on=False))
    yield Stages(moments=Moments(placed=tuple(m(id=k, start=start, end=end) for k, m in MOMENTS.items())))
    for ending in ENDINGS.values():
        yield Stages(ending=Ending(way=ending() if ending is NoEnding else ending(at=end)))
    yield Stages(level=Level(target_lufs=None))
    yield Stages(level=Level(as_before=True, match=Match(reference="r")))


def test_every_description_is_in_the_language() -> None:
    layout = Layout(44_100 * 60, 44_100, GRID)
    for stages in versions():
        for sentence in (
            say_version(stages),
            say_time(stages.time),
            say_moments(stages.moments),
            say_ending(stages.ending, layout),
            say_level(stages.level),
            *strain_of(stages.time).words,
        ):
            assert bare_words(sentence) == [], sentence


def test_every_note_on_what_is_not_heard_is_in_the_language() -> None:
    """Without bars, with files that are missing, beyond the song, overlapping, and out of order."""
    seconds = [Position(seconds=at) for at in (0.2, 0.6, 0.4, 9.0, 12.0)]
    timed = ((0, 1), (2, 1), (3, 4), (1, 0))
    moments = [MOMENTS["tape-stop"](id=f"m{n}", start=seconds[a], end=seconds[b]) for n, (a, b) in enumerate(timed)]
    moments.append(MOMENTS["drop-in"](id="file", start=seconds[0], end=seconds[1]))
    moments.append(MOMENTS["stutter"](id="bars", start=Position(beat=1.0), end=Position(beat=2.0)))
    points = tuple(LanePoint(at=at, value=5.0) for at in (seconds[1], seconds[0]))
    effects = (
        Echo(id="e"),
        Hall(id="h", lanes=(Lane(field="decay_seconds", points=points),)),
        ConvolutionReverb(id="r", room="file"),
    )
    stages = Stages(
        time=Time(halftime="bar"), colour=Colour(effects=effects), moments=Moments(placed=tuple(moments)),
        ending=Ending(way=Fade(length=Length(seconds=30.0))),
    )  # fmt: skip
    readers = TrackRenderer(track_of(noise(1.0)))
    said = [problem.says for problem in version_problems(stages, readers.arrangement(stages), readers.context(stages))]
    assert len(said) >= 9
    assert [sentence for sentence in said if bare_words(sentence)] == []


@given(beat=st.integers(0, 4000).map(lambda n: n / 8.0), typed=st.booleans())
def test_places_are_read_back_as_they_are_shown_or_as_in_english(beat: float, typed: bool) -> None:
    place = Position(beat=beat)
    shown = say_place(place, GRID)
    assert shown.startswith("BAR ")
    if typed:
        install_translation(None)
        shown = say_place(place, GRID)
        install_translation(shouted)
    assert parse_place(shown, GRID) == place


@given(beats=st.integers(1, 400).map(lambda n: n / 4.0))
def test_lengths_are_read_back_as_they_are_shown(beats: float) -> None:
    assert parse_span(say_span(Length(beats=beats), GRID), GRID) == Length(beats=beats)
    assert parse_span("3 beats", GRID) == Length(beats=3.0)
    assert parse_span("1 bar", GRID) == Length(beats=4.0)


def test_without_a_translation_it_is_english() -> None:
    install_translation(None)
    assert tr("Ring-out") == "Ring-out"


def test_a_process_without_a_window_speaks_by_the_catalogue() -> None:
    words = catalogue("de")
    assert words["There is not enough memory for this. Close other programs, or do fewer at a time."].startswith(
        "Dafür reicht"
    )
    speak(Language("de", ","))
    assert tr("Whole song") == words["Whole song"] != "Whole song"
    assert tr("No text of ours") == "No text of ours"
    assert localised("1,234.5") == "1.234,5"
    speak(ENGLISH)
    assert (tr("Whole song"), spoken()) == ("Whole song", ENGLISH)

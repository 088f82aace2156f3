"""Versions, documents, units and sentences: pure values."""

import os
import re
import subprocess
import sys

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.errors import OutOfRange, Unreadable
from latespin.model.documents.documents import (
    Recipe,
    Session,
    TrackReference,
    read_recipe,
    read_session,
    read_what_can_be,
    to_json,
)
from latespin.model.documents.history import History
from latespin.model.documents.migrations import FORMAT_VERSION
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Hall
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import ENDINGS
from latespin.model.text.describe import say_version, title_suffix
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.tone_match import Match
from latespin.model.values.parameters import DECAY, SPEED, Parameter, parameters_of
from latespin.model.values.units import clock, number, parse_length, parse_value, with_unit
from latespin.model.version import UNTOUCHED, Colour, Level, Stages, Time, Version
from latespin.render.recipes import find_recipe, shipped_recipes


def values(kind: type) -> st.SearchStrategy:
    """Any value of a stage whose numbers lie within their limits."""
    fields = {name: st.floats(p.low, p.high, allow_nan=False) for name, p in parameters_of(kind).items()}
    return st.builds(kind, on=st.booleans(), **fields)


SPEEDS = st.floats(0.25, 4.0)
CURVES = st.dictionaries(st.floats(0.0, 1.0), st.tuples(SPEEDS, st.sampled_from(["straight", "smooth"]))).map(
    lambda points: tuple(CurvePoint(place=at, speed=v, shape=shape) for at, (v, shape) in sorted(points.items()))
)
TIMES = st.builds(
    Time,
    on=st.booleans(),
    speed=SPEEDS,
    pitch=st.sampled_from(["linked", "held"]),
    semitones=st.floats(-24.0, 24.0),
    character=st.sampled_from(["full-mix", "drums", "voice", "smear"]),
    formants=st.sampled_from(["moved", "kept"]),
    formant_semitones=st.floats(-12.0, 12.0),
    curve=CURVES,
    halftime=st.sampled_from(["off", "song", "bar", "2bar", "4bar"]),
    octave_down=st.booleans(),
)
EFFECT = st.sampled_from(list(EFFECTS.values())).flatmap(values)


def numbered(effects: list) -> tuple:
    """Effects with ids of their own."""
    return tuple(msgspec.structs.replace(effect, id=str(i)) for i, effect in enumerate(effects))


STAGES = st.builds(
    Stages,
    time=TIMES,
    colour=st.builds(Colour, on=st.booleans(), effects=st.lists(EFFECT, max_size=4).map(numbered)),
    level=values(Level),
)


@given(stages=st.lists(STAGES, max_size=3))
def test_a_session_comes_back_exactly(stages: list[Stages]) -> None:
    versions = tuple(Version(id=str(i), name=f"Version {i} “é”", stages=s) for i, s in enumerate(stages))
    session = Session(
        track=TrackReference(path="songs/a.flac", sha256="ab"),
        versions=versions,
        chosen="0",
        grid=Grid(bpm=87.3, first_beat_seconds=0.41, beats_per_bar=3),
    )
    assert read_session(to_json(session), "s") == session
    assert to_json(read_session(to_json(session), "s")) == to_json(session)
    assert all(say_version(s) for s in stages)


def test_every_declared_parameter_guards_its_field() -> None:
    kinds = (Time, Level, Match, *EFFECTS.values(), *MOMENTS.values(), *ENDINGS.values())
    assert sum(len(parameters_of(kind)) for kind in kinds) == 228
    for kind in kinds:
        needed = {"start": Position(beat=1.0), "end": Position(beat=2.0)} if kind in MOMENTS.values() else {}
        for name, p in parameters_of(kind).items():
            assert p.low <= p.default <= p.high
            assert p.sentence.endswith(".")
            for wrong in (p.low - 0.01 * (p.high - p.low), p.high + 0.01 * (p.high - p.low), float("nan")):
                with pytest.raises(OutOfRange, match=name):
                    kind(**{name: wrong}, **needed)


GOOD = msgspec.json.decode(to_json(Recipe(name="a", title="A")))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"format": "something else"}, "format should be"),
        ({"format_version": FORMAT_VERSION + 1}, "newer Late Spin"),
        ({"format_version": "1"}, "format_version"),
        ({"surprise": 1}, "unknown field `surprise`"),
        ({"stages": {"time": {"speed": 9}}}, "stages.time: speed is 9"),
        ({"stages": {"time": {"speed": 0.1, "character": "smear"}}}, "speed is 0.1 ×; it can be 0.25 to 4"),
        ({"stages": {"time": {"curve": [{"place": 0.4, "speed": 0}]}}}, "speed is 0 ×; it can be 0.25 to 4"),
        (
            {"stages": {"time": {"curve": [{"place": 0.5, "speed": 1}, {"place": 0.2, "speed": 1}]}}},
            "goes back from 0.5 to 0.2",
        ),
        ({"stages": {"time": {"curve": [{"place": 0.5, "speed": 1}] * 3}}}, "three points at 0.5"),
        ({"stages": {"time": {"pitch": "sideways"}}}, "stages.time.pitch"),
        (
            {"stages": {"colour": {"effects": [{"kind": "hall", "decay_seconds": "long"}]}}},
            "stages.colour.effects[0].decay_seconds",
        ),
        ({"name": None}, "name"),
    ],
)
def test_documents_that_are_wrong_are_refused_by_the_name_of_the_field(change: dict, words: str) -> None:
    with pytest.raises(Unreadable, match=re.escape(words)) as caught:
        read_recipe(msgspec.json.encode({**GOOD, **change}), "mine.json")
    assert "mine.json" in str(caught.value)


def test_the_only_hall_of_format_1_becomes_a_list_of_one() -> None:
    old = {
        **GOOD,
        "format_version": 1,
        "stages": {"colour": {"on": True, "hall": {"on": True, "amount_percent": 41.0}}},
    }
    colour = read_recipe(msgspec.json.encode(old), "old.json").stages.colour
    assert colour == Colour(effects=(Hall(id="hall", amount_percent=41.0),))
    version = {"id": "a", "name": "A", "stages": {"colour": {"hall": {"decay_seconds": 2.0}}}}
    session = {"format": "late-spin session", "format_version": 1, "versions": [version]}
    assert read_session(msgspec.json.encode(session), "s").versions[0].stages.colour.heard == ()
    wrong = {**old, "stages": {"colour": {"hall": {"amount_percent": 200}}}}
    with pytest.raises(Unreadable, match="amount_percent is 200 %"):
        read_what_can_be(msgspec.json.encode(wrong), "old.json")


def test_effects_of_a_recipe_that_are_wrong_are_named_and_left_out() -> None:
    effects = [{"kind": "vinyl", "amount_percent": 140}, {"kind": "hall", "id": "h"}, {"kind": "sparkle"}]
    data = msgspec.json.encode({**GOOD, "stages": {"colour": {"effects": effects}}})
    recipe, faults = read_what_can_be(data, "mine.json")
    assert [effect.id for effect in recipe.stages.colour.effects] == ["h"]
    assert len(faults) == 2
    assert "mine.json, vinyl: " in faults[0]
    assert "amount_percent is 140 %; it can be 0 to 100 %" in faults[0]
    assert "sparkle" in faults[1]
    with pytest.raises(Unreadable, match="speed"):
        read_what_can_be(msgspec.json.encode({**GOOD, "stages": {"time": {"speed": 9}}}), "mine.json")


@pytest.mark.parametrize("data", [b"", b"{", b"[1, 2]", b"\xff\xfe", b"null", b'"text"'])
def test_what_is_no_document_is_refused(data: bytes) -> None:
    for read in (read_recipe, read_session):
        with pytest.raises(Unreadable, match="is not a"):
            read(data, "file.json")


def test_two_versions_may_not_share_an_id() -> None:
    twice = Session(versions=(Version(id="a", name="x"),))
    data = msgspec.json.encode(msgspec.to_builtins(twice) | {"versions": [msgspec.to_builtins(twice.versions[0])] * 2})
    with pytest.raises(Unreadable, match="same id"):
        read_session(data, "s")


def test_shipped_recipes_do_what_their_names_say() -> None:
    assert {r.name for r in shipped_recipes()} >= {"slowed-reverb", "sped-up"}
    assert find_recipe("slowed-reverb").stages.time.speed < 1
    assert find_recipe("slowed-reverb").stages.colour.heard
    assert find_recipe("sped-up").stages.time.speed > 1
    with pytest.raises(Unreadable, match="ring-out-ending, slowed-reverb"):
        find_recipe("over-the-moon")


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [("0.85", "×", 0.85), ("85 %", "×", 0.85), ("−3", "st", -3), ("-350ct", "st", -3.5), ("1 oct", "st", 12), ("120 ms", "s", 0.12),
     ("1,5 s", "ms", 1500), ("5.5 kHz", "Hz", 5500), ("-14 LUFS", "LUFS", -14), ("-1dbtp", "dBTP", -1), ("+2", "dB", 2)],
)  # fmt: skip
def test_typed_values_are_understood(text: str, unit: str, value: float) -> None:
    assert parse_value(text, unit) == pytest.approx(value)


@pytest.mark.parametrize(("text", "unit"), [("", "s"), ("fast", "×"), ("3 Hz", "s"), ("1.2.3", "st"), ("1 2", "s")])
def test_what_is_not_understood_is_said(text: str, unit: str) -> None:
    with pytest.raises(ValueError, match=r"Type one|Use"):
        parse_value(text, unit)


def test_lengths_and_numbers_read_as_people_write_them() -> None:
    assert [parse_length(t) for t in ("1:30", "1:02:03.5", "90", "90 s", "2 min")] == [90, 3723.5, 90, 90, 120]
    assert [clock(89.96, 1), clock(3723), clock(0.05, 2), clock(59.97, 1)] == ["1:30.0", "1:02:03", "0:00.05", "1:00.0"]
    assert [number(-0.04, 1), number(-2.81, 1), number(float("-inf"), 1), number(0.0, 1, signed=True)] == [
        "0.0",
        "−2.8",
        "–",
        "0.0",
    ]
    assert with_unit(5500, "Hz", 0) == "5.5\u00a0kHz"


@given(fraction=st.floats(0, 1), p=st.sampled_from([SPEED, DECAY, Parameter("x", "dB", -3, 7, 0, 1, 6, "s.")]))
def test_a_bar_goes_from_place_to_value_and_back(fraction: float, p: Parameter) -> None:
    value = p.from_fraction(fraction)
    assert p.low <= value <= p.high
    assert p.to_fraction(value) == pytest.approx(fraction, abs=0.01)
    assert p.low <= p.stepped(value, 3) <= p.high


def test_versions_read_as_sentences() -> None:
    said = say_version(find_recipe("slowed-reverb").stages).replace("\u00a0", " ")
    assert said == "0.85× · −2.8 st, linked · Hall 3.2 s at 28 % · −14 LUFS"
    assert say_version(UNTOUCHED) == "As it was"
    assert title_suffix(find_recipe("slowed-reverb").stages) == "slowed + reverb"
    assert title_suffix(find_recipe("sped-up").stages) == "sped up"
    assert title_suffix(UNTOUCHED) == ""
    held = Stages(time=Time(speed=0.8, pitch="held"))
    assert "pitch held" in say_version(held)
    assert "pitch held" not in say_version(replace(held, time=replace(held.time, on=False)))


def test_undo_is_former_values_and_a_drag_is_one_step() -> None:
    history = History(0)
    for value in (1, 2, 3):
        history.edit("Speed", value, merge="speed")
    history.seal()
    assert not history.edit("Speed", 3, merge="speed")
    history.edit("Speed", 4, merge="speed")
    history.undo()
    assert (history.value, history.undo_label(), history.redo_label()) == (3, "Speed", "Speed")
    history.undo()
    history.undo()
    assert history.value == 0
    history.redo()
    assert history.value == 3
    history.edit("Other", 9)
    assert history.redo_label() == ""


def test_the_core_loads_without_qt_and_the_window_without_kernels() -> None:
    rooms = ("dsp", "analysis", "model", "media", "render")
    code = (
        "import importlib, pkgutil, sys, latespin\n"
        f"names = [m.name for m in pkgutil.walk_packages(latespin.__path__, 'latespin.') if m.name.split('.')[1] in {rooms}]\n"
        "for name in names: importlib.import_module(name)\n"
        "print(len(names) > 100, [m for m in sys.modules if m.startswith('PySide6')])"
    )
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == "True []"
    code = (
        "import sys; from latespin.desktop import app as a; app = a.make_app(); window = a.Window(a.load_settings())\n"
        "window.show(); app.processEvents(); window.grab(); window.work.close()\n"
        "print([m for m in ('numba', 'scipy', 'av', 'soundfile', 'mido', 'PySide6.QtMultimedia', 'PySide6.QtNetwork', 'latespin.desktop.panels', 'latespin.desktop.controllers') if m in sys.modules])"
    )
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, env=environment)
    assert out.stdout.strip() == "[]", "the first picture of the window waits for these"


@pytest.mark.parametrize("path", ["song.flac", "file:song.flac", os.fsdecode(b"\xff song.flac")])
def test_any_path_goes_through_json_and_back_however_it_is_escaped(path: str) -> None:
    session = Session(track=TrackReference(path=path, sha256="0" * 64))
    data = to_json(session)
    assert read_session(data, "a") == session
    assert read_session(data.replace(b'"file:', b'"\\u0066ile:'), "a") == session
    data.decode("utf-8")

"""Numbers, note values, keys and file names: how they are written and read, as properties."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from latespin.analysis.results import Key
from latespin.errors import Unusable
from latespin.model.values.file_names import FIELDS, LONGEST_BYTES, check_pattern, named, safe_name
from latespin.model.values.key_names import key_name, parse_key, relative_tonic, say_key
from latespin.model.values.note_values import NOTE_VALUES, beats_of, say_value
from latespin.model.values.parameters import DEPTH, DIP_DEPTH, RAMP_SPEED, SEMITONES, Parameter
from latespin.model.values.units import NO_VALUE, clock, number, parse_length, parse_value, with_unit

UNITS = {"×": 3, "st": 2, "s": 3, "ms": 2, "Hz": 1, "%": 2, "BPM": 2, "LUFS": 1, "dBTP": 1, "dB": 1}


@given(value=st.floats(-900.0, 900.0), unit=st.sampled_from(sorted(UNITS)))
def test_what_is_written_can_be_typed_again(value: float, unit: str) -> None:
    decimals = UNITS[unit]
    shown = with_unit(value, unit, decimals)
    assert parse_value(shown, unit) == pytest.approx(value, abs=0.5 * 10.0**-decimals + 1e-9)


@pytest.mark.parametrize(
    ("text", "unit", "value"),
    [
        ("0.8", "×", 0.8), ("80 %", "×", 0.8), ("+30 %", "×", 1.3), ("−22 %", "×", 0.78), ("-22%", "×", 0.78),
        ("1,5", "×", 1.5), ("2 oct", "st", 24.0), ("-50 ct", "st", -0.5), ("1.2 kHz", "Hz", 1_200.0), ("3k", "Hz", 3_000.0),
        ("2 min", "s", 120.0), ("250 ms", "s", 0.25), ("0.25 s", "ms", 250.0), (".5", "dB", 0.5), ("–14", "LUFS", -14.0),
    ],
)  # fmt: skip
def test_units_and_signs_are_understood(text: str, unit: str, value: float) -> None:
    assert parse_value(text, unit) == pytest.approx(value)


@pytest.mark.parametrize(
    ("text", "unit"), [("fast", "×"), ("3 st", "×"), ("", "s"), ("1:30", "dB"), ("1e3", "Hz"), ("nan", "dB")]
)
def test_what_is_no_number_is_refused_with_what_fits(text: str, unit: str) -> None:
    with pytest.raises(ValueError, match=r"Type one|Use"):
        parse_value(text, unit)


@given(seconds=st.floats(0.0, 360_000.0), decimals=st.integers(0, 3))
def test_a_clock_can_be_typed_again(seconds: float, decimals: int) -> None:
    shown = clock(seconds, decimals)
    assert parse_length(shown) == pytest.approx(seconds, abs=0.5 * 10.0**-decimals + 1e-6)
    whole = shown.split(".")[0].split(":")
    assert all(len(part) == 2 for part in whole[1:])
    assert all(int(part) < 60 for part in whole[1:])


@given(seconds=st.floats(0.01, 4_000.0))
def test_before_the_start_a_clock_has_a_minus(seconds: float) -> None:
    assert clock(-seconds, 2) == ("−" if round(100 * seconds) else "") + clock(seconds, 2)
    assert parse_length(clock(-seconds, 2)) == pytest.approx(-seconds, abs=0.006)


@pytest.mark.parametrize("value", [math.inf, -math.inf, math.nan])
def test_what_is_not_defined_is_a_dash(value: float) -> None:
    assert number(value, 1) == clock(value) == NO_VALUE


@given(value=st.floats(-1e-4, 1e-4))
def test_nothing_has_no_sign(value: float) -> None:
    assert number(value, 2, signed=True) == "0.00"


# -- note values --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("value", NOTE_VALUES)
def test_a_dotted_note_is_three_halves_and_three_triplets_are_two(value: str) -> None:
    plain = value.rstrip("dt")
    beats = 4.0 / int(plain.split("/")[1])
    factor = 1.5 if value.endswith("d") else 2.0 / 3.0 if value.endswith("t") else 1.0
    assert beats_of(value) == pytest.approx(beats * factor)
    assert say_value(value).startswith(plain)


@given(text=st.text(max_size=8))
def test_what_is_no_note_value_is_refused(text: str) -> None:
    assume(text not in NOTE_VALUES)
    with pytest.raises(Unusable, match="is not a note value"):
        beats_of(text)


# -- keys ---------------------------------------------------------------------------------------------------------------


@given(tonic=st.integers(0, 11), mode=st.sampled_from(["major", "minor"]))
def test_a_key_is_read_as_it_is_written(tonic: int, mode: str) -> None:
    key = Key(tonic=tonic, mode=mode, confidence=1.0)
    assert parse_key(key_name(key)) == (tonic, mode)
    assert relative_tonic(relative_tonic(tonic, mode), "major" if mode == "minor" else "minor") == tonic
    scale = {"major": (0, 2, 4, 5, 7, 9, 11), "minor": (0, 2, 3, 5, 7, 8, 10)}
    other = "major" if mode == "minor" else "minor"
    own = {(tonic + step) % 12 for step in scale[mode]}
    assert own == {(relative_tonic(tonic, mode) + step) % 12 for step in scale[other]}, "the relative key has its notes"


@given(tonic=st.integers(0, 11), semitones=st.floats(-24.0, 24.0), tuning=st.floats(-40.0, 40.0))
def test_a_moved_key_and_its_cents_are_where_it_sounds(tonic: int, semitones: float, tuning: float) -> None:
    said = say_key((Key(tonic=tonic, mode="minor", confidence=1.0),), tuning, semitones)
    name, *cents = said.split(" ct")[0].rsplit(" ", 1) if said.endswith("ct") else (said,)
    off = int(cents[0].replace("−", "-")) if cents else 0
    sounds = (tonic + semitones + tuning / 100.0) % 12.0
    heard = (parse_key(name)[0] + off / 100.0) % 12.0
    away = abs((heard - sounds + 6.0) % 12.0 - 6.0)
    assert away <= (0.006 if cents else 0.08)


@pytest.mark.parametrize("text", ["H minor", "A dorian", "", "c##", "7"])
def test_what_is_no_key_is_refused(text: str) -> None:
    with pytest.raises(ValueError, match="is not a key"):
        parse_key(text)


# -- file names ---------------------------------------------------------------------------------------------------------

TEXTS = st.text(max_size=60)


@given(values=st.fixed_dictionaries(dict.fromkeys(("title", "version"), TEXTS)))
def test_a_name_stays_in_its_folder_and_every_system_takes_it(values: dict[str, str]) -> None:
    values["song"] = "rink"
    path = named("{title} ({version}) {song}", values)
    assert len(path.parts) == 1
    name = path.name
    assert not set('<>:"/\\|?*\x00\n') & set(name)
    assert name == name.strip(" .")
    assert len(name.encode("utf-8", "surrogatepass")) <= LONGEST_BYTES + 1
    assert "()" not in name


@given(text=TEXTS)
def test_a_safe_name_is_safe_twice(text: str) -> None:
    once = safe_name(text)
    assert once
    assert safe_name(once) == once


@pytest.mark.parametrize(
    "pattern", ["", "  ", "{tempo}", "../{title}", "/{title}", "~/{title}", "a//b", "{title", "{title}/"]
)
def test_patterns_that_lead_elsewhere_or_are_unknown_are_refused(pattern: str) -> None:
    with pytest.raises(Unusable):
        check_pattern(pattern)


@pytest.mark.parametrize("reserved", ["con", "NUL", "Lpt3", "aux.late"])
def test_names_that_systems_keep_to_themselves_are_changed(reserved: str) -> None:
    assert safe_name(reserved) != reserved


def test_every_field_may_be_used_and_folders_are_made_of_slashes() -> None:
    values = {name: f"the {name}" for name in FIELDS}
    path = named("/".join("{" + name + "}" for name in FIELDS), values)
    assert path.parts == tuple(values.values())
    with pytest.raises(Unusable, match="no name"):
        named("{artist}", {"artist": ""})


def test_rounding_never_shows_a_minute_of_sixty_seconds() -> None:
    for seconds in np.arange(59.0, 61.0, 0.001).tolist():
        assert ":60" not in clock(seconds)
        assert ":60" not in clock(seconds, 2)


@pytest.mark.parametrize(
    ("parameter", "typed", "value"),
    [
        (DEPTH, "−12 st", 50.0), (DEPTH, "12 st", 50.0), (DEPTH, "-1 oct", 50.0), (DEPTH, "40", 40.0), (DEPTH, "40 %", 40.0),
        (DIP_DEPTH, "-5 st", 100.0 * (1.0 - 2.0 ** (-5.0 / 12.0))), (RAMP_SPEED, "+7 st", 2.0 ** (7.0 / 12.0)),
        (RAMP_SPEED, "-12 st", 0.5), (RAMP_SPEED, "150 %", 1.5), (RAMP_SPEED, "+50 %", 1.5), (SEMITONES, "-50 ct", -0.5),
    ],
)  # fmt: skip
def test_depths_and_speeds_are_typed_in_semitones_as_well(parameter: Parameter, typed: str, value: float) -> None:
    assert parameter.parse(typed) == pytest.approx(value, abs=1e-9)


@pytest.mark.parametrize("parameter", [DEPTH, DIP_DEPTH, RAMP_SPEED])
@given(share=st.floats(0.0, 0.99))
def test_the_semitones_that_are_shown_give_the_value_again(parameter: Parameter, share: float) -> None:
    value = parameter.from_fraction(share)
    shown, _, pitch = parameter.text(value).partition(" · ")
    assert parameter.parse(shown) == pytest.approx(value, abs=0.006)
    moved = parameter.semitones(value)
    assert moved is not None
    assert parameter.parse(f"{moved} st") == pytest.approx(value, rel=1e-6)
    assert pitch == with_unit(moved, "st", 1)


def test_a_full_stop_has_no_semitones() -> None:
    assert DEPTH.text(100.0) == "100\u00a0%"
    with pytest.raises(ValueError, match="not a number"):
        DEPTH.parse("deep")

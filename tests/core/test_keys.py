"""Keys in words, typed and moved."""

import pytest

from latespin.analysis.results import Key
from latespin.model.values.key_names import key_name, parse_key, relative_tonic, say_key, say_runners_up

A_MINOR = Key(tonic=9, mode="minor", confidence=0.78)
C_MAJOR = Key(tonic=0, mode="major", confidence=0.15)


@pytest.mark.parametrize(
    ("text", "tonic", "mode"),
    [
        ("A minor", 9, "minor"), ("am", 9, "minor"), ("f#", 6, None), ("F♯ major", 6, "major"), ("Bb", 10, None),
        ("E♭ maj", 3, "major"), ("cb", 11, None), (" G ", 7, None), ("e min", 4, "minor"),
    ],
)  # fmt: skip
def test_keys_are_understood_as_people_type_them(text: str, tonic: int, mode: str | None) -> None:
    assert parse_key(text) == (tonic, mode)


def test_relative_keys_share_their_notes() -> None:
    major, minor = {0, 2, 4, 5, 7, 9, 11}, {0, 2, 3, 5, 7, 8, 10}
    for tonic in range(12):
        notes = {(tonic + step) % 12 for step in minor}
        relative = relative_tonic(tonic, "minor")
        assert {(relative + step) % 12 for step in major} == notes
        assert relative_tonic(relative, "major") == tonic


@pytest.mark.parametrize("text", ["H", "", "8A", "A minor please", "#"])
def test_what_is_no_key_is_refused_in_words(text: str) -> None:
    with pytest.raises(ValueError, match="is not a key"):
        parse_key(text)


def test_a_key_moves_with_the_pitch_and_says_its_cents() -> None:
    assert say_key((A_MINOR, C_MAJOR), 0.0) == "A minor"
    assert say_key((A_MINOR,), 0.0, -3.0) == "F♯ minor"
    assert say_key((C_MAJOR,), 0.0, -2.81) == "A major +19 ct"
    assert say_key((A_MINOR,), -30.0) == "A minor −30 ct"
    assert say_key((A_MINOR,), 40.0, 0.4) == "B♭ minor −20 ct"
    assert say_key((), 0.0) == "–"
    assert key_name(C_MAJOR, 1) == "D♭ major"
    assert say_runners_up((A_MINOR, C_MAJOR)) == "A minor 78 %, C major 15 %"

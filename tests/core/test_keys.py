"""Keys in words, typed and moved."""

import pytest

from latespin.analysis.found import Key
from latespin.model.keys import key_name, parse_tonic, say_key, say_runners_up

A_MINOR = Key(tonic=9, mode="minor", confidence=0.78)
C_MAJOR = Key(tonic=0, mode="major", confidence=0.15)


@pytest.mark.parametrize(
    ("text", "tonic"),
    [("A minor", 9), ("am", 9), ("f#", 6), ("F♯ major", 6), ("Bb", 10), ("E♭ maj", 3), ("cb", 11), (" G ", 7)],
)
def test_keys_are_understood_as_people_type_them(text: str, tonic: int) -> None:
    assert parse_tonic(text) == tonic


@pytest.mark.parametrize("text", ["H", "", "8A", "A minor please", "#"])
def test_what_is_no_key_is_refused_in_words(text: str) -> None:
    with pytest.raises(ValueError, match="is not a key"):
        parse_tonic(text)


def test_a_key_moves_with_the_pitch_and_says_its_cents() -> None:
    assert say_key((A_MINOR, C_MAJOR), 0.0) == "A minor"
    assert say_key((A_MINOR,), 0.0, -3.0) == "F♯ minor"
    assert say_key((C_MAJOR,), 0.0, -2.81) == "A major +19 ct"
    assert say_key((A_MINOR,), -30.0) == "A minor −30 ct"
    assert say_key((A_MINOR,), 40.0, 0.4) == "B♭ minor −20 ct"
    assert say_key((), 0.0) == "–"
    assert key_name(C_MAJOR, 1) == "D♭ major"
    assert say_runners_up((A_MINOR, C_MAJOR)) == "A minor 78 %, C major 15 %"

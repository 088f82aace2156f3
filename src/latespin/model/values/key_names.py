"""Names of keys, and their transposition."""

import re
from typing import Literal

from latespin.analysis.results import Key
from latespin.language import tr
from latespin.model.values.units import NO_VALUE

Mode = Literal["major", "minor"]
MAJOR_NAMES = ("C", "D♭", "D", "E♭", "E", "F", "F♯", "G", "A♭", "A", "B♭", "B")
MINOR_NAMES = ("C", "C♯", "D", "E♭", "E", "F", "F♯", "G", "G♯", "A", "B♭", "B")
LETTERS = {"C": 0, "D": 2, "E": 4, "F": 5, "G": 7, "A": 9, "B": 11}
AS_IS_CENTS = 8  # no cents are shown up to this distance from a key


def key_name(key: Key, semitones: float = 0.0) -> str:
    """``A minor``, moved by whole semitones (the nearest), in English: it is written into files. For the window see spoken_key."""
    names = MAJOR_NAMES if key.mode == "major" else MINOR_NAMES
    return f"{names[round(key.tonic + semitones) % 12]} {key.mode}"


def spoken_key(key: Key, semitones: float = 0.0) -> str:
    """The name of a key in the installed language."""
    return tr(key_name(key, semitones))


def key_names() -> dict[str, tuple[int, Mode]]:
    """All names of keys, with the pitch class of the tonic and the mode."""
    sides: tuple[tuple[Mode, tuple[str, ...]], ...] = (("major", MAJOR_NAMES), ("minor", MINOR_NAMES))
    return {f"{name} {mode}": (tonic, mode) for mode, names in sides for tonic, name in enumerate(names)}


def parse_key(text: str) -> tuple[int, Mode | None]:
    """The pitch class and, if given, the mode of a typed key: ``A minor``, ``f#``, ``Bb major``, ``Em``. Raises ValueError.

    A name of the installed language is taken first.
    """
    for name, found in key_names().items():
        if text.strip().casefold() == tr(name).casefold():
            return found
    plain = text.strip().replace("♯", "#").replace("♭", "b")
    match = re.match(r"^([A-Ga-g])\s*([#b]?)\s*(m|min|minor|maj|major)?$", plain)
    if match is None:
        raise ValueError(tr("“{0}” is not a key. Type one such as A minor, F♯ or Bb.").format(text.strip()))
    tonic = (LETTERS[match[1].upper()] + {"#": 1, "b": -1}.get(match[2], 0)) % 12
    mode: Mode | None = None if match[3] is None else "major" if match[3].startswith("maj") else "minor"
    return tonic, mode


def relative_tonic(tonic: int, mode: Mode) -> int:
    """The tonic of the relative key: of the major key with the notes of a minor one, and the other way round."""
    return (tonic + (3 if mode == "minor" else -3)) % 12


def say_key(keys: tuple[Key, ...], tuning_cents: float, semitones: float = 0.0) -> str:
    """The likeliest key after a pitch change, and its distance from concert pitch in cents if that is audible."""
    if not keys:
        return NO_VALUE
    exact = keys[0].tonic + semitones + tuning_cents / 100.0
    nearest = round(exact)
    cents = round((exact - nearest) * 100.0)
    name = spoken_key(keys[0], nearest - keys[0].tonic)
    return name if abs(cents) < AS_IS_CENTS else f"{name} {'+' if cents > 0 else '−'}{abs(cents)} ct"


def say_runners_up(keys: tuple[Key, ...]) -> str:
    """``A minor 78 %, C major 12 %`` for those that are likely at all."""
    return ", ".join(f"{spoken_key(key)} {round(100 * key.confidence)} %" for key in keys if key.confidence >= 0.02)

"""File names from a pattern with fields: valid on every system, and inside their folder."""

import re
import string
from pathlib import PurePosixPath

from latespin.errors import Unusable
from latespin.language import tr

FIELDS = {
    "title": "the song’s title, or its file’s name",
    "artist": "who made it",
    "album": "the album it is from",
    "song": "the song’s file name without its ending",
    "version": "the version’s or the recipe’s name",
    "bpm": "the version’s beats per minute",
    "key": "the version’s key",
    "length": "how long the version is",
    "lufs": "the loudness asked for",
    "number": "the song’s number in the set",
}
DEFAULT_PATTERN = "{title} ({version})"
LONGEST_BYTES = 180
_FORBIDDEN = re.compile(r'[\x00-\x1f\x7f\ud800-\udfff<>:"/\\|?*]')
_RESERVED = {"con", "prn", "aux", "nul", *(f"com{n}" for n in range(1, 10)), *(f"lpt{n}" for n in range(1, 10))}
_EMPTY_BRACKETS = re.compile(r"[(\[{]\s*[)\]}]")


def check_pattern(pattern: str) -> None:
    """Raise Unusable where a pattern is empty, names an unknown field or leads out of its folder."""
    if not pattern.strip():
        raise Unusable(tr("The naming pattern is empty. Use something like {0}.").format(DEFAULT_PATTERN))
    for field in _parts(pattern)[1]:
        if field not in FIELDS:
            known = ", ".join(f"{{{name}}}" for name in FIELDS)
            raise Unusable(tr("The naming pattern has no field {{{0}}}. It can have {1}.").format(field, known))
    pieces = pattern.replace("\\", "/").split("/")
    if pattern.startswith(("/", "~")) or any(piece.strip() in ("", ".", "..") for piece in pieces):
        raise Unusable(
            tr("The naming pattern leads out of its folder. Leave out “..”, “~” and slashes at its beginning and end.")
        )


def named(pattern: str, values: dict[str, str]) -> PurePosixPath:
    """The relative path, without an ending, that a pattern gives; slashes in the pattern make folders. Raises Unusable."""
    check_pattern(pattern)
    pieces = []
    for piece in pattern.replace("\\", "/").split("/"):
        made = "".join(text + (_clean(values.get(field, "")) if field else "") for text, field in _pieces(piece))
        pieces.append(_tidy(made))
    if not all(pieces):
        raise Unusable(
            tr("The naming pattern {0} gives no name for this song: all of its fields are empty. Add {{song}}.").format(
                pattern
            )
        )
    return PurePosixPath(*pieces)


def filled(pattern: str, values: dict[str, str]) -> str:
    """A text with fields in braces, filled in as it is. Raises Unusable for unknown fields."""
    for field in _parts(pattern)[1]:
        if field not in FIELDS:
            known = ", ".join(f"{{{name}}}" for name in FIELDS)
            raise Unusable(tr("There is no field {{{0}}}. A tag can have {1}.").format(field, known))
    return " ".join(
        "".join(text + (values.get(field, "") if field else "") for text, field in _pieces(pattern)).split()
    )


def safe_name(text: str) -> str:
    """A file name, without an ending, from any text."""
    return _tidy(_clean(text)) or "Version"


def _pieces(pattern: str) -> list[tuple[str, str | None]]:
    try:
        return [(text, field) for text, field, _, _ in string.Formatter().parse(pattern)]
    except ValueError:
        raise Unusable(
            tr("In the naming pattern {0} a brace is open or closed alone. Write fields as {{title}}.").format(pattern)
        ) from None


def _parts(pattern: str) -> tuple[str, list[str]]:
    found = _pieces(pattern)
    return "".join(text for text, _ in found), [field for _, field in found if field is not None]


def _clean(value: str) -> str:
    """A field's value without what a file name cannot hold."""
    return _FORBIDDEN.sub("_", " ".join(value.split()))


def _tidy(name: str) -> str:
    """A name that every system takes: nothing forbidden, no empty brackets, no dots or spaces at its ends, not too long."""
    name = _FORBIDDEN.sub("_", name)
    while _EMPTY_BRACKETS.search(name):
        name = _EMPTY_BRACKETS.sub("", name)
    name = re.sub(r"\s+", " ", name)
    name = re.sub(r"^[\s\-–._]+|[\s\-–._]+$", "", name)
    while len(name.encode()) > LONGEST_BYTES:
        name = name[:-1].rstrip(" .")
    return f"{name}_" if name.lower().split(".")[0] in _RESERVED else name

"""Recipes and sessions as versioned JSON, with clear errors for wrong files."""

import contextlib
import re
from collections.abc import Callable
from typing import Annotated, Any, Literal, TypeVar, get_args

import msgspec
from msgspec.structs import replace

from latespin.errors import MOST_REPEATED, Unreadable, shortened
from latespin.language import tr
from latespin.model.arranging.relocation import SourceSongInfo, moved, relocated, with_places
from latespin.model.documents.migrations import FORMAT_VERSION, migrate
from latespin.model.moments.markers import Marker
from latespin.model.moments.moments import AnyMoment, EffectMoment
from latespin.model.pad import Pad
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Position, moved_to
from latespin.model.timing.song_sections import Sections
from latespin.model.tone_match import Tone
from latespin.model.version import Level, Stages, Version
from latespin.paths import URI, path_from_text, path_to_text

MOST_RECIPE_BYTES, MOST_SESSION_BYTES = 4 << 20, 64 << 20
UNFIT = "{0}: {1} Correct the file or choose another."
_WRONG_COLOUR = re.compile(r"stages\.colour\.effects\[(\d+)\]")
RECIPE_FORMAT = "late-spin recipe"
SESSION_FORMAT = "late-spin session"


Part = Literal["time", "colour", "moments", "ending", "level"]
PARTS: tuple[Part, ...] = get_args(Part)


class Recipe(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A version's settings without its track: a starting point to use again.

    parts : which of the stages it is about.  made_on : what is known of the song it was made on, which places in it are told from.
    """

    format: str = RECIPE_FORMAT
    format_version: int = FORMAT_VERSION
    name: str
    title: str
    summary: str = ""
    parts: tuple[Part, ...] = PARTS
    made_on: SourceSongInfo | None = None
    stages: Stages = Stages()

    def on(self, layout: Layout | None) -> "Recipe":
        """The same document, with placed items relocated to another song."""
        return (
            self if layout is None else replace(self, stages=relocated(self.stages, self.made_on, layout), made_on=None)
        )


class TrackReference(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The song of a session: its path, relative to the session's folder or absolute, its facts, and which sound track of a video it is."""

    path: str
    sha256: str
    sound_track: Annotated[int, msgspec.Meta(ge=1)] = 1


class Preference(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The choice made in a comparison. blind : without their names being seen.  at : when."""

    chosen: str
    among: tuple[str, ...]
    blind: bool = False
    at: str = ""


class Session(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Saved work: a track, its grid, its sections where they were corrected, its markers and its versions. chosen is the id of the version being worked on.

    references : songs whose tone versions are held against.  preferences : what was liked best, in the order it was said.
    pad : the settings of the pad maker used last.
    """

    format: str = SESSION_FORMAT
    format_version: int = FORMAT_VERSION
    track: TrackReference | None = None
    grid: Grid | None = None
    markers: tuple[Marker, ...] = ()
    sections: Sections = ()
    versions: tuple[Version, ...] = ()
    chosen: str = ""
    references: tuple[Tone, ...] = ()
    preferences: tuple[Preference, ...] = ()
    pad: Pad = Pad()

    def __post_init__(self) -> None:
        ids = [version.id for version in self.versions]
        if len(set(ids)) != len(ids):
            raise ValueError("two versions have the same id")

    @property
    def sound_track(self) -> int:
        """Which sound track of its file the song is."""
        return self.track.sound_track if self.track else 1

    def version(self, ident: str) -> Version | None:
        """The version with this id, if it is there."""
        return next((version for version in self.versions if version.id == ident), None)

    def on_grid(self, old: Grid | None, new: Grid | None) -> "Session":
        """The same document on a new grid: items on a beat stay on that beat."""
        if old == new:
            return self

        def change(place: Position, _: Position) -> Position:
            return moved_to(place, old, new)

        versions = tuple(replace(v, stages=with_places(v.stages, change)) for v in self.versions)
        markers = tuple(moved(marker, change) for marker in self.markers)
        return replace(
            self, versions=versions, markers=markers, sections=tuple(moved(part, change) for part in self.sections)
        )

    def files(self) -> tuple[str, ...]:
        """The paths of all files it is made from, each once: its song, dropped-in sounds, layers, responses, references."""
        found: dict[str, None] = {self.track.path: None} if self.track else {}

        def note(path: str) -> str:
            found.setdefault(path, None)
            return path

        self.with_sounds(note)
        return tuple(found)

    def with_sounds(self, change: Callable[[str], str]) -> "Session":
        """The same with the paths of dropped-in sounds and of files that effects need changed."""
        versions = tuple(_version_with_paths(version, change) for version in self.versions)
        return replace(self, versions=versions, references=tuple(_moved_tone(t, change) for t in self.references))


def files_of(stages: Stages) -> tuple[str, ...]:
    """The paths of all files that a version's stages are made from."""
    return Session(versions=(Version(id="", name="", stages=stages),)).files()


def _version_with_paths(version: Version, change: Callable[[str], str]) -> Version:
    """A version with all its paths changed; itself where none is, since most of hundreds have no files."""
    stages = version.stages
    placed = tuple(_moment_with_path(moment, change) for moment in stages.moments.placed)
    effects = tuple(_with_path(effect, change) for effect in stages.colour.effects)
    level = _with_reference_at(stages.level, change)
    pairs = zip((*placed, *effects, level), (*stages.moments.placed, *stages.colour.effects, stages.level), strict=True)
    if all(new is old for new, old in pairs):
        return version
    moments, colour = replace(stages.moments, placed=placed), replace(stages.colour, effects=effects)
    return replace(version, stages=replace(stages, moments=moments, colour=colour, level=level))


def _with_reference_at(level: Level, change: Callable[[str], str]) -> Level:
    """A Level stage with the path of its reference changed."""
    if level.match is None or level.match.reference is None:
        return level
    reference = _moved_tone(level.match.reference, change)
    return (
        level if reference is level.match.reference else replace(level, match=replace(level.match, reference=reference))
    )


Holder = TypeVar("Holder", bound=msgspec.Struct)


def _with_path(holder: Holder, change: Callable[[str], str]) -> Holder:
    """An effect or a moment with the path of its file changed, if it has any."""
    path = getattr(holder, "path", "")
    changed = change(path) if path else path
    return holder if changed == path else replace(holder, path=changed)


def _moment_with_path(moment: AnyMoment, change: Callable[[str], str]) -> AnyMoment:
    if isinstance(moment, EffectMoment):
        effect = _with_path(moment.effect, change)
        return moment if effect is moment.effect else replace(moment, effect=effect)
    return _with_path(moment, change)


def _moved_tone(tone: Tone, change: Callable[[str], str]) -> Tone:
    return _with_path(tone, change)


Document = TypeVar("Document", Recipe, Session)


def to_json(document: Recipe | Session) -> bytes:
    """Readable JSON, ending with a newline; the same value always gives the same bytes."""
    return msgspec.json.format(plain_json(document), indent=2) + b"\n"


def plain_json(value: msgspec.Struct) -> bytes:
    """JSON in one line, whatever bytes the paths in it have."""
    with contextlib.suppress(UnicodeEncodeError):  # from a path that is no text
        data = msgspec.json.encode(value)
        if URI.encode() not in data:
            return data
    return msgspec.json.encode(_with_paths(msgspec.to_builtins(value), path_to_text))


def _with_paths(plain: Any, change: Callable[[str], str]) -> Any:
    """Plain values with all their paths changed."""
    if isinstance(plain, dict):
        return {
            key: change(value) if key == "path" and isinstance(value, str) else _with_paths(value, change)
            for key, value in plain.items()
        }
    return [_with_paths(value, change) for value in plain] if isinstance(plain, list | tuple) else plain


def read_recipe(data: bytes, where: str) -> Recipe:
    """A recipe from its JSON. where names the file in errors. Raises Unreadable."""
    return _read(data, where, Recipe, RECIPE_FORMAT, tr("recipe"))


def read_what_can_be(data: bytes, where: str) -> tuple[Recipe, tuple[str, ...]]:
    """A recipe without its invalid effects, and what is wrong with them. Raises Unreadable for other faults."""
    faults: list[str] = []
    while True:
        try:
            return read_recipe(data, where), tuple(faults)
        except Unreadable as error:
            place = _WRONG_COLOUR.search(str(error))
            plain = msgspec.json.decode(data) if place is not None else {}
            effects = plain.get("stages", {}).get("colour", {}).get("effects")
            if place is None or effects is None:
                raise
            effect = effects.pop(int(place[1]))
            kind = effect.get("kind", "?") if isinstance(effect, dict) else "?"
            before, after = tr(UNFIT).format(where, "\0").split("\0")
            says = str(error).removeprefix(before).removesuffix(after)
            faults.append(tr("{0}, {1}: {2} It is left out; the rest is used.").format(where, kind, says))
            data = msgspec.json.encode(plain)


def read_session(data: bytes, where: str) -> Session:
    """A session from its JSON. where names the file in errors. Raises Unreadable."""
    return _read(data, where, Session, SESSION_FORMAT, tr("session"))


def _read(data: bytes, where: str, kind: type[Document], expected: str, word: str) -> Document:
    where = shortened(where)
    try:
        plain = msgspec.json.decode(data)
        if URI.encode() in data or b"\\u" in data:  # only these can hold a path that is no text
            plain = _with_paths(plain, path_from_text)
    except (msgspec.DecodeError, UnicodeDecodeError) as error:
        raise Unreadable(
            tr("{0} is not a {1}: it is not JSON ({2}). Choose another file.").format(where, word, shortened(error))
        ) from None
    except RecursionError:
        raise Unreadable(
            tr("{0} is not a {1}: it is nested too deeply. Choose another file.").format(where, word)
        ) from None
    if not isinstance(plain, dict) or plain.get("format") != expected:
        raise Unreadable(
            tr("{0} is not a {1}: its format should be “{2}”. Choose another file.").format(where, word, expected)
        )
    version = plain.get("format_version")
    if isinstance(version, int) and version > FORMAT_VERSION:
        raise Unreadable(
            tr(
                "{0} was saved by a newer Late Spin (format {1}; this one reads up to {2}). "
                "Update Late Spin to open it."
            ).format(where, version, FORMAT_VERSION)
        )
    if not isinstance(version, int) or version not in range(1, FORMAT_VERSION + 1):
        raise Unreadable(
            tr("{0} says format_version {1}; a {2} has {3}.").format(
                where, shortened(repr(version)), word, FORMAT_VERSION
            )
        )
    migrate(plain, version)
    try:
        return msgspec.convert(plain, type=kind)
    except msgspec.ValidationError as error:
        raise Unreadable(tr(UNFIT).format(where, explained(error))) from None
    except (RecursionError, OverflowError):
        raise Unreadable(
            tr("{0} is not a {1}: it is nested too deeply, or its numbers are too large. Choose another file.").format(
                where, word
            )
        ) from None


def explained(error: msgspec.ValidationError) -> str:
    """``In versions[0].stages.time: speed is 9 ×; it can be …`` from the library's message."""
    what, _, path = str(error).partition(" - at `")
    place = path.rstrip("`").removeprefix("$").lstrip(".")
    sentence = shortened(what.rstrip("."), 2 * MOST_REPEATED) + "."
    return tr("In {0}: {1}").format(place, sentence) if place else sentence

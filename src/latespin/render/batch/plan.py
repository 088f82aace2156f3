"""The plan of a set: songs × versions, each with file name, length, tempo, key and conflicts."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

import msgspec
from msgspec.structs import replace

from latespin.analysis.profile import Profile
from latespin.errors import Unusable
from latespin.language import tr
from latespin.media.audio.formats import BEST, FORMATS, Encoding
from latespin.media.files.atomic import check_room
from latespin.media.files.guard import Sources, is_source
from latespin.media.tags import AS_THEY_ARE, TagEdits
from latespin.model.arranging.arrangement import Arrangement, arrange
from latespin.model.arranging.relocation import SourceSongInfo, relocated
from latespin.model.documents.documents import Recipe, files_of
from latespin.model.text.describe import bpm_text, shift_semitones
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.values.file_names import filled, named
from latespin.model.values.key_names import say_key
from latespin.model.values.units import NO_VALUE, clock
from latespin.model.version import Level, Stages
from latespin.paths import exists
from latespin.render.batch.song_summary import SongSummary
from latespin.render.effects.context import EffectContext
from latespin.render.effects.problems import version_problems
from latespin.render.effects.sound_files import SoundLibrary
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch
from latespin.render.timeline.tail_lengths import tail_after


@dataclass(frozen=True)
class Choice:
    """A version to make of every song: the stages of a version or recipe, with a name.

    faults : parts of a recipe that had to be left out.  made_on : the song it was made on, where that is known.
    """

    name: str
    stages: Stages
    faults: tuple[str, ...] = ()
    made_on: SourceSongInfo | None = None


class BatchItem(msgspec.Struct, frozen=True, kw_only=True):
    """One file that is wanted.

    seconds, bpm, key : of the version, as expected.  target_lufs : None where the loudness stays as it is.  bytes : an estimate.
    conflict : why it cannot be written, empty where it can.  warnings : what will differ from what was asked.
    """

    number: int
    song: str
    sha256: str
    choice: str
    stages: Stages
    target: str
    encoding: Encoding = BEST
    excerpt: Excerpt | ExcerptSearch | None = None
    edits: TagEdits = AS_THEY_ARE
    seconds: float
    bpm: str
    key: str
    target_lufs: float | None
    bytes: int
    conflict: str = ""
    warnings: tuple[str, ...] = ()


def choices_of(recipes: Sequence[tuple[Recipe, tuple[str, ...]]]) -> tuple[Choice, ...]:
    """Choices from recipes, with notes on everything left out of each."""
    return tuple(
        Choice(recipe.title or recipe.name, recipe.stages, faults, recipe.made_on) for recipe, faults in recipes
    )


def plan_set(
    songs: Sequence[SongSummary],
    choices: Sequence[Choice],
    out: Path,
    pattern: str,
    suffix: str,
    encoding: Encoding = BEST,
    *,
    overwrite: bool = False,
    sources: Sources = (),
    excerpt: Excerpt | ExcerptSearch | None = None,
    tags: Sequence[tuple[str, str]] = (),
) -> list[BatchItem]:
    """Every song with every choice.  sources : more files that must not be written to.  tags : names and patterns of tags that are to be different. Raises Unusable for a pattern that can never do."""
    orders: list[BatchItem] = []
    for place, song in enumerate(songs, 1):
        for choice in choices:
            order = _order(len(orders), place, song, choice, out, pattern, suffix, encoding, tags)
            orders.append(order if excerpt is None else _shortened(order, excerpt))
    return _with_conflicts(orders, songs, sources, overwrite=overwrite)


def _order(
    number: int,
    place: int,
    song: SongSummary,
    choice: Choice,
    out: Path,
    pattern: str,
    suffix: str,
    encoding: Encoding,
    tags: Sequence[tuple[str, str]],
) -> BatchItem:
    stages, layout = relocated(choice.stages, choice.made_on, song.layout), song.layout
    arrangement = arrange(replace(stages, level=Level()), layout)
    context = _setting(song, arrangement)
    frames = arrangement.map.after_frames + tail_after(stages, arrangement, context)
    low, high = shift_semitones(stages.time.heard)
    key = say_key(song.reading.keys, song.reading.tuning_cents, low) if high - low < 0.05 else NO_VALUE
    bpm = bpm_text(stages.time, song.grid)
    target = stages.level.target(song.lufs) if stages.level.on else None
    values = {
        "title": song.title, "artist": song.artist, "album": song.album, "song": song.path.stem, "version": choice.name,
        "bpm": "" if bpm == NO_VALUE else bpm, "key": "" if key == NO_VALUE else key, "length": clock(frames / song.rate).replace(":", "."),
        "lufs": "" if target is None else f"{target:.1f} LUFS", "number": f"{place:02d}",
    }  # fmt: skip
    problems = [problem.says for problem in version_problems(stages, arrangement, context)]
    path = out / named(pattern, values)
    return BatchItem(
        number=number, song=str(song.path), sha256=song.sha256, choice=choice.name, stages=stages,
        target=str(path.with_name(path.name + suffix)), encoding=encoding,
        edits=TagEdits(tuple((name, filled(value, values)) for name, value in tags)), seconds=frames / song.rate, bpm=bpm, key=key, target_lufs=target,
        bytes=FORMATS[suffix].bytes_for(frames / song.rate, song.rate, song.channels, encoding), warnings=(*song.warnings, *choice.faults, *problems),
    )  # fmt: skip


def _shortened(order: BatchItem, excerpt: Excerpt | ExcerptSearch) -> BatchItem:
    """The order for an excerpt of what it was for."""
    wanted = excerpt.seconds if isinstance(excerpt, ExcerptSearch) else excerpt.stop - excerpt.start
    seconds = min(order.seconds, wanted)
    return replace(
        order, excerpt=excerpt, seconds=seconds, bytes=round(order.bytes * seconds / max(1e-9, order.seconds))
    )


def _setting(song: SongSummary, arrangement: Arrangement) -> EffectContext:
    """Context of effects for predicting their tails."""

    def unknown() -> Profile:
        raise AssertionError("no colour tells its tail from the song's profile")

    return EffectContext(
        song.rate, BeatClock(arrangement.song, song.grid, song.rate), SoundLibrary(song.rate), arrangement.song.after_frames, unknown, lambda: False
    )  # fmt: skip


def is_there() -> str:
    """What is said of a file whose name is taken, and which a set that goes on may have written itself."""
    return tr("A file of this name is there already. Choose another folder or pattern, or allow overwriting.")


def _with_conflicts(
    orders: list[BatchItem], songs: Sequence[SongSummary], more: Sources, *, overwrite: bool
) -> list[BatchItem]:
    """Each order with what stands in its way: another of the same name, a file that is there, the song itself."""
    names = Counter(order.target.casefold() for order in orders)
    used = {file for order in orders for file in files_of(order.stages)}
    sources = {str(song.path) for song in songs} | used | set(map(str, more))
    checked = []
    for order in orders:
        target, conflict = Path(order.target), ""
        if exists(target) and is_source(target, sources):
            conflict = tr("This file is one of the songs, which are never changed. Choose another folder or pattern.")
        elif names[order.target.casefold()] > 1:
            conflict = tr(
                "Another file of this export has the same name. Add {version}, {song} or {number} to the pattern."
            )
        elif target.is_dir():
            conflict = tr("A folder has this name. Choose another pattern.")
        elif exists(target) and not overwrite:
            conflict = is_there()
        checked.append(replace(order, conflict=conflict))
    return checked


def refuse_conflicts(orders: Sequence[BatchItem]) -> None:
    """Raise Unusable where anything stands in the way of any order, and Unwritable where the disk has no room for all."""
    found = [order for order in orders if order.conflict]
    if found:
        says = tr("{0} of {1} files cannot be written as planned; nothing was begun.").format(len(found), len(orders))
        listed = [f"{Path(order.target).name}: {order.conflict}" for order in found[:3]]
        more = [tr("And {0} more.").format(len(found) - 3)] if len(found) > 3 else []
        raise Unusable(" ".join((says, *listed, *more)))
    if orders:
        check_room(
            Path(orders[0].target).parent,
            sum(order.bytes for order in orders),
            tr("the {0} files together").format(len(orders)),
        )

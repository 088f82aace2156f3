"""Options of the command line become the stages of a version."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click
from msgspec.structs import replace

from latespin.jobs import Work
from latespin.model.moments.endings import ENDINGS, Ending, NoEnding
from latespin.model.moments.moments import Cover, CoverWay
from latespin.model.timing.beat_grid import Grid, grid_of
from latespin.model.timing.positions import Layout, Position, layout_of, parse_place
from latespin.model.timing.tempo_curve import Curve
from latespin.model.timing.time_map import fitted_speed
from latespin.model.values.parameters import BPM, SPEED
from latespin.model.values.units import clock
from latespin.model.version import HALFTIME_BARS, Level, Stages, Time, speed_limits

if TYPE_CHECKING:
    from latespin.media.track import Track


def check_together(length: float | None, bpm: float | None, source_bpm: float | None, asked: dict[str, Any]) -> None:
    """Refuse options that contradict each other, or that lack another."""
    given = [name for name, value in (("--speed", asked["speed"]), ("--length", length), ("--bpm", bpm)) if value]
    if len(given) > 1:
        raise click.UsageError(f"{' and '.join(given)} are one value; give one of them.")
    if bpm and source_bpm is None:
        raise click.UsageError(f"--bpm needs the track’s tempo: add --source-bpm, {BPM.low:g} to {BPM.high:g}.")
    if asked["octave_down"] and not asked["halftime"]:
        raise click.UsageError("--octave-down goes with --halftime; use --semitones -12 to move the pitch alone.")


def speed_for(bpm: float, source_bpm: float) -> float:
    """The speed that gives a tempo. Raises click.UsageError if it is out of range."""
    speed = bpm / source_bpm
    if not SPEED.low <= speed <= SPEED.high:
        slowest, quickest = source_bpm * SPEED.low, source_bpm * SPEED.high
        raise click.UsageError(
            f"--bpm {bpm:g} is out of reach; from {source_bpm:g} it can be {slowest:g} to {quickest:g}."
        )
    return speed


def asked_stages(
    stages: Stages, loudness: float | str | None, ceiling: float | None, limit_by: float | None, **time_asked: Any
) -> Stages:
    """Stages with the options applied."""
    level = stages.level
    if loudness == "off":
        level = replace(level, on=False)
    elif loudness == "before":
        level = replace(level, on=True, as_before=True)
    elif loudness is not None:
        level = replace(level, on=True, as_before=False, target_lufs=float(loudness))
    if loudness != "off":
        level = _limited(level, ceiling, limit_by)
    return replace(stages, time=_time(stages.time, **time_asked), level=level)


def _limited(level: Level, ceiling: float | None, limit_by: float | None) -> Level:
    """A Level stage with the ceiling and the allowance asked for, which need no target."""
    if ceiling is None and limit_by is None:
        return level
    level = level if level.on else Level(target_lufs=None)
    level = level if ceiling is None else replace(level, ceiling_dbtp=ceiling)
    return level if limit_by is None else replace(level, allowance_db=limit_by)


def _time(
    time: Time,
    speed_curve: Curve | None,
    hold_pitch: bool,
    keep_formants: bool,
    formants: float | None,
    octave_down: bool,
    **values: Any,
) -> Time:
    """A Time stage with the options applied."""
    changes = {name: value for name, value in values.items() if value is not None}
    if speed_curve is not None:
        changes = {"speed": 1.0, **changes, "curve": speed_curve}
    if hold_pitch:
        changes["pitch"] = "held"
    if keep_formants:
        changes["formants"] = "kept"
    if formants is not None:
        changes["formant_semitones"] = formants
    if octave_down:
        changes["octave_down"] = True
    return replace(time, on=True, **changes) if changes else time


def layout_for(
    track: "Track",
    stages: Stages,
    ending: tuple[str, str] | None,
    grid: Grid | None,
    work: Work,
) -> Layout:
    """Grid for moments and the ending: the one given, or the detected one if they need a grid."""
    from latespin.media.storage.analysis_cache import read_track
    from latespin.render.effects.problems import goes_by_beats

    by_beats = stages.moments.heard or any(goes_by_beats(effect) for _, effect in stages.heard_effects)
    by_beats = by_beats or stages.time.heard.halftime in HALFTIME_BARS
    if ending is None and not by_beats and isinstance(stages.ending.heard, NoEnding):
        return Layout(track.frames, track.rate, grid)
    reading = read_track(track, work)
    return layout_of(track.frames, track.rate, grid or grid_of(reading), reading)


def with_ending(stages: Stages, asked: tuple[str, str] | None, grid: Grid | None) -> Stages:
    """The stages with the ending asked for; of the same kind, a recipe's other settings are kept."""
    if asked is None:
        return stages
    kind, where = asked
    place = None if where == "auto" else parse_place(where, grid)
    way = stages.ending.way if type(stages.ending.way) is ENDINGS[kind] else ENDINGS[kind]()
    return replace(stages, ending=Ending(way=replace(way, at=place)))


def fitted_to(stages: Stages, track: "Track", length: float) -> Stages:
    """The stages with the speed at which the track's music lasts ``length``."""
    speed, limits = fitted_speed(stages.time, track.frames, length * track.rate), speed_limits(stages.time)
    if not limits.low <= speed <= limits.high:
        shortest, longest = (clock(length * speed / limit, 1) for limit in (limits.high, limits.low))
        raise click.UsageError(f"--length {clock(length, 1)} is out of reach; it can be {shortest} to {longest}.")
    return replace(stages, time=replace(stages.time, on=True, speed=speed))


def covered(stages: Stages, path: Path, way: CoverWay) -> tuple[Stages, tuple[str, ...]]:
    """The stages with a cover over each range of a marker file, and a note on markers that are none. Raises Unreadable, click.UsageError."""
    from latespin.media.exchange.marker_files import read_marks

    marks = read_marks(path)
    ranges = [(label, start, end) for label, start, end in marks if end is not None and end > start]
    if not ranges:
        raise click.UsageError(f"{path.name} marks positions only; --cover needs ranges, with an end for each.")
    covers = tuple(
        Cover(id=f"cover-{n}", label=label, start=Position(seconds=start), end=Position(seconds=end), way=way)
        for n, (label, start, end) in enumerate(ranges, 1)
    )
    left = len(marks) - len(ranges)
    notes = (f"{left} of {len(marks)} markers in {path.name} have no end after their start and are not covered.",)
    made = replace(stages, moments=replace(stages.moments, on=True, placed=(*stages.moments.heard, *covers)))
    return made, notes if left else ()

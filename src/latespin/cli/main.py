"""The command line: the same work without a window."""

import contextlib
import math
import os
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any, NoReturn, get_args

import click
import numpy as np

from latespin import __version__
from latespin.cli.batch import make_set
from latespin.cli.options import EndingOption, LengthOption, LoudnessOption, SpeedCurveOption, SpeedOption
from latespin.cli.output import accept_any_names, echo_json
from latespin.cli.pad import pad
from latespin.cli.progress import progress
from latespin.errors import MOST_REPEATED, Cancelled, InterruptedWork, LateSpinError, shortened
from latespin.interruption import listen
from latespin.jobs import Share, Work
from latespin.model.arranging.relocation import laid
from latespin.model.documents.documents import Recipe
from latespin.model.moments.endings import ENDINGS, Ending, NoEnding
from latespin.model.timing.beat_grid import Grid, grid_of
from latespin.model.timing.positions import Layout, layout_of, parse_place
from latespin.model.timing.tempo_curve import Curve
from latespin.model.timing.time_map import TimeMap, fitted_speed
from latespin.model.values.key_names import key_name
from latespin.model.values.parameters import (
    ALLOWANCE,
    BEATS_PER_BAR,
    BPM,
    CEILING,
    FIRST_BEAT,
    FORMANT_SEMITONES,
    SEMITONES,
    SPEED,
    TARGET,
)
from latespin.model.values.units import clock
from latespin.model.version import HALFTIME_BARS, UNTOUCHED, CharacterName, Level, Stages, Time, speed_limits

if TYPE_CHECKING:
    from latespin.analysis.results import Reading
    from latespin.media.track import Track

SESSION_SUFFIX = ".latespin"
GIVEN_WRONG, OWN_FAULT, INTERRUPTED = 2, 1, 130


def main() -> NoReturn:
    """Run the command line. Exit codes: 0 done, 2 something given is wrong, 1 our fault or a part of a set failed, 130 interrupted."""
    listen()
    accept_any_names()
    try:
        code = commands.main(standalone_mode=False)
        sys.stdout.flush()
    except click.ClickException as error:
        _fail(error.format_message(), GIVEN_WRONG)
    except (LateSpinError, UnicodeError) as error:
        _fail(str(error), GIVEN_WRONG)
    except (click.Abort, KeyboardInterrupt, Cancelled):
        _fail("Interrupted; nothing unfinished is left behind.", INTERRUPTED)
    except InterruptedWork as stop:
        _fail(str(stop), INTERRUPTED)
    except BrokenPipeError:
        _give_up_printing()
        sys.exit(OWN_FAULT)
    except OSError as error:
        if error.filename is not None:
            raise
        _give_up_printing()
        _fail(
            f"What there is to say could not be written: {error.strerror}. Make room, or send it elsewhere.",
            GIVEN_WRONG,
        )
    except MemoryError:
        _fail("There is not enough memory for this song. Close other programs, or cut the song.", GIVEN_WRONG)
    sys.exit(code if isinstance(code, int) else 0)


def _fail(sentence: str, code: int) -> NoReturn:
    for word in sys.argv:
        if len(word) > MOST_REPEATED:
            sentence = sentence.replace(word, shortened(word))
    with contextlib.suppress(OSError):
        click.echo(f"latespin: {' '.join(sentence.split())}", err=True)
    sys.exit(code)


def _give_up_printing() -> None:
    """What could not be printed is not tried again when the process ends."""
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(__version__, prog_name="Late Spin")
def commands() -> None:
    """Late Spin: altered versions of whole songs, at a level you can trust."""


@commands.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the facts as JSON.")
def inspect(song: Path, as_json: bool) -> None:
    """Print SONG's length, loudness and true peak, all channels measured as they are, and its tempo, bars, key and sections."""
    from latespin.analysis.facts import facts_of
    from latespin.media.storage.analysis_cache import read_track
    from latespin.media.track import open_track

    with progress("Reading", as_json) as work:
        track = open_track(song, Share(work, 0.0, 0.5), fold=False)
        facts = facts_of(track.sound, track.rate)
        reading = read_track(track, Share(work, 0.5, 1.0))
    _say_warnings(track.warnings)
    _print(
        {
            "file": str(song),
            "title": track.title,
            "duration_s": facts.seconds,
            "frames": facts.frames,
            "sample_rate": facts.rate,
            "channels": facts.channels,
            "integrated_lufs": facts.loudness.integrated_lufs,
            "max_momentary_lufs": facts.loudness.max_momentary_lufs,
            "max_short_term_lufs": facts.loudness.max_short_term_lufs,
            "lra_lu": facts.loudness.range_lu,
            "true_peak_dbtp": facts.true_peak_dbtp,
            "loudest_s": facts.loudest_seconds,
            **_said_of(reading),
            "sha256": track.sha256,
            "warnings": list(track.warnings),
        },
        as_json,
    )


def _said_of(reading: "Reading") -> dict[str, Any]:
    """What was read, in plain values; null where nothing steady or tonal was found."""
    beats, key = reading.beats, reading.keys[0] if reading.keys else None
    return {
        "bpm": beats.bpm if beats else None,
        "bpm_confidence": beats.bpm_confidence if beats else 0.0,
        "steady": beats.steady if beats else None,
        "metre": beats.beats_per_bar if beats else None,
        "beats": list(beats.times) if beats else [],
        "downbeats": list(beats.downbeats) if beats else [],
        "key": key_name(key) if key else None,
        "key_confidence": key.confidence if key else 0.0,
        "tuning_cents": reading.tuning_cents,
        "sections": [
            {"start": part.start, "end": part.end, "label": part.label, "energy": part.energy}
            for part in reading.sections
        ],
        "drums_enter_s": reading.drums_enter,
    }


@commands.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--recipe", metavar="NAME|FILE.json", help="Start from a shipped recipe or a recipe file.")
@click.option("--version", "wanted", metavar="NAME", help="Of a session: which version; the chosen one unless given.")
@click.option(
    "--speed",
    type=SpeedOption(),
    help=SPEED.sentence + " Also 80 %, or a change: -20%, +25%. Below 0.25 with --character smear --hold-pitch.",
)
@click.option(
    "--length", type=LengthOption(), help="Length of the music, in place of a speed. The reverb tail comes on top."
)
@click.option("--semitones", type=click.FloatRange(SEMITONES.low, SEMITONES.high), help=SEMITONES.sentence)
@click.option(
    "--bpm",
    type=click.FloatRange(BPM.low * SPEED.low, BPM.high * SPEED.high),
    help="The tempo wanted, instead of a speed; needs --source-bpm.",
)
@click.option("--source-bpm", type=click.FloatRange(BPM.low, BPM.high), help=BPM.sentence)
@click.option(
    "--first-beat",
    type=click.FloatRange(FIRST_BEAT.low, FIRST_BEAT.high),
    default=0.0,
    help=FIRST_BEAT.sentence + " Seconds.",
)
@click.option("--beats-per-bar", type=click.IntRange(1, 12), default=4, help=BEATS_PER_BAR.sentence)
@click.option(
    "--speed-curve",
    type=SpeedCurveOption(),
    help="Speeds along the song: 0=0.9,0.4=1.0,1=1.15; 0 is its start, 1 its end.",
)
@click.option("--character", type=click.Choice(list(get_args(CharacterName))), help="What stretching keeps best.")
@click.option("--keep-formants", is_flag=True, help="Keep the formants of voices when the pitch moves.")
@click.option(
    "--formants", type=click.FloatRange(FORMANT_SEMITONES.low, FORMANT_SEMITONES.high), help=FORMANT_SEMITONES.sentence
)
@click.option(
    "--halftime",
    type=click.Choice(["song", *HALFTIME_BARS]),
    help="Half speed: the whole song, or the first half of each 1, 2 or 4 bars over all of them; bars are read unless --source-bpm is given.",
)
@click.option("--octave-down", is_flag=True, help="Let the pitch go down an octave with --halftime.")
@click.option("--hold-pitch", is_flag=True, help="Keep the pitch where it is; otherwise it follows the speed.")
@click.option(
    "--ending",
    type=EndingOption(),
    help="ring-out, tape-stop, echo, fade or stop, at a bar (61, 61.3), a time (3:05.2) or auto: the best strong bar line near the end.",
)
@click.option(
    "--loudness",
    type=LoudnessOption(),
    help=TARGET.sentence + " “before” makes it as loud as the track, “off” leaves the level untouched.",
)
@click.option("--limit-by", type=click.FloatRange(ALLOWANCE.low, ALLOWANCE.high), help=ALLOWANCE.sentence)
@click.option("--ceiling", type=click.FloatRange(CEILING.low, CEILING.high), help=CEILING.sentence)
@click.option("--depth", type=click.Choice(["16", "24", "float"]), help="Bits of WAV (default float) and FLAC (24).")
@click.option("--overwrite", is_flag=True, help="Replace OUT if it exists.")
@click.option("--json", "as_json", is_flag=True, help="Print the facts of the result as JSON.")
def render(
    song: Path,
    out: Path,
    length: float | None,
    bpm: float | None,
    source_bpm: float | None,
    first_beat: float,
    beats_per_bar: int,
    wanted: str | None,
    depth: Any,
    overwrite: bool,
    as_json: bool,
    **asked: Any,
) -> None:
    """Write a version of SONG, or one of a session's, to OUT; its ending says the format: .wav .flac .ogg .opus .mp3."""
    from latespin.media.track import open_track
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.export.export import check_export_target, export
    from latespin.render.loading import open_version
    from latespin.render.recipes import load_recipe

    faults: tuple[str, ...] = ()
    found: Recipe | None = None
    ending, recipe = asked.pop("ending"), asked.pop("recipe")
    _check_together(length, bpm, source_bpm, asked)
    if bpm is not None and source_bpm is not None:
        asked["speed"] = _speed_for(bpm, source_bpm)
    grid = Grid(bpm=source_bpm, first_beat_seconds=first_beat, beats_per_bar=beats_per_bar) if source_bpm else None
    with progress("Rendering", as_json) as work:
        if song.suffix.lower() == SESSION_SUFFIX:
            if recipe is not None:
                raise click.UsageError("A session has versions of its own; give --version instead of --recipe.")
            track, stages, layout = open_version(song, wanted, Share(work, 0.0, 0.3))
            stages, grid = _stages(stages, **asked), grid or layout.grid
        elif wanted is not None:
            raise click.UsageError("--version goes with a session; a song has --recipe.")
        else:
            found, faults = load_recipe(recipe) if recipe is not None else (None, ())
            stages = _stages(found.stages if found else UNTOUCHED, **asked)
            track = open_track(song, Share(work, 0.0, 0.1))
        check_export_target(out, overwrite=overwrite, sources=(track.path,))
        if length is not None:
            stages = _fitted(stages, track, length)
        layout = _laid_out(track, stages, ending, grid, Share(work, 0.1, 0.3))
        stages = _ended(laid(stages, found.made_on if found else None, layout), ending, layout.grid)
        readers = TrackRenderer(track, layout=layout)
        result = export(readers, stages, out, Share(work, 0.3, 1.0), depth=depth, overwrite=overwrite)
    notes = [*track.warnings, *faults, *result.notes]
    _say_warnings(tuple(notes))
    facts = result.facts
    _print(
        {
            "file": str(out),
            "frames": facts.frames,
            "sample_rate": facts.rate,
            "channels": facts.channels,
            "length_s": facts.seconds,
            "integrated_lufs": facts.loudness.integrated_lufs,
            "true_peak_dbtp": facts.true_peak_dbtp,
            "gain_db": result.plan.gain_db,
            "limiter_max_reduction_db": result.plan.reduction_db,
            "seconds_taken": result.seconds_taken,
            "notes": notes,
        },
        as_json,
    )


def _check_together(length: float | None, bpm: float | None, source_bpm: float | None, asked: dict[str, Any]) -> None:
    """Refuse options that contradict each other, or that lack another."""
    given = [name for name, value in (("--speed", asked["speed"]), ("--length", length), ("--bpm", bpm)) if value]
    if len(given) > 1:
        raise click.UsageError(f"{' and '.join(given)} are one value; give one of them.")
    if bpm and source_bpm is None:
        raise click.UsageError(f"--bpm needs the track’s tempo: add --source-bpm, {BPM.low:g} to {BPM.high:g}.")
    if asked["octave_down"] and not asked["halftime"]:
        raise click.UsageError("--octave-down goes with --halftime; use --semitones -12 to move the pitch alone.")


def _speed_for(bpm: float, source_bpm: float) -> float:
    speed = bpm / source_bpm
    if not SPEED.low <= speed <= SPEED.high:
        slowest, quickest = source_bpm * SPEED.low, source_bpm * SPEED.high
        raise click.UsageError(
            f"--bpm {bpm:g} is out of reach; from {source_bpm:g} it can be {slowest:g} to {quickest:g}."
        )
    return speed


def _stages(
    stages: Stages, loudness: float | str | None, ceiling: float | None, limit_by: float | None, **time_asked: Any
) -> Stages:
    """Stages with what was asked for put in."""
    from msgspec.structs import replace

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
    from msgspec.structs import replace

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
    """A Time stage with what was asked for put in."""
    from msgspec.structs import replace

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


def _laid_out(
    track: "Track",
    stages: Stages,
    ending: tuple[str, str] | None,
    grid: Grid | None,
    work: Work,
) -> Layout:
    """What moments and the ending are placed on: the grid given, else, where they need one, the one that is read."""
    from latespin.media.storage.analysis_cache import read_track
    from latespin.render.effects.problems import goes_by_beats

    by_beats = stages.moments.heard or any(goes_by_beats(effect) for effect in stages.colour.heard)
    by_beats = by_beats or stages.time.heard.halftime in HALFTIME_BARS
    if ending is None and not by_beats and isinstance(stages.ending.heard, NoEnding):
        return Layout(track.frames, track.rate, grid)
    reading = read_track(track, work)
    return layout_of(track.frames, track.rate, grid or grid_of(reading), reading)


def _ended(stages: Stages, asked: tuple[str, str] | None, grid: Grid | None) -> Stages:
    """The stages with the ending asked for; of the same kind, a recipe's other settings are kept."""
    from msgspec.structs import replace

    if asked is None:
        return stages
    kind, where = asked
    place = None if where == "auto" else parse_place(where, grid)
    way = stages.ending.way if type(stages.ending.way) is ENDINGS[kind] else ENDINGS[kind]()
    return replace(stages, ending=Ending(way=replace(way, at=place)))


def _fitted(stages: Stages, track: "Track", length: float) -> Stages:
    """The stages with the speed at which the track's music lasts ``length``."""
    from msgspec.structs import replace

    speed, limits = fitted_speed(stages.time, track.frames, length * track.rate), speed_limits(stages.time)
    if not limits.low <= speed <= limits.high:
        shortest, longest = (clock(length * speed / limit, 1) for limit in (limits.high, limits.low))
        raise click.UsageError(f"--length {clock(length, 1)} is out of reach; it can be {shortest} to {longest}.")
    return replace(stages, time=replace(stages.time, on=True, speed=speed))


@commands.command("map")
@click.argument("file", type=click.Path(path_type=Path))
@click.option("--version", "wanted", metavar="NAME", help="Which version of a session; the chosen one unless given.")
@click.option("--recipe", metavar="NAME|FILE.json", help="Of a song: the recipe whose map is wanted.")
@click.option("--ending", type=EndingOption(), help="Of a song: how it ends, and where.")
@click.option("--json", "as_json", is_flag=True, help="Print the map as JSON.")
def time_map(file: Path, wanted: str | None, recipe: str | None, ending: tuple[str, str] | None, as_json: bool) -> None:
    """Print which stretch of the track sounds over which stretch of a version: FILE is a session or a song."""
    from latespin.model.arranging.arrangement import arrange
    from latespin.render.loading import open_version

    with progress("Reading", as_json) as work:
        if file.suffix.lower() == SESSION_SUFFIX:
            _, stages, layout = open_version(file, wanted, work)
        else:
            from latespin.media.track import open_track
            from latespin.render.recipes import find_recipe

            found = find_recipe(recipe) if recipe is not None else Recipe(name="", title="", stages=UNTOUCHED)
            stages = found.stages
            track = open_track(file, Share(work, 0.0, 0.5))
            layout = _laid_out(track, stages, ending, None, Share(work, 0.5, 1.0))
            stages = _ended(found.on(layout).stages, ending, layout.grid)
    arrangement = arrange(stages, layout)
    _say_warnings(tuple(problem.says for problem in arrangement.problems))
    spans = _spans_of(arrangement.map)
    if as_json:
        facts = {
            "sample_rate": layout.rate, "before_frames": layout.frames, "after_frames": arrangement.map.after_frames, "spans": spans,
            "problems": [problem.says for problem in arrangement.problems],
        }  # fmt: skip
        echo_json(facts)
        return
    for span in spans:
        what = "silence" if span["silent"] else f"{span['speed_start']:.3f}× to {span['speed_end']:.3f}×"
        times = [
            clock(span[name] / layout.rate, 3) for name in ("after_start", "after_stop", "before_start", "before_stop")
        ]
        click.echo(f"After {times[0]} to {times[1]}: Before {times[2]} to {times[3]}, {what}")


def _spans_of(made: TimeMap) -> list[dict[str, Any]]:
    """Each span with the frames it covers on both sides and its speed, source frames for every frame, at both ends."""
    found = []
    for span in made.spans:
        ends = span.before_of(np.array([span.after_start, span.after_stop], dtype=np.float64)).tolist()
        speeds = [0.0, 0.0] if span.silent else [span.speed_at(span.after_start), span.speed_at(span.after_stop)]
        found.append(
            {
                "after_start": span.after_start, "after_stop": span.after_stop, "before_start": ends[0], "before_stop": ends[1],
                "speed_start": speeds[0], "speed_end": speeds[1], "silent": span.silent, "fade_frames": span.fade,
            }
        )  # fmt: skip
    return found


@commands.command()
@click.option("--json", "as_json", is_flag=True, help="Print them as JSON.")
def recipes(as_json: bool) -> None:
    """List the recipes that ship with Late Spin."""
    from latespin.model.text.describe import say_version
    from latespin.render.recipes import shipped_recipes

    shipped = shipped_recipes()
    if as_json:
        rows = [
            {"name": r.name, "title": r.title, "summary": r.summary, "does": say_version(r.stages)} for r in shipped
        ]
        echo_json(rows, 2)
        return
    for recipe in shipped:
        click.echo(f"{recipe.name:16} {recipe.summary}  [{say_version(recipe.stages)}]")


commands.add_command(pad)
commands.add_command(make_set)


@commands.command("open")
@click.argument("file", type=click.Path(path_type=Path), required=False)
@click.option("--demo", is_flag=True, help="Open the demo session.")
def open_window(file: Path | None, demo: bool) -> None:
    """Open the window, with a song or a session in it."""
    from latespin.desktop.app import run

    code = run(file, demo=demo)
    if code:
        sys.exit(code)


@commands.command("warm-up", hidden=True)
def warm_up() -> None:
    """Compile all kernels into their cache, so that nobody waits for it later."""
    from latespin.render.compile_kernels import compile_kernels

    compile_kernels()


def _say_warnings(warnings: tuple[str, ...]) -> None:
    for warning in warnings:
        click.echo(f"latespin: {warning}", err=True)


def _print(facts: dict[str, Any], as_json: bool) -> None:
    """JSON with null for what is not defined, or a line for each fact."""
    plain = {name: _finite(value) for name, value in facts.items()}
    if as_json:
        echo_json(plain)
        return
    for name, value in plain.items():
        if value in ([], ""):
            continue
        shown = "–" if value is None else f"{value:.3f}" if isinstance(value, float) else value
        click.echo(f"{name:26} {_in_a_line(shown) if isinstance(shown, list) else shown}")


def _in_a_line(values: list[Any]) -> str:
    """A list in few words: sections by label and time, long lists of times by their first and how many there are."""
    if isinstance(values[0], dict):
        return ", ".join(f"{part['label']} {clock(part['start'])}" for part in values)
    if isinstance(values[0], float):
        return f"{len(values)}, the first at {values[0]:.3f} s"
    return "; ".join(values)


def _finite(value: Any) -> Any:
    return None if isinstance(value, float) and not math.isfinite(value) else value

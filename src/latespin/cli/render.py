"""``latespin render``: one version of one song to a file."""

from pathlib import Path
from typing import TYPE_CHECKING, Any, get_args

import click

from latespin.cli.excerpts import excerpt_of, excerpt_options
from latespin.cli.options import (
    SESSION_SUFFIX,
    EndingOption,
    LengthOption,
    LoudnessOption,
    SpeedCurveOption,
    SpeedOption,
    edits_of,
    encoding_of,
    encoding_options,
    parameter_option,
    sound_track_option,
    tag_option,
)
from latespin.cli.output import print_facts, say_warnings
from latespin.cli.progress import progress
from latespin.cli.stages import asked_stages, check_together, covered, fitted_to, layout_for, speed_for, with_ending
from latespin.cli.video import pictures_for, refuse_video_options, video_options
from latespin.jobs import Share, Work
from latespin.model.arranging.relocation import SourceSongInfo, relocated
from latespin.model.documents.overrides import overridden
from latespin.model.moments.moments import CoverWay
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout
from latespin.model.values.parameters import BEATS_PER_BAR, BPM, FIRST_BEAT, SPEED, TARGET
from latespin.model.version import HALFTIME_BARS, UNTOUCHED, CharacterName, Level, Stages, Time

if TYPE_CHECKING:
    from latespin.media.audio.formats import Encoding
    from latespin.media.track import Track
    from latespin.render.export.export import ExportResult


@click.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option(
    "--recipe",
    metavar="NAME|FILE.json",
    multiple=True,
    help="Start from a shipped recipe or a recipe file; several are laid over one another.",
)
@sound_track_option
@click.option("--version", metavar="NAME", help="Of a session: the version to render; the chosen one by default.")
@click.option(
    "--speed",
    type=SpeedOption(),
    help=SPEED.sentence + " Also 80 %, or a change: -20%, +25%. Below 0.25 with --character smear --hold-pitch.",
)
@click.option(
    "--length", type=LengthOption(), help="Length of the music, in place of a speed. The reverb tail comes on top."
)
@parameter_option(Time, "semitones")
@click.option(
    "--bpm",
    type=click.FloatRange(BPM.low * SPEED.low, BPM.high * SPEED.high),
    help="Tempo of the version, in place of a speed; needs --source-bpm.",
)
@click.option("--source-bpm", type=click.FloatRange(BPM.low, BPM.high), help=BPM.sentence)
@click.option(
    "--first-beat",
    type=click.FloatRange(FIRST_BEAT.low, FIRST_BEAT.high),
    default=0.0,
    help=FIRST_BEAT.sentence + " In seconds.",
)
@click.option("--beats-per-bar", type=click.IntRange(1, 12), default=4, help=BEATS_PER_BAR.sentence)
@click.option(
    "--speed-curve",
    type=SpeedCurveOption(),
    help="Speeds over the song: 0=0.9,0.4=1.0,1=1.15, where 0 is its start and 1 its end.",
)
@click.option(
    "--character", type=click.Choice(list(get_args(CharacterName))), help="What time-stretching preserves best."
)
@click.option("--keep-formants", is_flag=True, help="Keep the formants of voices when the pitch moves.")
@parameter_option(Time, "formant_semitones", "--formants")
@click.option(
    "--halftime",
    type=click.Choice(["song", *HALFTIME_BARS]),
    help="Half speed: the whole song, or the first half of each 1, 2 or 4 bars over all of them. "
    "Bars are detected unless --source-bpm is given.",
)
@click.option("--octave-down", is_flag=True, help="Lower the pitch by an octave with --halftime.")
@click.option("--hold-pitch", is_flag=True, help="Keep the pitch; otherwise it follows the speed.")
@click.option(
    "--ending",
    type=EndingOption(),
    help="ring-out, tape-stop, echo, fade or stop, at a bar (61, 61.3), a time (3:05.2) or auto: "
    "the best strong bar line near the end.",
)
@click.option(
    "--loudness",
    type=LoudnessOption(),
    help=TARGET.sentence + " “before” keeps the track’s loudness, “off” leaves the level untouched.",
)
@click.option(
    "--cover",
    type=click.Path(path_type=Path),
    help="Make the ranges of a marker file (CSV, or WAV with cue points) unheard.",
)
@click.option(
    "--cover-by", type=click.Choice(list(get_args(CoverWay))), default="silence", help="What plays in a covered range."
)
@parameter_option(Level, "allowance_db", "--limit-by")
@parameter_option(Level, "ceiling_dbtp", "--ceiling")
@click.option(
    "--set", "settings", multiple=True, metavar="PLACE=VALUE",
    help="Change one setting by its name in recipes: ending.way.feedback_percent=40, effects.hall.decay_seconds=4. Can be given several times.",
)  # fmt: skip
@encoding_options
@excerpt_options
@video_options
@tag_option()
@click.option("--overwrite", is_flag=True, help="Replace OUT if it exists.")
@click.option("--json", "as_json", is_flag=True, help="Print the facts of the result as JSON.")
def render(song: Path, out: Path, overwrite: bool, as_json: bool, **options: Any) -> None:
    """Write a version of SONG, or one of a session's, to OUT. Its suffix is the format: .wav .flac .m4a .ogg .opus .mp3, or, as a video, .mp4 .mov .mkv .webm."""
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.export.export import export
    from latespin.render.export.video import export_video, is_video

    encoding, excerpt, edits = encoding_of(options), excerpt_of(options), edits_of(options)
    if not is_video(out):
        refuse_video_options(options)
    length, ending, grid, asked = _read_options(options)
    with progress("Rendering", as_json) as work:
        opened = opened_version(song, options, asked, Share(work, 0.0, 0.1))
        track, stages, made_on, laid_out, faults = opened
        sources = (options["cover"],) if options["cover"] is not None else ()
        _check(out, encoding, overwrite=overwrite, sources=(track.path, *sources))
        if options["cover"] is not None:
            stages, uncovered = covered(stages, options["cover"], options["cover_by"])
            faults = (*faults, *uncovered)
        if length is not None:
            stages = fitted_to(stages, track, length)
        if laid_out is None or grid is not None:
            laid_out = layout_for(track, stages, ending, grid, Share(work, 0.1, 0.3))
        layout = laid_out
        stages = with_ending(relocated(stages, made_on, layout), ending, layout.grid)
        stages = overridden(stages, options["settings"])
        readers = TrackRenderer(track, layout=layout)
        how: dict[str, Any] = {
            "encoding": encoding,
            "overwrite": overwrite,
            "sources": sources,
            "excerpt": excerpt,
            "edits": edits,
        }
        if is_video(out):
            pictures = pictures_for(readers, stages, options)
            result = export_video(readers, stages, out, Share(work, 0.3, 1.0), pictures, **how)
        else:
            result = export(readers, stages, out, Share(work, 0.3, 1.0), **how)
    notes = (*track.warnings, *faults, *result.notes)
    say_warnings(notes)
    print_facts(facts_of(out, result, notes), as_json)


def _check(out: Path, encoding: "Encoding", *, overwrite: bool, sources: tuple[Path, ...]) -> None:
    """Raise Unwritable before any work where OUT cannot be written."""
    from latespin.render.export.export import check_export_target
    from latespin.render.export.video import check_video_target, is_video

    check = check_video_target if is_video(out) else check_export_target
    check(out, encoding, overwrite=overwrite, sources=sources)


STAGE_OPTIONS = (
    "speed", "semitones", "speed_curve", "character", "keep_formants", "formants", "halftime", "octave_down", "hold_pitch",
    "loudness", "limit_by", "ceiling",
)  # fmt: skip


def _read_options(
    options: dict[str, Any],
) -> tuple[float | None, tuple[str, str] | None, Grid | None, dict[str, Any]]:
    """The length, the ending, the grid, and the options of the stages."""
    asked = {name: options[name] for name in STAGE_OPTIONS}
    length, bpm, source_bpm = options["length"], options["bpm"], options["source_bpm"]
    check_together(length, bpm, source_bpm, asked)
    if bpm is not None and source_bpm is not None:
        asked["speed"] = speed_for(bpm, source_bpm)
    grid = None
    if source_bpm:
        first, per_bar = options["first_beat"], options["beats_per_bar"]
        grid = Grid(bpm=source_bpm, first_beat_seconds=first, beats_per_bar=per_bar)
    return length, options["ending"], grid, asked


def opened_version(
    song: Path, options: dict[str, Any], asked: dict[str, Any], work: Work
) -> "tuple[Track, Stages, SourceSongInfo | None, Layout | None, tuple[str, ...]]":
    """The track, the stages, the song a recipe was made on, a session's layout, and problems of a recipe."""
    from latespin.media.track import open_track
    from latespin.render.loading import open_version
    from latespin.render.recipes import load_recipes

    recipe, version, number = options["recipe"], options["version"], options["sound_track"]
    if song.suffix.lower() == SESSION_SUFFIX:
        if recipe:
            raise click.UsageError("A session has versions of its own; give --version instead of --recipe.")
        if number != 1:
            raise click.UsageError("A session knows the sound track of its song; leave out --sound-track.")
        track, stages, layout = open_version(song, version, work)
        return track, asked_stages(stages, **asked), None, layout, ()
    if version is not None:
        raise click.UsageError("--version goes with a session; a song has --recipe.")
    track = open_track(song, work, sound_track=number)
    if not recipe:
        return track, asked_stages(UNTOUCHED, **asked), None, None, ()
    found, faults = load_recipes(recipe)
    return track, asked_stages(found.stages, **asked), found.made_on, None, faults


def facts_of(out: Path, result: "ExportResult", notes: tuple[str, ...]) -> dict[str, Any]:
    """Summary of a written file."""
    facts = result.facts
    return {
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
        "notes": list(notes),
    }

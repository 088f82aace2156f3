"""``latespin perform``: a performance from a MIDI file, played on a version of a song."""

from pathlib import Path
from typing import Any

import click

from latespin.cli.options import LoudnessOption, encoding_of, encoding_options, sound_track_option
from latespin.cli.output import print_facts, say_warnings
from latespin.cli.progress import progress
from latespin.cli.render import STAGE_OPTIONS, facts_of, opened_version
from latespin.jobs import Share
from latespin.model.arranging.relocation import relocated
from latespin.model.documents.overrides import overridden
from latespin.model.timing.beat_grid import Grid, grid_of
from latespin.model.timing.positions import layout_of
from latespin.model.values.parameters import BEATS_PER_BAR, BPM, FIRST_BEAT, TARGET


@click.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.argument("moves", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option(
    "--surface", metavar="NAME|FILE.json", default="practice", show_default=True,
    help="The map of the control surface: what its notes and control changes do.",
)  # fmt: skip
@click.option(
    "--recipe", metavar="NAME|FILE.json", multiple=True, help="Start from a recipe; several are laid over one another."
)
@sound_track_option
@click.option("--version", metavar="NAME", help="Of a session: the version to play on; the chosen one by default.")
@click.option("--source-bpm", type=click.FloatRange(BPM.low, BPM.high), help=BPM.sentence + " Detected unless given.")
@click.option(
    "--first-beat",
    type=click.FloatRange(FIRST_BEAT.low, FIRST_BEAT.high),
    default=0.0,
    help=FIRST_BEAT.sentence + " In seconds.",
)
@click.option("--beats-per-bar", type=click.IntRange(1, 12), default=4, help=BEATS_PER_BAR.sentence)
@click.option("--loudness", type=LoudnessOption(), help=TARGET.sentence + " “off” leaves the level untouched.")
@click.option(
    "--set",
    "settings",
    multiple=True,
    metavar="PLACE=VALUE",
    help="Change one setting by its name in recipes, as render does.",
)
@encoding_options
@click.option("--overwrite", is_flag=True, help="Replace OUT if it exists.")
@click.option("--json", "as_json", is_flag=True, help="Print the facts of the result as JSON.")
def perform(song: Path, moves: Path, out: Path, surface: str, overwrite: bool, as_json: bool, **options: Any) -> None:
    """Play the performance of a MIDI file, MOVES, on a version of SONG, and write it to OUT.

    Its notes hold pads and its control changes turn knobs, by the map of a control surface, counted from the start of the version.
    """
    from latespin.media.midi.midi_files import read_performance
    from latespin.media.storage.analysis_cache import read_track
    from latespin.media.storage.config import load_surface
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.export.export import check_export_target, export
    from latespin.render.playing.performance import TimedMessage, performed

    encoding = encoding_of(options)
    played = [TimedMessage(seconds, message) for seconds, message in read_performance(moves)]
    loaded = load_surface(surface)
    with progress("Performing", as_json) as work:
        asked = dict.fromkeys(STAGE_OPTIONS) | {"loudness": options["loudness"]}
        track, stages, made_on, layout, faults = opened_version(song, options, asked, Share(work, 0.0, 0.1))
        check_export_target(out, encoding, overwrite=overwrite, sources=(track.path, moves))
        grid = None
        if options["source_bpm"]:
            grid = Grid(
                bpm=options["source_bpm"],
                first_beat_seconds=options["first_beat"],
                beats_per_bar=options["beats_per_bar"],
            )
        if layout is None or grid is not None:
            reading = read_track(track, Share(work, 0.1, 0.3))
            layout = layout_of(track.frames, track.rate, grid or grid_of(reading), reading)
        stages = overridden(relocated(stages, made_on, layout), options["settings"])
        readers = TrackRenderer(track, layout=layout)
        stages = performed(stages, readers, played, loaded, moves.stem)
        result = export(
            readers, stages, out, Share(work, 0.3, 1.0), encoding=encoding, overwrite=overwrite, sources=(moves,)
        )
    notes = (*track.warnings, *faults, *result.notes)
    say_warnings(notes)
    print_facts(facts_of(out, result, notes), as_json)

"""The command that makes pads."""

from pathlib import Path
from typing import Any

import click
from msgspec.structs import replace

from latespin.cli.options import Decorated, LengthOption, PlaceOption, parameter_option
from latespin.cli.progress import progress
from latespin.jobs import Share
from latespin.model.pad import BACKWARDS, ECHO_VALUE, ROOT, ROOTS, Pad
from latespin.model.values.note_values import NOTE_VALUES
from latespin.model.values.parameters import parameters_of
from latespin.model.values.units import clock

UNITS = ("_percent", "_hz", "_db", "_seconds")


def _option_name(field: str) -> str:
    """The name of a field's option: without its unit."""
    return next((field.removesuffix(unit) for unit in UNITS if field.endswith(unit)), field)


def _with_parameters(command: Decorated) -> Decorated:
    """An option for each number of a pad."""
    for field in reversed(parameters_of(Pad)):
        command = parameter_option(Pad, field, "--" + _option_name(field).replace("_", "-"))(command)
    return command


@click.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--from", "start", type=PlaceOption(), required=True, help="Where the slice begins: 1:02.5 or 62.5 s.")
@click.option("--to", "end", type=LengthOption(), required=True, help="Where it ends.")
@click.option("--root", type=click.Choice(ROOTS, case_sensitive=False), help=ROOT.sentence)
@click.option("--backwards", is_flag=True, help=BACKWARDS.sentence)
@click.option("--echo-value", type=click.Choice(NOTE_VALUES), help=ECHO_VALUE.sentence)
@_with_parameters
@click.option("--recipe", help="Add the effects of a recipe, as they are set at the slice.")
@click.option("--overwrite", is_flag=True, help="Replace OUT if it exists.")
def pad(
    song: Path, out: Path, start: float, end: float, root: str | None, backwards: bool, echo_value: str | None,
    recipe: str | None, overwrite: bool, **numbers: Any,
) -> None:  # fmt: skip
    """Smear a slice of SONG into a pad that goes round without a seam; write it to OUT (.wav) with its loop points and its note."""
    from latespin.media.files.atomic import check_target
    from latespin.media.track import open_track
    from latespin.model.documents.documents import files_of
    from latespin.model.version import Stages
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.pads import effects_at, make_pad, write_pad
    from latespin.render.recipes import load_recipes

    if out.suffix.lower() != ".wav":
        raise click.UsageError("A pad is written as .wav, which holds its loop points.")
    stages = Stages(colour=load_recipes([recipe])[0].stages.colour) if recipe else Stages()
    sources: tuple[Path | str, ...] = (song, *files_of(stages))
    check_target(out, overwrite=overwrite, sources=sources)
    given = {
        field: numbers[_option_name(field)] for field in parameters_of(Pad) if numbers[_option_name(field)] is not None
    }
    given |= {"root": root} if root else {}
    given |= {"echo_value": echo_value} if echo_value else {}
    made = replace(Pad(backwards=backwards, effects_here=recipe is not None), **given)
    with progress("Smearing", as_json=False) as work:
        track = open_track(song, Share(work, 0.0, 0.2))
        here = effects_at(stages, TrackRenderer(track).context(stages), 0.5 * (start + end))
        slice_ = track.sound[:, round(start * track.rate) : round(end * track.rate)]
        sound = make_pad(slice_, track.rate, made, Share(work, 0.2, 1.0), here=here)
        write_pad(sound, track.rate, out, overwrite=overwrite, sources=sources, note=made.note)
    click.echo(f"{out}: {clock(sound.shape[1] / track.rate, 1)}, loops as a whole")

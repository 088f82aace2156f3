"""The command that makes pads."""

from pathlib import Path

import click

from latespin.cli.options import LengthOption, PlaceOption
from latespin.cli.progress import progress
from latespin.jobs import Share
from latespin.model.pad import PAD_HALL, PITCH, SMEAR, Pad
from latespin.model.values.units import clock


@click.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.argument("out", type=click.Path(path_type=Path))
@click.option("--from", "start", type=PlaceOption(), required=True, help="Where the slice begins: 1:02.5 or 62.5 s.")
@click.option("--to", "end", type=LengthOption(), required=True, help="Where it ends.")
@click.option(
    "--smear",
    type=click.FloatRange(SMEAR.low, SMEAR.high),
    default=SMEAR.default,
    show_default=True,
    help=SMEAR.sentence,
)
@click.option("--semitones", type=click.FloatRange(PITCH.low, PITCH.high), default=0.0, help=PITCH.sentence)
@click.option("--backwards", is_flag=True, help="Turn the slice round before it is smeared.")
@click.option(
    "--hall", type=click.FloatRange(0.0, 100.0), default=PAD_HALL.default, show_default=True, help=PAD_HALL.sentence
)
@click.option("--overwrite", is_flag=True, help="Replace OUT if it exists.")
def pad(
    song: Path,
    out: Path,
    start: float,
    end: float,
    smear: float,
    semitones: float,
    backwards: bool,
    hall: float,
    overwrite: bool,
) -> None:
    """Smear a slice of SONG into a pad that goes round without a seam; write it to OUT (.wav) with its loop points."""
    from latespin.media.files.atomic import check_target
    from latespin.media.track import open_track
    from latespin.render.pads import make_pad, write_pad

    if out.suffix.lower() != ".wav":
        raise click.UsageError("A pad is written as .wav, which holds its loop points.")
    check_target(out, overwrite=overwrite, sources=(song,))
    with progress("Smearing", as_json=False) as work:
        track = open_track(song, Share(work, 0.0, 0.2))
        made = Pad(smear=smear, semitones=semitones, backwards=backwards, hall_percent=hall)
        slice_ = track.sound[:, round(start * track.rate) : round(end * track.rate)]
        sound = make_pad(slice_, track.rate, made, Share(work, 0.2, 1.0))
        write_pad(sound, track.rate, out, overwrite=overwrite, sources=(song,))
    click.echo(f"{out}: {clock(sound.shape[1] / track.rate, 1)}, loops as a whole")

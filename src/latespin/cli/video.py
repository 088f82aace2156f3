"""Options of the command line for videos, and what they are made of."""

from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

import click

if TYPE_CHECKING:
    from collections.abc import Callable

    from latespin.model.version import Stages
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.export.video import Drawing, OwnPictures

Decorated = TypeVar("Decorated", bound="Callable[..., Any]")
OF_CARDS = {"still": "--still", "shape": "--shape", "size": "--size"}
SHAPE, LINES = "16:9", "1080"


def video_options(command: Decorated) -> Decorated:
    """What a video shows; :func:`pictures_for` reads them."""
    options = (
        click.option("--run-on", is_flag=True, help="Of the song’s own video: its pictures run on where time jumps or runs backwards."),
        click.option("--size", type=click.Choice(["720", "1080", "1440", "2160"]), help=f"Lines of a card’s shorter side; {LINES} by default."),
        click.option("--shape", type=click.Choice(["16:9", "1:1", "9:16"]), help=f"The shape of a card; {SHAPE} by default."),
        click.option("--still", is_flag=True, help="A card without ribbons that move with the sound."),
        click.option(
            "--picture", metavar="own|card|FILE",
            help="What a video shows: the song’s own video, a card with title and cover, or a picture file. The song’s own where it has one.",
        ),
    )  # fmt: skip
    for option in options:
        command = option(command)
    return command


def refuse_video_options(options: dict[str, Any]) -> None:
    """Raise UsageError where an option of videos was given for a sound file."""
    given = {**OF_CARDS, "run_on": "--run-on", "picture": "--picture"}
    if asked := [flag for name, flag in given.items() if options[name]]:
        raise click.UsageError(f"{asked[0]} is for videos; give OUT the ending .mp4, .mov, .mkv or .webm.")


def pictures_for(readers: "TrackRenderer", stages: "Stages", options: dict[str, Any]) -> "OwnPictures | Drawing":
    """The pictures of a video, by the options of the command. Raises UsageError for options that do not go together, Unreadable."""
    from latespin.media.video.clip import clip_of
    from latespin.render.export.video import OwnPictures

    picture = options["picture"]
    if picture == "own" or (picture is None and clip_of(readers.track.path) is not None):
        if asked := [flag for name, flag in OF_CARDS.items() if options[name]]:
            raise click.UsageError(f"{asked[0]} is for cards, and this shows the song’s own video. Add --picture card.")
        return OwnPictures(follow=not options["run_on"])
    if options["run_on"]:
        raise click.UsageError("--run-on is for the song’s own video, and this shows a card.")
    from latespin.desktop.movies.card import card_size
    from latespin.desktop.movies.drawing import drawing_of
    from latespin.desktop.movies.headless import card_for
    from latespin.render.export.tags import version_words

    card = card_for(
        readers.track, version_words(readers, stages), Path(picture) if picture not in (None, "card") else None
    )
    size = card_size(options["shape"] or SHAPE, int(options["size"] or LINES))
    return drawing_of(card, size, readers, stages, moving=not options["still"])

"""Options of the command line for videos, and what they are made of."""

from pathlib import Path
from typing import TYPE_CHECKING, Any, TypeVar

import click

if TYPE_CHECKING:
    from collections.abc import Callable

    from latespin.model.version import Stages
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.export.export import ExportResult
    from latespin.render.export.video import OwnPictures, Pictures, Prepared

Decorated = TypeVar("Decorated", bound="Callable[..., Any]")
SHAPES = {"16:9": (16, 9), "1:1": (1, 1), "9:16": (9, 16)}
NAMES = ("picture", "still", "shape", "size", "run_on")


def video_options(command: Decorated) -> Decorated:
    """What a video shows; :func:`pictures_for` takes these options out."""
    options = (
        click.option("--run-on", is_flag=True, help="Of a video: its pictures run on where time jumps or runs backwards."),
        click.option("--size", type=click.Choice(["720", "1080", "1440", "2160"]), default="1080", show_default=True, help="Lines of a card’s shorter side."),
        click.option("--shape", type=click.Choice(list(SHAPES)), default="16:9", show_default=True, help="The shape of a card."),
        click.option("--still", is_flag=True, help="A card without ribbons that move with the sound."),
        click.option(
            "--picture", metavar="own|card|FILE",
            help="What a video shows: the song’s own video, a card with title and cover, or a picture file. The song’s own where it has one.",
        ),
    )  # fmt: skip
    for option in options:
        command = option(command)
    return command


def pictures_for(readers: "TrackRenderer", stages: "Stages", options: dict[str, Any]) -> "OwnPictures | Prepared":
    """The pictures of a video, by the options of the command."""
    from latespin.media.video.clip import clip_of
    from latespin.render.export.video import OwnPictures

    picture = options["picture"]
    if picture == "own" or (picture is None and clip_of(readers.track.path) is not None):
        return OwnPictures(follow=not options["run_on"])
    across, down = SHAPES[options["shape"]]
    unit = int(options["size"]) / min(across, down)
    size = round(across * unit / 2) * 2, round(down * unit / 2) * 2
    file = Path(picture) if picture not in (None, "card") else None

    def drawn(result: "ExportResult", _: float) -> "Pictures":
        from latespin.desktop.movies.headless import card_pictures
        from latespin.desktop.movies.ribbons import RibbonSource
        from latespin.media.audio.peaks import find_peaks
        from latespin.media.track import open_track
        from latespin.model.text.describe import title_suffix

        ribbons = None
        if not options["still"]:
            before, after = readers.track, open_track(result.target)
            begins = result.excerpt.start if result.excerpt else 0.0
            ribbons = RibbonSource(
                find_peaks(before.sound, before.rate), find_peaks(after.sound, after.rate), readers.arrangement(stages).map, readers.grid, begins
            )  # fmt: skip
        return card_pictures(readers.track, title_suffix(stages, set()), file, size, ribbons)

    return drawn

"""What draws the pictures of a video once its sound is finished."""

from latespin.desktop.movies.card import Card
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.media.audio.peaks import Peaks, find_peaks
from latespin.media.track import open_track
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import ExportResult
from latespin.render.export.video import Drawing


def drawing_of(
    card: Card, size: tuple[int, int], readers: TrackRenderer, stages: Stages, *, moving: bool, before: Peaks | None = None
) -> Drawing:  # fmt: skip
    """Draws a card; ``moving``: with ribbons of the song and of the finished sound.  before : the song's peaks, where they are known."""

    def drawn(result: ExportResult) -> CardPictures:
        if not moving:
            return CardPictures(card, size)
        song, made = readers.track, open_track(result.target)
        begins = result.excerpt.start if result.excerpt else 0.0
        ribbons = RibbonSource(
            before or find_peaks(song.sound, song.rate), find_peaks(made.sound, made.rate), readers.arrangement(stages).map,
            readers.grid, begins,
        )  # fmt: skip
        return CardPictures(card, size, ribbons)

    return drawn

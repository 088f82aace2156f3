"""Videos as background work of the window."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtGui import QImage

from latespin.desktop.dialogs.video import VideoOrder
from latespin.desktop.movies.card import Card
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.media.audio.peaks import Peaks, find_peaks
from latespin.media.track import open_track
from latespin.media.video.clip import Clip, clip_of
from latespin.media.video.frames import Frames
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import TimeMap
from latespin.model.values.units import number
from latespin.render.export.export import ExportResult
from latespin.render.export.video import Pictures, export_video

LOOK_AT = 3.0  # seconds of a video of which one picture is shown
STILL_WIDTH = 960


def look_task(song: Path, found: Callable[[tuple[Clip | None, QImage]], None]) -> Task:
    """The task that finds the pictures of a song's file, if it has any, and shows one."""

    def function(_: Task) -> tuple[Clip | None, QImage]:
        try:
            clip = clip_of(song)
            return clip, QImage() if clip is None else _one_of(clip)
        except LateSpinError:
            return None, QImage()

    return Task(tr("Looking for pictures"), "look", function, on_done=found, shown=False)


def _one_of(clip: Clip) -> QImage:
    with Frames(clip) as frames:
        frame = frames.at(LOOK_AT)
    high = max(2, round(frame.height * STILL_WIDTH / max(1, frame.width)))
    pixels = frame.reformat(width=STILL_WIDTH, height=high, format="rgb24").to_ndarray()
    return QImage(pixels.tobytes(), STILL_WIDTH, high, 3 * STILL_WIDTH, QImage.Format.Format_RGB888).copy()


def video_task(document: Document, order: VideoOrder, on_written: Callable[[], None]) -> Task:
    """The task that writes a video and then says what it holds."""
    loaded, sources, grid = document.loaded, document.sources, document.grid
    assert loaded is not None
    readers, before = loaded.readers, loaded.peaks

    def function(work: Task) -> ExportResult:
        pictures = (
            order.own
            if order.card is None
            else drawn(order, order.card, before, readers.arrangement(order.version.stages).map, grid)
        )
        return export_video(
            readers, order.version.stages, order.target, work, pictures, overwrite=order.overwrite, sources=sources,
            excerpt=order.excerpt,
        )  # fmt: skip

    def done(result: ExportResult) -> None:
        facts = result.facts
        message = [
            tr("written to {0}").format(order.target.parent), f"{number(facts.loudness.integrated_lufs, 1)} LUFS",
            f"{number(facts.true_peak_dbtp, 1)} dBTP",
        ]  # fmt: skip
        task.message, task.file = " · ".join([*message, *result.notes]), order.target
        on_written()

    task = Task(tr("Export {0}").format(order.target.name), "export", function, on_done=done)
    return task


def drawn(
    order: VideoOrder, card: Card, before: Peaks, time_map: TimeMap, grid: Grid | None
) -> Callable[[ExportResult, float], Pictures]:
    """What draws the pictures, given the finished sound."""

    def pictures(result: ExportResult, _: float) -> CardPictures:
        if not order.moving:
            return CardPictures(card, order.size)
        track = open_track(result.target)
        begins = result.excerpt.start if result.excerpt else 0.0
        ribbons = RibbonSource(before, find_peaks(track.sound, track.rate), time_map, grid, begins)
        return CardPictures(card, order.size, ribbons)

    return pictures

"""Videos as background work of the window."""

from collections.abc import Callable

from PySide6.QtGui import QImage

from latespin.desktop.controllers.publishing.export import writing_task
from latespin.desktop.dialogs.video import Shown, VideoOrder
from latespin.desktop.movies.drawing import drawing_of
from latespin.desktop.movies.image_files import read_picture
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.errors import LateSpinError
from latespin.media.track import Track
from latespin.media.video.clip import Clip, clip_of
from latespin.media.video.frames import Frames
from latespin.render.export.export import ExportResult
from latespin.render.export.video import export_video

LOOK_AT = 3.0  # seconds of a video of which one picture is shown
STILL_WIDTH = 960


def look_task(track: Track, found: Callable[[Shown], None]) -> Task:
    """The task that finds the pictures of a song's file, if it has any, and its cover."""

    def function(_: Task) -> Shown:
        cover = read_picture(track.tags.cover)[0] if track.tags.cover else QImage()
        try:
            clip = clip_of(track.path)
            return Shown(clip, QImage() if clip is None else _one_of(clip), cover)
        except LateSpinError:
            return Shown(None, QImage(), cover)

    return Task(tr("Looking for pictures"), "look", function, on_done=found, shown=False)


def _one_of(clip: Clip) -> QImage:
    with Frames(clip) as frames:
        frame = frames.at(LOOK_AT)
    high = max(2, round(frame.height * STILL_WIDTH / max(1, frame.width)))
    pixels = frame.reformat(width=STILL_WIDTH, height=high, format="rgb24").to_ndarray()
    return QImage(pixels.tobytes(), STILL_WIDTH, high, 3 * STILL_WIDTH, QImage.Format.Format_RGB888).copy()


def video_task(document: Document, order: VideoOrder, on_written: Callable[[], None]) -> Task:
    """The task that writes a video and then says what it holds."""
    loaded, sources, stages = document.loaded, document.sources, order.version.stages
    assert loaded is not None
    readers, before = loaded.readers, loaded.peaks

    def function(work: Task) -> ExportResult:
        pictures = (
            order.own if order.card is None
            else drawing_of(order.card, order.size, readers, stages, moving=order.moving, before=before)
        )  # fmt: skip
        return export_video(
            readers, stages, order.target, work, pictures, overwrite=order.overwrite, sources=sources, excerpt=order.excerpt
        )  # fmt: skip

    return writing_task(order.target, function, on_written)

"""An export as background work of the window."""

from collections.abc import Callable
from pathlib import Path

from latespin.desktop.dialogs.export import ExportOrder
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.media.files.guard import Sources
from latespin.model.values.units import number
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import ExportResult, export


def export_task(readers: TrackRenderer, order: ExportOrder, sources: Sources, on_written: Callable[[], None]) -> Task:
    """The task that writes one file and then says what it holds.  sources : files of the session, which are not touched."""

    def function(work: Task) -> ExportResult:
        return export(
            readers, order.version.stages, order.target, work, encoding=order.encoding, overwrite=order.overwrite,
            sources=sources, excerpt=order.excerpt, edits=order.edits,
        )  # fmt: skip

    return writing_task(order.target, function, on_written)


def writing_task(target: Path, function: Callable[[Task], ExportResult], on_written: Callable[[], None]) -> Task:
    """The task that writes a file, sound or video, and then says what it holds."""

    def done(result: ExportResult) -> None:
        facts = result.facts
        said = [
            tr("written to {0}").format(target.parent), f"{number(facts.loudness.integrated_lufs, 1)} LUFS",
            f"{number(facts.true_peak_dbtp, 1)} dBTP", *result.notes,
        ]  # fmt: skip
        task.message, task.file = " · ".join(said), target
        on_written()

    task = Task(tr("Export {0}").format(target.name), "export", function, on_done=done)
    return task

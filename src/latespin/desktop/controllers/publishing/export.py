"""An export as background work of the window."""

from collections.abc import Callable

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

    def done(result: ExportResult) -> None:
        facts = result.facts
        message = [
            f"written to {order.target.parent}",
            f"{number(facts.loudness.integrated_lufs, 1)} LUFS",
            f"{number(facts.true_peak_dbtp, 1)} dBTP",
        ]
        task.message, task.file = " · ".join([*message, *result.notes]), order.target
        on_written()

    task = Task(tr("Export {0}").format(order.target.name), "export", function, on_done=done)
    return task

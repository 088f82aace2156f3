"""An export as background work of the window."""

from collections.abc import Callable

from latespin.desktop.exportdialog import ExportOrder
from latespin.desktop.work import Task
from latespin.model.units import number
from latespin.render.export import ExportResult, export
from latespin.render.readers import Readers


def export_task(readers: Readers, order: ExportOrder, on_written: Callable[[], None]) -> Task:
    """The task that writes one file and then says what it holds."""

    def function(work: Task) -> ExportResult:
        return export(
            readers, order.version.stages, order.target, work, depth=order.depth, overwrite=order.overwrite  # type: ignore[arg-type]
        )  # fmt: skip

    def done(result: ExportResult) -> None:
        facts = result.facts
        said = [
            f"written to {order.target.parent}",
            f"{number(facts.loudness.integrated_lufs, 1)} LUFS",
            f"{number(facts.true_peak_dbtp, 1)} dBTP",
        ]
        if result.clipped_samples:
            said.append(f"{result.clipped_samples:,} samples clipped")
        if result.plan.note:
            said.append(result.plan.note)
        task.message = " · ".join(said)
        on_written()

    task = Task(f"Export {order.target.name}", "export", function, on_done=done)
    return task

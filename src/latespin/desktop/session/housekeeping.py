"""Background chores of a window: giving memory back, and logging the caches."""

from PySide6.QtCore import QObject, QTimer

from latespin.caches import log_sizes
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr
from latespin.memory import give_back

EVERY_MS = 60_000


class Housekeeping(QObject):
    """Once a minute."""

    def __init__(self, work: WorkQueue, parent: QObject) -> None:
        super().__init__(parent)
        self._work = work
        self._timer = QTimer(self, interval=EVERY_MS)
        self._timer.timeout.connect(self.tidy)
        self._timer.start()

    def tidy(self) -> None:
        """Now."""

        def function(_: Task) -> None:
            give_back()
            log_sizes()

        self._work.submit(Task(tr("Housekeeping"), "housekeeping", function, shown=False))

"""The list of background tasks, with progress and cancel."""

from PySide6.QtCore import QPointF, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication, QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.file_drag import drag_file

LONG_WORDS = 40  # characters that may not all be seen
GOES_MS = 8_000  # after which what is done, and has nothing to say, goes from the list by itself
WORDS = {"waiting": "waiting", "running": "", "done": "done", "cancelled": "cancelled", "failed": "failed"}


class TaskRow(QWidget):
    """One task."""

    def __init__(self, task: Task, queue: WorkQueue) -> None:
        super().__init__()
        self.task, self._queue, self._going = task, queue, False
        self._pressed: QPointF | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 2, 16, 2)
        row.setSpacing(12)
        self._title = QLabel(task.title)
        self._title.setFixedWidth(360)
        self._title.setToolTip(task.title)
        self._title.setText(self._title.fontMetrics().elidedText(task.title, Qt.TextElideMode.ElideMiddle, 356))
        self._bar = QProgressBar()
        self._bar.setRange(0, 1000)
        self._bar.setTextVisible(False)
        self._bar.setFixedSize(220, 8)
        self._state = quiet_label()
        self._state.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._state.setMinimumWidth(1)  # what a task has to say never makes the window wider
        self.button = QPushButton(tr("Cancel"))
        self.button.clicked.connect(self._press)
        row.addWidget(self._title)
        row.addWidget(self._bar)
        row.addWidget(self._state, 1)
        row.addWidget(self.button)
        self.refresh()

    def refresh(self) -> None:
        """Show how far it is."""
        task = self.task
        self._bar.setValue(round(1000 * task.fraction))
        self._bar.setVisible(task.active)
        self._bar.setAccessibleName(tr("Progress of {0}").format(task.title))
        words = f"{round(100 * task.fraction)} %" if task.state == "running" else task.message or WORDS[task.state]
        self._state.setText(words)
        self._state.setToolTip(words if len(words) > LONG_WORDS else "")
        if task.file is not None:
            self.setCursor(Qt.CursorShape.OpenHandCursor)
            self.setToolTip(tr("Drag {0} to another program, or to a folder.").format(task.file.name))
        self._state.setProperty("warning", task.state == "failed")
        self._state.setProperty("soft", task.state != "failed")
        self._state.style().polish(self._state)
        self.button.setText(tr("Cancel") if task.active else tr("Dismiss"))
        self.button.setAccessibleName(f"{self.button.text()} {task.title}")

        if task.state == "done" and not task.message and not self._going:
            self._going = True
            QTimer.singleShot(GOES_MS, self, self._forget)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = event.position() if event.button() == Qt.MouseButton.LeftButton else None

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Drag the finished file to another program."""
        file, start = self.task.file, self._pressed
        if (
            file is None
            or start is None
            or (event.position() - start).manhattanLength() < QApplication.startDragDistance()
        ):
            return
        self._pressed = None
        drag_file(self, file)

    def _press(self) -> None:
        if self.task.active:
            self.task.cancel()
            self.task.message = tr("stopping …")
            self._queue.changed.emit()
        else:
            self._forget()

    def _forget(self) -> None:
        """Take it off the list."""
        if self.task in self._queue.tasks:
            self._queue.tasks.remove(self.task)
            self._queue.changed.emit()


class TaskPanel(QWidget):
    """All shown tasks; hidden while there are none."""

    MOST = 4

    def __init__(self, queue: WorkQueue, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._queue = queue
        self.rows: dict[int, TaskRow] = {}
        self._column = QVBoxLayout(self)
        self._column.setContentsMargins(0, 4, 0, 0)
        self._column.setSpacing(2)
        queue.changed.connect(self.refresh)
        self.refresh()

    def refresh(self) -> None:
        """Show the next few tasks that are not done, then the last of those that are."""
        shown = [
            t
            for t in self._queue.tasks
            if t.shown and not (t.lane == "open" and t.state in ("done", "cancelled", "failed"))
        ]
        active = [task for task in shown if task.active]
        ended = [task for task in shown if not task.active]
        shown = (ended + active[: self.MOST])[-self.MOST :]
        for key in [k for k in self.rows if k not in {id(t) for t in shown}]:
            row = self.rows.pop(key)
            self._column.removeWidget(row)
            row.hide()
            row.deleteLater()
        for task in shown:
            if id(task) not in self.rows:
                self.rows[id(task)] = TaskRow(task, self._queue)
                self._column.addWidget(self.rows[id(task)])
            self.rows[id(task)].refresh()
        self.setVisible(bool(shown))

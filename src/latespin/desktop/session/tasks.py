"""Work in the background: lanes of tasks, each lane one thread, results brought to the main thread."""

import logging
import queue
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, Qt, QTimer, Signal, Slot

from latespin.desktop.translation import tr
from latespin.errors import Cancelled, LateSpinError

LOG = logging.getLogger(__name__)
REPORT_MS = 100
WAIT_SECONDS = 3.0
HOLD_SECONDS = 0.25


@dataclass(eq=False)
class Task:
    """One piece of work. It is the core's ``Work``: its function reports to it and asks it whether to go on.

    state : waiting, running, done, failed or cancelled.  shown : whether the work list names it.
    file : what it has written, to be dragged elsewhere.
    hold : whether something more urgent needs the processor now; the queue's, once it is in one.
    """

    title: str
    lane: str
    function: Callable[["Task"], Any]
    on_done: Callable[[Any], None] = lambda _: None
    on_failed: Callable[[str], None] = lambda _: None
    shown: bool = True
    state: str = "waiting"
    fraction: float = 0.0
    message: str = ""
    result: Any = None
    file: Path | None = None
    hold: Callable[[], bool] = lambda: False
    so_far: Callable[[], Any] = lambda: None
    _stop: threading.Event = field(default_factory=threading.Event)

    def report(self, fraction: float) -> None:
        """Say how far it is (from the worker's thread)."""
        self.fraction = fraction

    def cancelled(self) -> bool:
        """Whether it should stop (from the worker's thread); before that it waits a little where others are in a hurry."""
        until = time.monotonic() + HOLD_SECONDS
        while self.hold() and not self._stop.is_set() and time.monotonic() < until:
            self._stop.wait(0.01)
        return self._stop.is_set()

    def cancel(self) -> None:
        """Ask it to stop."""
        self._stop.set()

    def forget(self) -> None:
        """It has ended: let go of what it worked on, though its title and message are still shown."""
        self.result = None
        self.function, self.so_far = (lambda _: None), (lambda: None)
        self.on_done = self.on_failed = lambda _: None

    @property
    def active(self) -> bool:
        """Whether it is waiting or running."""
        return self.state in ("waiting", "running")


class WorkQueue(QObject):
    """All background work of a window. Callbacks run in the main thread; a cancelled task calls none."""

    changed = Signal()
    _ended = Signal(object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.tasks: list[Task] = []
        self.hold: Callable[[], bool] = lambda: False
        self._lanes: dict[str, queue.Queue[Task | None]] = {}
        self._threads: list[threading.Thread] = []
        self._closing = False
        self._ended.connect(self._deliver, Qt.ConnectionType.QueuedConnection)
        self._timer = QTimer(self)
        self._timer.setInterval(REPORT_MS)
        self._timer.timeout.connect(self._report)

    def submit(self, task: Task) -> Task:
        """Put a task at the end of its lane. Once the queue is closed, the task is cancelled instead."""
        if self._closing:
            task.cancel()
            task.state = "cancelled"
            return task
        task.hold = lambda: self.hold()
        self.tasks.append(task)
        if task.lane not in self._lanes:
            self._open_lane(task.lane)
        self._lanes[task.lane].put(task)
        self._timer.start()
        self.changed.emit()
        return task

    def active(self, lane: str = "") -> list[Task]:
        """Tasks waiting or running, of one lane or of all."""
        return [task for task in self.tasks if task.active and lane in ("", task.lane)]

    def forget_ended(self) -> None:
        """Take ended tasks off the list."""
        self.tasks = [task for task in self.tasks if task.active]
        self.changed.emit()

    def close(self) -> None:
        """Cancel everything and wait for the threads, each a few seconds at most."""
        self._closing = True
        self._timer.stop()
        for task in self.active():
            task.cancel()
        for lane in self._lanes.values():
            lane.put(None)
        for thread in self._threads:
            thread.join(WAIT_SECONDS)

    def _open_lane(self, name: str) -> None:
        lane: queue.Queue[Task | None] = queue.Queue()
        self._lanes[name] = lane
        thread = threading.Thread(target=self._run, args=(lane,), name=f"work {name}", daemon=True)
        self._threads.append(thread)
        thread.start()

    def _run(self, lane: "queue.Queue[Task | None]") -> None:
        while (task := lane.get()) is not None:
            self._perform(task)
            if self._closing:  # the window that would be told may be gone
                return
            self._ended.emit(task)

    def _perform(self, task: Task) -> None:
        if task.cancelled():
            task.state = "cancelled"
            return
        task.state = "running"
        try:
            task.result = task.function(task)
            task.state = "cancelled" if task.cancelled() and task.result is None else "done"
        except Cancelled:
            task.state = "cancelled"
        except LateSpinError as error:
            task.state, task.message = "failed", str(error)
        except MemoryError:
            task.state, task.message = (
                "failed",
                tr("There is not enough memory for this. Close other programs first."),
            )
        except Exception as error:
            if self._closing:  # the program ends around it
                task.state = "cancelled"
                return
            LOG.exception("Background work failed: %s", task.title)
            task.state, task.message = (
                "failed",
                tr("Something went wrong in Late Spin itself ({0}). The log has more.").format(error),
            )

    @Slot(object)
    def _deliver(self, task: Task) -> None:
        if self._closing:
            task.state = "cancelled"  # it ended first, but who would be told is closed by now
        if task.state == "done":
            task.fraction = 1.0
            task.on_done(task.result)
        elif task.state == "failed":
            task.on_failed(task.message)
        task.forget()
        if not task.shown and task in self.tasks:
            self.tasks.remove(task)
        self.changed.emit()

    def _report(self) -> None:
        if not self.active():
            self._timer.stop()
        self.changed.emit()

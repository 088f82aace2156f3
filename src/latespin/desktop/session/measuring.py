"""Measuring versions in the background: the chosen one first, and what has been measured lately."""

from collections import OrderedDict
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.desktop.translation import tr
from latespin.model.moments.endings import NoEnding
from latespin.model.version import HALFTIME_BARS, Stages

if TYPE_CHECKING:  # loaded when they are used: the first window does not wait for them
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.mastering.measure import Measured

DELAY_MS, PLAYING_DELAY_MS = 300, 1_000  # after a change; longer while playback has to follow it
KEPT = 24


def goes_by_bars(stages: Stages) -> bool:
    """True if a version sounds different when the bars move."""
    from latespin.render.effects.problems import goes_by_beats

    by_beats = any(goes_by_beats(effect) for _, effect in stages.heard_effects)
    ends = not isinstance(stages.ending.heard, NoEnding)
    return stages.time.heard.halftime in HALFTIME_BARS or bool(stages.moments.heard) or ends or by_beats


class Measuring(QObject):
    """Main thread only.

    readers : the open track's renderer, or None.  wanted : the stages to measure, most urgent first.
    """

    changed = Signal()

    def __init__(
        self, work: WorkQueue, readers: "Callable[[], TrackRenderer | None]", wanted: Callable[[], list[Stages]],
        failed: Callable[[str], None], parent: QObject,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._work, self._readers, self._wanted, self._failed = work, readers, wanted, failed
        self._measured: OrderedDict[Stages, Measured] = OrderedDict()
        self._running: tuple[Stages, Task] | None = None
        self.playing = False
        self._delay = QTimer(self, singleShot=True)
        self._delay.timeout.connect(self._measure_next)

    def get(self, stages: Stages) -> "Measured | None":
        """The measurements of stages."""
        return self._measured.get(stages)

    def before_level(self, stages: Stages) -> "Measured | None":
        """A measurement whose stages before Level are the same; else the one made last."""
        for other, measured in reversed(self._measured.items()):
            if replace(other, level=stages.level) == stages:
                return measured
        return next(reversed(self._measured.values()), None)

    def restart(self) -> None:
        """Another track is open."""
        self._measured = OrderedDict()

    def forget_bars(self) -> None:
        """Drop what depends on where the bars lie, and stop measuring it."""
        for stages in [s for s in self._measured if goes_by_bars(s)]:
            del self._measured[stages]
        if self._running and goes_by_bars(self._running[0]):
            self._running[1].cancel()

    def follow(self, chosen: Stages) -> None:
        """Measure the chosen stages soon; cancels a measurement of other stages."""
        if self._running and self._running[0] != chosen:
            self._running[1].cancel()
        self.later()

    def later(self) -> None:
        """Measure after a pause in the editing."""
        self._delay.start(PLAYING_DELAY_MS if self.playing else DELAY_MS)

    def _measure_next(self) -> None:
        readers = self._readers()
        if readers is None:
            return
        if self._work.active("measure"):
            self.later()
            return
        stages = next((s for s in self._wanted()[: KEPT - 2] if s not in self._measured), None)
        if stages is not None:
            self._measure(readers, stages)

    def _measure(self, readers: "TrackRenderer", stages: Stages) -> None:
        measurements = self._measured

        def function(work: Task) -> Any:
            from latespin.render.mastering.measure import measure

            return measure(readers, stages, work)

        def done(measured: "Measured") -> None:
            bars_moved = goes_by_bars(stages) and self._readers() is not readers
            if measurements is self._measured and not bars_moved:
                self._put(stages, measured)
                self.changed.emit()
                self._delay.start(0)

        task = Task(tr("Measuring"), "measure", function, on_done=done, on_failed=self._failed, shown=False)
        self._running = (stages, self._work.submit(task))

    def _put(self, stages: Stages, measured: "Measured") -> None:
        self._measured[stages] = measured
        self._measured.move_to_end(stages)
        while len(self._measured) > KEPT:
            self._measured.popitem(last=False)

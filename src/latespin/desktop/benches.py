"""The benches: where a stage's values are set."""

from typing import Any

from msgspec.structs import replace
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QStackedWidget,
    QWidget,
)

from latespin.desktop.bench import Bench
from latespin.desktop.colourbench import ColourBench
from latespin.desktop.controls import Choices
from latespin.desktop.document import Document
from latespin.desktop.endingbench import EndingBench
from latespin.desktop.entry import Entry
from latespin.desktop.gridbench import GridBench
from latespin.desktop.momentsbench import MomentsBench
from latespin.desktop.timebench import TimeBench
from latespin.model.units import number
from latespin.model.version import Level, Stages

HEIGHT, TALL = 196, 276


class LevelBench(Bench):
    """Target loudness, ceiling, and how much the limiter may do."""

    def __init__(self) -> None:
        super().__init__("level")
        row = QHBoxLayout()
        row.setSpacing(12)
        for field in ("target_lufs", "ceiling_dbtp", "allowance_db"):
            row.addWidget(self.bar(Level, field, lambda s, v, f=field: _with_level(s, on=True, **{f: v})))
        self.column.addLayout(row)
        self.keep = QCheckBox("Keep the loudness as it is and only hold the ceiling")
        self.keep.setToolTip(
            "No target: the version is as loud as its stages make it, and true peaks stay below the ceiling."
        )
        self.keep.clicked.connect(self._keep_loudness)
        self.column.addWidget(self.keep)
        self._result = QLabel()
        self._result.setWordWrap(True)
        self.column.addWidget(self._result)
        self.column.addStretch()

    def _keep_loudness(self, on: bool) -> None:
        target = None if on else self.bars["target_lufs"].value
        self.edited.emit(
            "Level: keep loudness" if on else "Level: loudness",
            _with_level(self._stages, on=True, target_lufs=target),
            "",
        )

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        level = stages.level
        if level.target_lufs is not None:
            self.bars["target_lufs"].set_value(level.target_lufs)
        self.bars["target_lufs"].setEnabled(level.target_lufs is not None)
        self.keep.setChecked(level.target_lufs is None)
        for field in ("ceiling_dbtp", "allowance_db"):
            self.bars[field].set_value(getattr(level, field))
        self._result.setText(self._words(stages, document))

    def _words(self, stages: Stages, document: Document) -> str:
        if document.loaded is None:
            return ""
        if not stages.level.on:
            return "The stage is off: the version is as loud as its other stages make it."
        measured = document.measured()
        if measured is None:
            return "Measuring the whole version …"
        plan = measured.plan
        limiter = (
            f"the limiter takes off {number(plan.reduction_db, 1)} dB at most"
            if plan.reduction_db > 0.05
            else "the limiter has nothing to do"
        )
        return f"Gain {number(plan.gain_db, 1, signed=True)} dB; {limiter}. {plan.note}"


def _with_level(stages: Stages, **changes: Any) -> Stages:
    return replace(stages, level=replace(stages.level, **changes))


class Benches(QStackedWidget):
    """One bench for each stage, the chosen one on top."""

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.time = TimeBench()
        self.colour, self.moments, self.ending = ColourBench(), MomentsBench(), EndingBench()
        self.pages: dict[str, Bench] = {
            "time": self.time, "colour": self.colour, "moments": self.moments,
            "ending": self.ending, "level": LevelBench(),
        }  # fmt: skip
        self.grid = GridBench()
        self.pages["grid"] = self.grid
        for page in self.pages.values():
            page.edited.connect(document.edit_stages)
            page.settled.connect(document.end_drag)
            self.addWidget(page)
        self.setFixedHeight(HEIGHT)
        document.session_changed.connect(self.refresh)
        document.track_changed.connect(self.refresh)
        document.measured_changed.connect(self.refresh)
        document.reading_changed.connect(self.refresh)
        self.refresh()

    def restyle(self) -> None:
        """Take the current theme's colours."""
        for part in (*self.findChildren(Choices), *self.findChildren(Entry)):
            part.restyle()

    def open(self, name: str) -> None:
        """Show a stage's bench."""
        self._show(self.pages[name])
        self.setCurrentWidget(self.pages[name])
        self.setFixedHeight(TALL if name in ("colour", "moments", "ending") else HEIGHT)

    def refresh(self) -> None:
        """Show the chosen version's values, of benches that are not seen when they are opened."""
        enabled = self._document.version is not None and self._document.loaded is not None
        for page in self.pages.values():
            page.setEnabled(enabled)
        self._show(self.currentWidget())

    def _show(self, page: QWidget | None) -> None:
        assert isinstance(page, Bench)
        page.show_stages(self._document.stages, self._document)

"""The header: the song, and the facts of Before and After; After's can be typed."""

import math
from dataclasses import dataclass

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import SEMI_BOLD, font, theme
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.elided_label import ElidedLabel
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.model.text.describe import bpm_text, shift_semitones, shift_text
from latespin.model.values.key_names import say_key
from latespin.model.values.units import NO_VALUE, clock, number
from latespin.model.version import Time


@dataclass(frozen=True)
class Fact:
    """A column of the table. asked : what typing into After sets; empty where it can only be read."""

    key: str
    title: str
    tip: str
    asked: str = ""
    width: int = 104


FACTS = (
    Fact("total", "Length", "Length including the reverb tail.", "Type a length such as 1:30; the speed is set to reach it.", 78),
    Fact("tempo", "BPM", "Beats per minute.", "Type BPM; the speed is set to reach them. The track’s own are typed in the row of Before.", 76),
    Fact("pitch", "Pitch", "How far the pitch is from the track’s.", "Type semitones or cents; the transposition is set to reach it.", 100),
    Fact("key", "Key", "The detected key; the pitch moves that of After. Cents show a tuning off concert pitch.", "Type a key such as A minor or F♯; the transposition is set to reach it, the nearer way.", 144),
    Fact("loudness", "Loudness", "Integrated loudness (ITU-R BS.1770, EBU R 128).", "Type LUFS; the Level stage’s target is set to it.", 108),
    Fact("range", "Range", "Loudness range (EBU Tech 3342): how far quiet and loud passages lie apart.", width=66),
    Fact("peak", "True peak", "The highest point of the wave between the samples (ITU-R BS.1770).", "Type dBTP; the Level stage’s ceiling is set to it.", 96),
)  # fmt: skip


NO_SHIFT = shift_text(Time(), 2)


class Header(QWidget):
    """Title on the left, the table of facts on the right."""

    asked = Signal(str, str)  # which fact, and what was typed
    beats_wanted = Signal()

    def __init__(self, document: Document, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.setFixedHeight(84)
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 5, 16, 5)
        row.setSpacing(24)
        row.addLayout(self._titles(), 1)
        facts = self._facts()
        facts.setSizePolicy(QSizePolicy.Policy.Maximum, QSizePolicy.Policy.Preferred)
        row.addWidget(facts)
        self.restyle()
        document.track_changed.connect(self.refresh)
        document.session_changed.connect(self.refresh)
        document.measured_changed.connect(self.refresh)
        document.reading_changed.connect(self.refresh)
        self.refresh()

    def _titles(self) -> QVBoxLayout:
        """The song, its artist, and the button of its beats."""
        titles = QVBoxLayout()
        titles.setSpacing(2)
        self._title, self._artist = ElidedLabel(), quiet_label(kind=ElidedLabel)
        self._title.setFont(font(20, SEMI_BOLD))
        titles.addStretch()
        titles.addWidget(self._title)
        titles.addWidget(self._artist)
        self.beats = QPushButton(tr("Beats and bars"))
        self.beats.setToolTip(tr("The song’s detected beats, bars and key, and how to correct them (G)."))
        self.beats.clicked.connect(self.beats_wanted)
        self.beats.setStyleSheet("padding: 2px 12px;")
        self.beats.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        titles.addWidget(self.beats, 0, Qt.AlignmentFlag.AlignLeft)  # else no title would be wider than it
        titles.addStretch()
        return titles

    def _facts(self) -> QWidget:
        """The table of facts, a row for Before and one for After."""
        self._table = QWidget()
        grid = QGridLayout(self._table)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setHorizontalSpacing(8)
        grid.setVerticalSpacing(0)
        self._names = [QLabel(tr("Before")), QLabel(tr("After"))]
        for i, name in enumerate(self._names):
            name.setFont(font(12, SEMI_BOLD))
            grid.addWidget(name, i + 1, 0)
        self.before: dict[str, QLabel | InlineEdit] = {}
        self.after: dict[str, InlineEdit] = {}
        for column, fact in enumerate(FACTS, 1):
            title = quiet_label(tr(fact.title), 11)
            title.setContentsMargins(7, 0, 0, 0)
            grid.addWidget(title, 0, column)
            before = self._before_value(fact)
            grid.addWidget(before, 1, column)
            after = InlineEdit(
                tr("After: {0}").format(tr(fact.title)),
                f"{tr(fact.tip)}\n{tr(fact.asked)}".strip(),
                typable=bool(fact.asked),
            )
            after.typed.connect(lambda text, key=fact.key: self.asked.emit(key, text))
            grid.addWidget(after, 2, column)
            after.setFixedWidth(fact.width)
            self.before[fact.key], self.after[fact.key] = before, after
        return self._table

    def _before_value(self, fact: Fact) -> "QLabel | InlineEdit":
        """A value of Before: read only, but for the track's tempo, which a person knows."""
        if fact.key == "tempo":
            entry = InlineEdit(
                tr("Before: BPM"),
                tr("Beats per minute of the track as it came. Type them, such as 92."),
                token="before",
            )
            entry.typed.connect(lambda text: self.asked.emit("source-bpm", text))
            entry.setFixedWidth(fact.width)
            return entry
        label = QLabel(NO_VALUE)
        label.setFont(font(15, SEMI_BOLD))
        label.setContentsMargins(7, 0, 0, 0)
        label.setToolTip(tr(fact.tip))
        return label

    def restyle(self) -> None:
        """Take the current theme's colours."""
        t = theme()
        for label, token in zip(self._names, (t.before, t.after), strict=True):
            label.setStyleSheet(f"color: {token}")
        for value in self.before.values():
            if isinstance(value, InlineEdit):
                value.restyle()
            else:
                value.setStyleSheet(f"color: {t.before}")
        for entry in self.after.values():
            entry.restyle()

    def refresh(self) -> None:
        """Show what the document knows now."""
        loaded = self._document.loaded
        self._table.setVisible(loaded is not None)
        self.beats.setVisible(loaded is not None)
        if loaded is None:
            self._title.setText(tr("Late Spin"))
            self._artist.setText(tr("Altered versions of whole songs, at a level you can trust"))
            return
        track = loaded.track
        self._title.setText(track.title)
        channels = {1: tr("mono"), 2: tr("stereo")}.get(
            track.file_channels, tr("{0} channels, folded to stereo").format(track.file_channels)
        )
        about = [
            track.tags.first("artist"),
            f"{number(track.rate / 1000, 1)} kHz {channels}",
            track.path.name,
        ]
        self._artist.setText(" · ".join(part for part in about if part))
        for key, text in self._texts(loaded.facts, loaded.facts.seconds, NO_SHIFT).items():
            self._show_before(key, text)
        grid = self._document.grid
        self._show_before("tempo", number(grid.bpm, 1) if grid else NO_VALUE)
        reading = self._document.reading
        self._show_before("key", say_key(reading.keys, reading.tuning_cents) if reading else NO_VALUE)
        self._refresh_after()

    def _show_before(self, key: str, text: str) -> None:
        value = self.before[key]
        if isinstance(value, InlineEdit):
            value.show_text(text)
        else:
            value.setText(text)

    def _refresh_after(self) -> None:
        document = self._document
        assert document.loaded is not None
        shift = shift_text(document.stages.time.heard, 2)
        measured = document.measured()
        if measured:
            texts = self._texts(measured.facts, measured.facts.seconds, shift)
        else:
            time_map = document.time_map()
            seconds = (time_map.after_frames if time_map else 0) / document.loaded.track.rate + document.tail_seconds()
            texts = {"total": clock(seconds, 1), "pitch": shift, "range": NO_VALUE, "peak": NO_VALUE,
                     "loudness": f"{number(document.heard_lufs()[1], 1)} LUFS"}  # fmt: skip
        texts["key"] = self._key_after()
        texts["tempo"] = bpm_text(document.stages.time, document.grid)
        for key, text in texts.items():
            self.after[key].show_text(text, settled=measured is not None or key in ("pitch", "total", "tempo", "key"))

    def _key_after(self) -> str:
        """The key heard in After; none where the pitch moves along the song."""
        reading = self._document.reading
        low, high = shift_semitones(self._document.stages.time.heard)
        if reading is None or high - low > 0.05:
            return NO_VALUE
        return say_key(reading.keys, reading.tuning_cents, low)

    def _texts(self, facts: "Facts", seconds: float, shift: str) -> dict[str, str]:  # type: ignore[name-defined]  # noqa: F821
        loudness = facts.loudness
        return {
            "total": clock(seconds, 1),
            "pitch": shift,
            "loudness": _level(loudness.integrated_lufs, "LUFS"),
            "range": _level(loudness.range_lu, "LU"),
            "peak": _level(facts.true_peak_dbtp, "dBTP"),
        }


def _level(value: float, unit: str) -> str:
    return f"{number(value, 1)} {unit}" if math.isfinite(value) else NO_VALUE

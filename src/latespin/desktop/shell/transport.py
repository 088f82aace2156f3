"""The transport: play, loop, Before/After, level matching, meters, volume, and the device."""

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSizePolicy, QSlider, QVBoxLayout, QWidget

from latespin.desktop.theme.theme import SEMI_BOLD, colour, font, theme
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, icon, quiet_label
from latespin.desktop.widgets.elided_label import ElidedLabel
from latespin.model.values.units import clock, number

LOW_LUFS, HIGH_LUFS = -40.0, 0.0


class MeterView(QWidget):
    """Momentary and short-term loudness as bars, integrated loudness and true peak as numbers."""

    def __init__(self) -> None:
        super().__init__()
        self._meters: object | None = None
        self.setFixedSize(QSize(248, 48))
        self.setAccessibleName(tr("Meters"))
        self.setToolTip(
            tr(
                "What is heard now: momentary (400 ms) and short-term (3 s) loudness as bars;\nintegrated loudness and the highest true peak, since play was pressed or something was changed, as numbers."
            )
        )

    def show_meters(self, meters: object) -> None:
        """Show what the player measured."""
        if meters != self._meters:
            self._meters = meters
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        values = [
            getattr(self._meters, name, -math.inf) for name in ("momentary", "short_term", "integrated", "true_peak")
        ]
        for row, (title, value) in enumerate(zip(("M", "S"), values[:2], strict=True)):
            top = 4 + 22 * row
            painter.setFont(font(11))
            painter.setPen(colour("ink_soft"))
            painter.drawText(QRectF(0, top, 14, 18), Qt.AlignmentFlag.AlignVCenter, title)
            self._paint_bar(painter, QRectF(18, top + 5, 84, 8), value)
            painter.setPen(colour("ink"))
            painter.drawText(
                QRectF(104, top, 36, 18),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                number(value, 1),
            )
        for row, (title, value, unit) in enumerate((("I", values[2], "LUFS"), ("TP", values[3], "dBTP"))):
            top = 4 + 22 * row
            painter.setPen(colour("ink_soft"))
            painter.drawText(QRectF(154, top, 20, 18), Qt.AlignmentFlag.AlignVCenter, title)
            high = row == 1 and value > 0.0
            painter.setPen(colour("warning") if high else colour("ink"))
            painter.drawText(
                QRectF(172, top, 36, 18),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                number(value, 1),
            )
            painter.setPen(colour("ink_soft"))
            painter.drawText(QRectF(212, top, 36, 18), Qt.AlignmentFlag.AlignVCenter, unit)

    def _paint_bar(self, painter: QPainter, bar: QRectF, value: float) -> None:
        painter.setPen(QPen(colour("line"), bar.height(), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        y, left, right = bar.center().y(), bar.left() + 4, bar.right() - 4
        painter.drawLine(QPointF(left, y), QPointF(right, y))
        if value > LOW_LUFS:
            part = min(1.0, (value - LOW_LUFS) / (HIGH_LUFS - LOW_LUFS))
            painter.setPen(QPen(colour("level"), bar.height(), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
            painter.drawLine(QPointF(left, y), QPointF(left + part * (right - left), y))


class GuardLamp(QWidget):
    """Lit while the output guard turns playback down."""

    LIT_MS = 1_000

    def __init__(self) -> None:
        super().__init__()
        self.lit = False
        self.setFixedSize(QSize(44, 16))
        self.setAccessibleName(tr("Output limited"))
        self.setToolTip(
            tr(
                "Lights up while the output is turned down to protect ears and loudspeakers:\nabove full scale, or when a change would make it jump in level. Exports are not affected."
            )
        )
        self._off = QTimer(self, singleShot=True, interval=self.LIT_MS)
        self._off.timeout.connect(lambda: self._show(False))

    def show_reduction(self, decibels: float) -> None:
        """Light up for a while where anything was taken off."""
        if decibels > 0.01:
            self._show(True)
            self._off.start()

    def _show(self, lit: bool) -> None:
        if lit != self.lit:
            self.lit = lit
            self.setAccessibleDescription(tr("The output is being turned down.") if lit else "")
            self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("warning" if self.lit else "line"))
        painter.drawEllipse(QRectF(0, 4, 8, 8))
        painter.setFont(font(11))
        painter.setPen(colour("warning" if self.lit else "ink_soft"))
        painter.drawText(QRectF(12, 0, 32, 16), Qt.AlignmentFlag.AlignVCenter, tr("Limit"))


class Transport(QWidget):
    """Buttons that ask; the window does."""

    play_wanted = Signal()
    start_wanted = Signal()
    loudest_wanted = Signal()
    loop_wanted = Signal(bool)
    side_wanted = Signal(str)
    matched_wanted = Signal(bool)
    volume_wanted = Signal(float)

    def __init__(self, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setFixedHeight(72)
        self._playing = False
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 8, 12, 8)
        row.setSpacing(8)
        self.start = self._button(
            "start",
            "To the start",
            "Go to the start, or to the start of the loop (Home).",
            self.start_wanted.emit,
        )
        self.play = self._button("play", "Play", "Play or pause (Space).", self.play_wanted.emit)
        self.play.setFixedSize(52, 44)
        self.loop = self._button("loop", "Loop", "Loop the marked range. Drag along a waveform to mark one (L).", None)
        self.loop.setCheckable(True)
        self.loop.clicked.connect(self.loop_wanted)
        self.loudest = self._button(
            "loudest", "Loudest part", "Jump to the loudest part of the song (J).", self.loudest_wanted.emit
        )
        for button in (self.start, self.play, self.loop, self.loudest):
            row.addWidget(button)
        row.addSpacing(8)
        row.addLayout(self._clocks())
        row.addSpacing(8)
        self._add_sides(row)
        row.addStretch()
        self.meters = MeterView()
        row.addWidget(self.meters)
        row.addLayout(self._monitor())
        self.restyle()

    def _add_sides(self, row: QHBoxLayout) -> None:
        self.side = SegmentedButton(
            "Heard",
            {
                "before": ("Before", "Play the original track from the same musical place (B)."),
                "after": ("After", "Play the version from the same musical place (B)."),
            },
            "before",
            "after",
        )
        self.side.choose("after")
        self.side.chosen.connect(self.side_wanted)
        row.addWidget(self.side)
        self.matched = QPushButton(tr("Level-matched"))
        self.matched.setCheckable(True)
        self.matched.setChecked(True)
        self.matched.setToolTip(
            tr(
                "Bring Before and After to the loudness of the quieter one while listening (M),\nso that louder never passes for better. Files are not changed by it."
            )
        )
        self.matched.clicked.connect(self.matched_wanted)
        row.addWidget(self.matched)

    def _button(self, name: str, title: str, tip: str, slot: object) -> QPushButton:
        button = QPushButton()
        button.setProperty("icon_name", name)
        button.setFixedSize(40, 40)
        button.setIconSize(QSize(20, 20))
        button.setAccessibleName(tr(title))
        button.setToolTip(tr(tip))
        if slot is not None:
            button.clicked.connect(slot)
        return button

    def _clocks(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(0)
        self._before_clock, self._after_clock = QLabel("0:00.0"), QLabel("0:00.0")
        for label in (self._before_clock, self._after_clock):
            label.setFont(font(14, SEMI_BOLD))
            label.setMinimumWidth(112)
            column.addWidget(label)
        self._before_clock.setToolTip(tr("Place in the track as it came: time, then bar and beat."))
        self._after_clock.setToolTip(tr("Place in the version."))
        return column

    def _monitor(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(2)
        self.device = quiet_label("", 11, ElidedLabel)
        self.device.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.device.setMinimumWidth(100)
        self.device.setMaximumWidth(240)
        self.volume = QSlider(Qt.Orientation.Horizontal)
        self.volume.setRange(0, 100)
        self.volume.setValue(100)
        self.volume.setAccessibleName(tr("Monitoring volume"))
        self.volume.setToolTip(tr("Playback volume. It changes no file."))
        self.volume.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.volume.valueChanged.connect(lambda percent: self.volume_wanted.emit(float(percent)))
        line = QHBoxLayout()
        line.setSpacing(8)
        self.lamp = GuardLamp()
        line.addWidget(self.lamp)
        line.addWidget(quiet_label(tr("Volume"), 11))
        line.addWidget(self.volume, 1)
        column.addStretch()
        column.addLayout(line)
        column.addWidget(self.device)
        column.addStretch()
        return column

    def restyle(self) -> None:
        """Take the current theme's colours."""
        t = theme()
        self._before_clock.setStyleSheet(f"color: {t.before}")
        self._after_clock.setStyleSheet(f"color: {t.after}")
        self.matched.setStyleSheet(
            "QPushButton { padding: 6px 12px; } "
            f"QPushButton:checked {{ border: 1px solid {t.focus}; background: {t.raised}; color: {t.focus}; }} "
            f"QPushButton:!checked {{ background: {t.panel}; color: {t.ink_soft}; }}"
        )
        self.loop.setStyleSheet(
            f"QPushButton {{ padding: 0; }} QPushButton:checked {{ border: 2px solid {t.focus}; background: {t.line}; }}"
        )
        for button in (self.start, self.play, self.loudest):
            button.setStyleSheet("padding: 0;")
            button.setIcon(icon(button.property("icon_name")))
        self.loop.setIcon(icon("loop"))
        self.play.setStyleSheet(
            f"QPushButton {{ padding: 0; background: {t.after}; border-color: {t.after}; border-radius: 12px; }} QPushButton:focus {{ border: 2px solid {t.ink}; }} QPushButton:disabled {{ background: {t.raised}; border-color: {t.line}; }}"
        )
        self.show_playing(self._playing)
        self.side.restyle()
        self.volume.setStyleSheet(
            f"QSlider::groove:horizontal {{ height: 4px; background: {t.line}; border-radius: 2px; }}"
            f"QSlider::sub-page:horizontal {{ background: {t.ink_soft}; border-radius: 2px; }}"
            f"QSlider::handle:horizontal {{ width: 14px; height: 14px; margin: -5px 0; border-radius: 7px; background: {t.ink}; }}"
            f"QSlider::handle:horizontal:focus {{ background: {t.focus}; }}"
        )

    def show_playing(self, on: bool) -> None:
        """Show whether it plays."""
        self._playing = on
        self.play.setIcon(icon("pause" if on else "play", "ground"))
        self.play.setAccessibleName(tr("Pause") if on else tr("Play"))

    def show_place(self, before: float, after: float, bar: str = "") -> None:
        """Show the place on both sides, seconds, and the bar and beat if they are known."""
        self._before_clock.setText(f"{clock(before, 1)}   {bar}".rstrip())
        self._after_clock.setText(clock(after, 1))

    def show_device(self, description: str) -> None:
        """Say what plays."""
        self.device.setText(description)

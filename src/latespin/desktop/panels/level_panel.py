"""The Level panel: how loud the version is and what that does to it; and the match to a reference's tone."""

import math
from functools import partial
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QComboBox,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.plots.loudness import LoudnessPlot
from latespin.desktop.plots.tone_match import MatchPlot
from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import STAGE_TITLES
from latespin.desktop.translation import tr
from latespin.desktop.widgets.controls import SegmentedButton, Switch, command_button, quiet_label
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.model.tone_match import Match, tone_warnings
from latespin.model.values.units import NO_VALUE, clock, number
from latespin.model.version import Level, Stages

if TYPE_CHECKING:  # imported where it is used: the first window does not wait for it
    from latespin.render.mastering.measure import Measured

TARGETS = {
    "streaming": ("Streaming", "−14 LUFS: where most streaming players turn songs to."),
    "podcast": ("Podcast", "−16 LUFS: a little more headroom; usual for phones and spoken word."),
    "broadcast": ("Broadcast", "−23 LUFS: the level of broadcasts (EBU R 128)."),
    "loud": ("Loud", "−9 LUFS: as loud as club music; the limiter may take off up to 6 dB."),
    "before": ("As before", "As loud as the track as it came."),
    "none": (
        "As it is",
        "No target: the version is as loud as its stages make it, and true peaks stay below the ceiling.",
    ),
}
HEARD_WIDTH_DB, NARROW_DB = 1.0, 4.0  # a change of width that is said; one that comes with advice
NUMBERS = {"streaming": -14.0, "podcast": -16.0, "broadcast": -23.0, "loud": -9.0}
LOUD_ALLOWANCE_DB = 6.0
SIDES = {
    "limit": ("Limit", "The sides get their own curve, but hardly narrower than the middle’s."),
    "match": ("Match", "The sides get their own curve, however much of them it takes."),
    "leave": ("Leave", "The sides get the middle’s curve: the width stays as it is."),
}
PHASES = {
    "linear": ("Linear", "Nothing is shifted against anything; a sharp beat may be heard a little before its time."),
    "minimum": ("Minimum", "Nothing sounds before its time; what is changed is shifted a little."),
}


class LevelPanel(StagePanel):
    """``match_edited`` as ``edited``, for values of the match; ``wanted`` names what a button asks for."""

    wanted = Signal(str)
    reference_chosen = Signal(int)  # which of the session's, −1 for none
    passages_typed = Signal(str)

    def __init__(self) -> None:
        super().__init__("level")
        self.pages = SegmentedButton(
            "Level", {"loudness": ("Loudness", "How loud the version is."), "match": ("Match", "Its tone, held against a song that already sounds right.")}, "level"
        )  # fmt: skip
        self.pages.chosen.connect(self.turn_to)
        self.column.setSpacing(8)
        self._stack = QStackedWidget()
        self._stack.addWidget(self._loudness_page())
        self._stack.addWidget(self._match_page())
        top = QHBoxLayout()
        top.addWidget(self.pages)
        top.addStretch()
        self.added = quiet_label()
        self.added.setToolTip(tr("What each stage adds to the loudness, each with all that come before it."))
        top.addWidget(self.added)
        self.column.addLayout(top)
        self.column.addWidget(self._stack, 1)
        self.turn_to("loudness")

    def turn_to(self, page: str) -> None:
        """Show one of the pages."""
        self.page = page
        self.pages.choose(page)
        self._stack.setCurrentIndex(("loudness", "match").index(page))
        self.wanted.emit("show_level")

    # -- loudness --------------------------------------------------------------------------------------------------

    def _loudness_page(self) -> QWidget:
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(14)
        left = QVBoxLayout()
        left.setSpacing(8)
        self.targets = SegmentedButton("Target", TARGETS, "level")
        self.targets.chosen.connect(self._take_target)
        left.addWidget(self.targets)
        bars = QGridLayout()
        bars.setSpacing(8)
        for i, field in enumerate(("target_lufs", "ceiling_dbtp", "allowance_db", "link_percent")):
            more = {"as_before": False} if field == "target_lufs" else {}
            bar = self.bar(Level, field, partial(_level_changed, field=field, more=more))
            bars.addWidget(bar, i // 2, i % 2)
        left.addLayout(bars)
        self._result = QLabel()
        self._result.setWordWrap(True)
        self._result.setAlignment(Qt.AlignmentFlag.AlignTop)
        left.addWidget(self._result, 1)
        row.addLayout(left, 5)
        self.picture = LoudnessPlot()
        row.addWidget(self.picture, 6)
        return page

    def _take_target(self, key: str) -> None:
        if key == "before":
            changes: dict[str, Any] = {"as_before": True}
        else:
            changes = {"as_before": False, "target_lufs": NUMBERS.get(key)}
        if key == "loud":
            changes["allowance_db"] = max(LOUD_ALLOWANCE_DB, self._stages.level.allowance_db)
        self.edited.emit(
            tr("Level: {0}").format(TARGETS[key][0].lower()), _with_level(self._stages, on=True, **changes), ""
        )

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        level, measured = stages.level, document.measured()
        before = document.loaded.facts if document.loaded else None
        target = level.target(before.loudness.integrated_lufs) if before else level.target_lufs
        if target is not None and math.isfinite(target):
            self.bars["target_lufs"].set_value(target)
        self.targets.choose(_choice(level))
        for field in ("ceiling_dbtp", "allowance_db", "link_percent"):
            self.bars[field].set_value(getattr(level, field))
        self._result.setText(self._words(stages, document))
        self.picture.show_facts(before, measured.facts if measured else None, target if level.on else None)
        self._show_match(document)

    def _words(self, stages: Stages, document: Document) -> str:
        if document.loaded is None:
            return ""
        if not stages.level.on:
            return tr("The stage is off: the other stages set the loudness.")
        measured = document.measured()
        if measured is None:
            return tr("Measuring the whole version …")
        plan = measured.plan
        limiter = (
            tr("up to {0} dB of limiting").format(number(plan.reduction_db, 1))
            if plan.reduction_db > 0.05
            else tr("no limiting")
        )
        return tr("Gain {0} dB, {1}. {2}").format(number(plan.gain_db, 1, signed=True), limiter, plan.note)

    def show_added(self, added: dict[str, float] | None) -> None:
        """Say what each stage adds, LU; None while that is being worked out."""
        if added is None:
            self.added.setText("")
            return
        message = [
            f"{tr(STAGE_TITLES[name])} {number(value, 1, signed=True)}"
            for name, value in added.items()
            if math.isfinite(value)
        ]
        self.added.setText(tr("Adds, in LU:  {0}").format("   ".join(message)) if message else "")

    # -- match -----------------------------------------------------------------------------------------------------

    def _match_page(self) -> QWidget:
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(14)
        left = QVBoxLayout()
        left.setSpacing(6)
        left.addLayout(self._reference_row())
        left.addLayout(self._match_bars())
        ways = QHBoxLayout()
        ways.setSpacing(8)
        self.sides = SegmentedButton("Side", SIDES, "level")
        self.phase = SegmentedButton("Phase", PHASES, "level")
        for title, choices, field in (("Side", self.sides, "sides"), ("Phase", self.phase, "phase")):
            ways.addWidget(quiet_label(tr(title), 11))
            choices.chosen.connect(lambda key, f=field, t=title: self._edit_match(t.lower(), "", **{f: key}))
            ways.addWidget(choices)
        ways.addStretch()
        left.addLayout(ways)
        self.warning = quiet_label("", 11)
        self.warning.setWordWrap(True)
        left.addWidget(self.warning, 1, Qt.AlignmentFlag.AlignTop)
        row.addLayout(left, 6)
        self.pictures = [MatchPlot("mid"), MatchPlot("side")]
        for picture in self.pictures:
            row.addWidget(picture, 4)
        return page

    def _reference_row(self) -> QHBoxLayout:
        chooser = QHBoxLayout()
        chooser.setSpacing(8)
        self.switch = Switch(
            tr("Match on"), "level", tr("Switch the match off and on to compare at the same loudness.")
        )
        self.switch.clicked.connect(lambda on: self._edit_match("on" if on else "off", "", on=on))
        chooser.addWidget(self.switch)
        self.reference_buttons: dict[str, QPushButton] = {}
        self.references = QComboBox()
        self.references.setAccessibleName(tr("Reference"))
        self.references.setToolTip(tr("The song whose tone the version is brought towards."))
        self.references.activated.connect(lambda i: self.reference_chosen.emit(i - 1))
        chooser.addWidget(self.references, 1)
        for name, text, tip in (
            ("add_reference", "Add song …", "Measure another song and keep its tone in this session."),
            (
                "average_references",
                "Average",
                "Add the average tone of all references of this session, and match that.",
            ),
            ("remove_reference", "Remove", "Take the chosen reference out of this session."),
        ):
            button = command_button(name, text, tip, self.wanted)
            self.reference_buttons[name] = button
            button.setObjectName(name)
            chooser.addWidget(button)
        return chooser

    def _match_bars(self) -> QGridLayout:
        bars = QGridLayout()
        bars.setSpacing(6)
        fields = ("amount_percent", "smoothing_octaves", "low_hz", "high_hz", "boost_db", "cut_db", "narrowing_db")
        for i, field in enumerate(fields):
            bars.addWidget(self._match_bar(field), i // 4, i % 4)
        measured = QVBoxLayout()
        measured.setSpacing(0)
        self.passages = InlineEdit(
            tr("Passages"),
            tr(
                "Where the reference was measured: its fullest passages, or those you type, such as 0:32-0:51, 1:04-1:20; “auto” finds them again."
            ),
            token="level",
        )
        self.passages.typed.connect(self.passages_typed)
        measured.addWidget(quiet_label(tr("Measured at"), 11))
        measured.addWidget(self.passages)
        bars.addLayout(measured, 1, 3)
        for column in range(4):
            bars.setColumnStretch(column, 1)
        return bars

    def _match_bar(self, field: str) -> QWidget:
        return self.bar(Match, field, lambda s, v: _with_match(s, **{field: v}))

    def _edit_match(self, what: str, merge: str, **changes: Any) -> None:
        self.edited.emit(tr("Match: {0}").format(what), _with_match(self._stages, **changes), merge)

    def _show_match(self, document: Document) -> None:
        match = self._stages.level.match or Match()
        for field in ("amount_percent", "smoothing_octaves", "low_hz", "high_hz", "boost_db", "cut_db", "narrowing_db"):
            self.bars[field].set_value(getattr(match, field))
        self.bars["narrowing_db"].setEnabled(match.sides == "limit")
        self.sides.choose(match.sides)
        self.phase.choose(match.phase)
        reference = match.reference
        self.switch.setChecked(match.on and reference is not None)
        self.switch.setEnabled(reference is not None)
        known = list(document.session.references)
        self.reference_buttons["average_references"].setEnabled(sum(bool(tone.path) for tone in known) > 1)
        self.reference_buttons["remove_reference"].setEnabled(reference is not None)
        names = ["No reference", *(tone.title for tone in known)]
        if reference is not None and reference not in known:
            names.append(reference.title)
        self.references.blockSignals(True)
        self.references.clear()
        self.references.addItems(names)
        at = 0 if reference is None else known.index(reference) + 1 if reference in known else len(names) - 1
        self.references.setCurrentIndex(at)
        self.references.blockSignals(False)
        self.passages.setEnabled(reference is not None and bool(reference.path))
        spans = [f"{clock(start)}–{clock(stop)}" for start, stop in reference.passages] if reference else []
        self.passages.show_text(spans[0] + (f" +{len(spans) - 1}" if len(spans) > 1 else "") if spans else NO_VALUE)
        measured = document.measured()
        rate = document.loaded.track.rate if document.loaded else 44_100
        self.warning.setText(
            " ".join((*tone_warnings(reference), *_width_words(match, measured, rate)))
            if reference
            else tr(
                "Add a song that sounds as this version should: its tone is measured where it is fullest, middle and sides apart."
            )
        )
        for picture in self.pictures:
            picture.show_tones(document.tone_before, measured.tone if measured else None, match, rate)


def _width_words(match: Match, measured: "Measured | None", rate: int) -> tuple[str, ...]:
    """What the match does to the width, where that can be heard."""
    if measured is None or measured.tone is None or not match.on:
        return ()
    from latespin.render.mastering.tone_match import width_change_db

    change = width_change_db(measured.tone, match, rate)
    if abs(change) < HEARD_WIDTH_DB:
        return ()
    if change > 0.0:
        return (tr("It makes this version {0} dB wider.").format(number(change, 1)),)
    advice = tr(" Leave the sides, or limit the narrowing.") if change < -NARROW_DB and match.sides == "match" else ""
    return (tr("It makes this version {0} dB narrower.").format(number(-change, 1)) + advice,)


def _choice(level: Level) -> str:
    """The named target that matches a Level stage, or None."""
    if level.as_before:
        return "before"
    if level.target_lufs is None:
        return "none"
    return next((key for key, lufs in NUMBERS.items() if lufs == level.target_lufs), "")


def _with_level(stages: Stages, **changes: Any) -> Stages:
    return replace(stages, level=replace(stages.level, **changes))


def _level_changed(stages: Stages, value: float, *, field: str, more: dict[str, Any]) -> Stages:
    """With one value of Level changed, and the stage switched on."""
    return _with_level(stages, on=True, **{field: value}, **more)


def _with_match(stages: Stages, **changes: Any) -> Stages:
    return _with_level(stages, on=True, match=replace(stages.level.match or Match(), **changes))

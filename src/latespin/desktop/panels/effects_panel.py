"""The Effects panel: the list of effects in order, the controls of the chosen one, and its plot."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.panels.effect_form import EffectForm
from latespin.desktop.panels.effect_list import EffectList
from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.panels.solo_row import SoloRow
from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import BOLD, font
from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.controls import Switch, WarningLabel, command_button, quiet_label, run_from
from latespin.desktop.widgets.form_stack import FormStack
from latespin.model.effects.declaration import EFFECTS, GROUPS, effect_info
from latespin.model.effects.effects import AnyEffect, needs_file
from latespin.model.values.kinds import kind_of
from latespin.model.version import Stages

if TYPE_CHECKING:  # loaded with the first effect
    from latespin.desktop.plots.effect_plot import EffectPlot
    from latespin.render.effects.effect_node import GainHistory


class EffectsPanel(StagePanel):
    """Asks through signals; :class:`~latespin.desktop.controllers.effects.ColourWork` does."""

    wanted = Signal(str)
    add_wanted = Signal(str)
    effect_chosen = Signal(str)
    changed = Signal(str, object)  # a field of the chosen effect, and its value
    switched = Signal(str)
    moved = Signal(str, int)
    solo_wanted = Signal(object)  # an effect's id and its part, or None

    def __init__(self) -> None:
        super().__init__("colour")
        self.chosen = ""
        self._solo: tuple[str, int] | None = None
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addLayout(self._side())
        row.addLayout(self._middle(), 1)
        self._pictures = FormStack(_make_picture)
        self.pictures = self._pictures.widget
        self.pictures.setFixedWidth(288)
        right = QVBoxLayout()
        right.setSpacing(6)
        self.solo = SoloRow()
        self.solo.wanted.connect(self._ask_for_solo)
        right.addWidget(self.pictures, 1)
        right.addWidget(self.solo)
        row.addLayout(right)
        self.column.addLayout(row, 1)

    def _side(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        self.list = EffectList()
        self.list.setFixedWidth(240)
        self.list.effect_chosen.connect(self.effect_chosen)
        self.list.switched.connect(self.switched)
        self.list.moved.connect(self.moved)
        self.list.delete_wanted.connect(lambda: self.wanted.emit("delete_effect"))
        column.addWidget(self.list, 1)
        buttons = QHBoxLayout()
        buttons.setSpacing(6)
        self.add = QPushButton(tr("Add"))
        self.add.setToolTip(tr("Add an effect at the end of the list."))
        self.add.setMenu(self.kinds_menu(self))
        self.add.setStyleSheet("QPushButton { padding: 4px 9px; }")
        self.duplicate, self.delete = (
            command_button(name, text, tip, self.wanted, dense=True)
            for name, text, tip in (
                ("duplicate_effect", "Duplicate", "Copy the chosen effect and place the copy below it."),
                ("delete_effect", "Delete", "Delete the chosen effect."),
            )
        )
        for button in (self.add, self.duplicate, self.delete):
            buttons.addWidget(button)
        buttons.addStretch()
        column.addLayout(buttons)
        return column

    def kinds_menu(self, parent: QWidget) -> QMenu:
        """A menu with every kind of effect."""
        menu = QMenu(tr("&Add"), parent)
        menu.setToolTipsVisible(True)
        for group in GROUPS:
            menu.addSection(tr(group))
            for kind in (kind for kind in EFFECTS if effect_info(kind).group == group):
                action = QAction(translated(effect_info(kind)).title, menu)
                action.setToolTip(translated(effect_info(kind)).summary)
                action.triggered.connect(lambda _=False, k=kind: self.add_wanted.emit(k))
                menu.addAction(action)
        menu.addSeparator()
        action = QAction(tr("Pad from the marked range …"), menu)
        action.setToolTip(tr("Stretch a slice of the song into a pad that loops without a seam."))
        action.triggered.connect(lambda: self.wanted.emit("pad"))
        menu.addAction(action)
        return menu

    def _middle(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        head = QHBoxLayout()
        head.setSpacing(8)
        self.switch = Switch(tr("Effect on"), "colour", tr("Switch this effect on or off."))
        self.switch.clicked.connect(lambda on: self.changed.emit("on", on))
        self.title = QLabel()
        self.title.setFont(font(14, BOLD))
        self.keep = QCheckBox(tr("Keep level"))
        self.keep.setToolTip(
            tr("Keeps the version as loud as without this effect, so that louder never passes for better.")
        )
        self.keep.clicked.connect(lambda on: self.changed.emit("keep_level", on))
        self.file = QPushButton(tr("Choose a file …"))
        self.file.setStyleSheet("QPushButton { padding: 3px 9px; }")
        run_from(self.file, "choose_effect_file", self.wanted)
        self.overtime = QPushButton(tr("Automate"))
        self.overtime.setStyleSheet("QPushButton { padding: 3px 9px; }")
        self.overtime.setToolTip(
            tr("Change a control over the song: open it over a range, dip it, or draw your own points on the waveform.")
        )
        self.lanes_menu = QMenu(self.overtime)
        self.overtime.setMenu(self.lanes_menu)
        for widget in (self.switch, self.title, self.keep):
            head.addWidget(widget)
        head.addStretch()
        for button in (self.file, self.overtime):
            head.addWidget(button)
        column.addLayout(head)
        self._forms = FormStack(self._make_form)
        self.forms = self._forms.widget
        self._empty = quiet_label(
            tr(
                "Add an effect: a hall, a worn record, a dive under water, an 8D spin … Each one feeds the next. "
                "Several mild effects sound better than one strong one."
            ),
            13,
        )
        self._empty.setWordWrap(True)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.forms.addWidget(self._empty)
        column.addWidget(self.forms, 1)
        self.problem = WarningLabel()
        column.addWidget(self.problem)
        return column

    # -- showing -------------------------------------------------------------------------------------------------

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        colour = stages.colour
        if colour.find(self.chosen) is None:
            self.chosen = colour.effects[0].id if colour.effects else ""
        problems = {problem.id: problem.says for problem in document.problems()}
        self.list.show_effects(colour.effects, self.chosen, problems, live=colour.on)
        effect = colour.find(self.chosen)
        self.problem.say(problems.get(self.chosen, "") if effect else "")
        for part in (self.switch, self.title, self.overtime):
            part.setVisible(effect is not None)
        self.file.setVisible(effect is not None and needs_file(effect))
        self.delete.setEnabled(effect is not None)
        self.duplicate.setEnabled(effect is not None)
        self.pictures.setVisible(effect is not None)
        self.solo.setVisible(effect is not None and bool(effect.parts))
        self.keep.setVisible(effect is not None and not effect.sets_level)
        if effect is None:
            self.forms.setCurrentWidget(self._empty)
            return
        self._show_effect(effect, document)

    def _show_effect(self, effect: AnyEffect, document: Document) -> None:
        kind = kind_of(effect)
        self.title.setText(translated(effect_info(kind)).title)
        self.title.setToolTip(translated(effect_info(kind)).summary)
        self.switch.setChecked(effect.on)
        self.keep.setChecked(effect.keep_level)
        if needs_file(effect):
            name = getattr(effect, "path", "").rsplit("/", 1)[-1]
            self.file.setText(name[:22] or tr("Choose a file …"))
        form = self._forms.show(kind)
        form.show_effect(effect, document)
        self.solo.show_parts(effect.parts, on=effect in document.stages.colour.heard)
        self.solo.show_solo(self._soloed)
        if document.loaded is not None:
            self._show_picture(kind, effect, document)

    @property
    def _soloed(self) -> int:
        """The part of the chosen effect that is heard alone, or −1."""
        return self._solo[1] if self._solo and self._solo[0] == self.chosen else -1

    def show_solo(self, solo: tuple[str, int] | None) -> None:
        """Show what is heard alone."""
        self._solo = solo
        self.solo.show_solo(self._soloed)

    def _ask_for_solo(self, part: int) -> None:
        self.solo_wanted.emit((self.chosen, part) if part >= 0 else None)

    def form(self, kind: str) -> EffectForm:
        """The form of a kind."""
        return self._forms.page(kind)

    def _make_form(self, kind: str) -> EffectForm:
        made = EffectForm(kind)
        made.changed.connect(self.changed)
        made.settled.connect(self.settled)
        return made

    def _show_picture(self, kind: str, effect: AnyEffect, document: Document) -> None:
        from latespin.desktop.plots.effect_plot import Shown

        assert document.loaded is not None
        heard = effect in document.stages.colour.heard
        context = document.loaded.readers.context(document.stages)
        self._pictures.show(kind).show_effect(Shown(effect, context, heard))

    def show_place(self, frame: int, notes: "GainHistory") -> None:
        """Move the picture on to a frame of After."""
        picture = self.pictures.currentWidget()
        if self.isVisible() and picture is not None:
            picture.show_place(frame, notes)  # type: ignore[attr-defined]


def _make_picture(kind: str) -> "EffectPlot":
    from latespin.desktop.plots.registry import plot_of

    return plot_of(kind)

"""The Colour bench: the ordered list of colours, the chosen one's controls, and its own picture."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QAction
from PySide6.QtWidgets import (
    QCheckBox,
    QHBoxLayout,
    QLabel,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.panels.effect_form_layout import MAIN, MORE, SAYS, active_fields
from latespin.desktop.panels.effect_list import EffectList
from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import BOLD, font
from latespin.desktop.widgets.controls import Switch, quiet_label, run_from
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.model.effects.effects import EFFECT_TITLES, EFFECTS, AnyEffect, effect_kind, needs_file
from latespin.model.version import Stages

GROUPS = (
    ("Space", ("hall", "room", "orbit", "width", "echo")), ("Wear", ("vinyl", "tape", "crush", "wobble")),
    ("Elsewhere", ("underwater", "speaker")), ("Tone", ("eq", "compressor", "deharsh", "saturation")), ("Beneath", ("layer",)),
)  # fmt: skip


class _Form(QScrollArea):
    """A colour's main controls, and the rest of them folded away."""

    changed = Signal(str, object)
    settled = Signal()

    def __init__(self, kind: str) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 4, 0)
        column.setSpacing(8)
        self.forms = [FieldForm(EFFECTS[kind], "colour", ("amount_percent", *MAIN[kind]), 3)]
        column.addWidget(self.forms[0])
        if MORE[kind]:
            self.forms.append(FieldForm(EFFECTS[kind], "colour", MORE[kind], 3))
            self.more = QPushButton("More")
            self.more.setCheckable(True)
            self.more.setToolTip("Show the finer controls of this colour, or fold them away.")
            self.more.setStyleSheet("QPushButton { padding: 3px 12px; }")
            self.more.toggled.connect(self._unfold)
            column.addWidget(self.more, 0, Qt.AlignmentFlag.AlignLeft)
            column.addWidget(self.forms[1])
            self._unfold(False)
        column.addStretch()
        for form in self.forms:
            form.changed.connect(self.changed)
            form.settled.connect(self.settled)
        self.setWidget(holder)

    def _unfold(self, on: bool) -> None:
        self.more.setText("Less" if on else "More")
        self.forms[1].setVisible(on)
        if on:
            self.ensureWidgetVisible(self.forms[1])

    def show_effect(self, effect: AnyEffect, document: Document) -> None:
        """Show a colour's values; what does nothing now cannot be set."""
        acts, moving = active_fields(effect), {lane.field for lane in effect.lanes}
        for form in self.forms:
            form.show_values(effect, document.grid)
            for name, control in form.controls.items():
                control.setEnabled(acts.get(name, True) and name not in moving)


class EffectsPanel(StagePanel):
    """Asks through signals; :class:`~latespin.desktop.controllers.effects.ColourWork` does."""

    wanted = Signal(str)
    add_wanted = Signal(str)
    effect_chosen = Signal(str)
    changed = Signal(str, object)  # a field of the chosen colour, and its value
    switched = Signal(str)
    moved = Signal(str, int)

    def __init__(self) -> None:
        super().__init__("colour")
        self.chosen = ""
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addLayout(self._side())
        row.addLayout(self._middle(), 1)
        self.pictures = QStackedWidget()
        self.pictures.setFixedWidth(288)
        self._pictures: dict[str, QWidget] = {}
        row.addWidget(self.pictures)
        self.column.addLayout(row, 1)

    def _side(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        self.list = EffectList()
        self.list.setFixedWidth(212)
        self.list.effect_chosen.connect(self.effect_chosen)
        self.list.switched.connect(self.switched)
        self.list.moved.connect(self.moved)
        self.list.delete_wanted.connect(lambda: self.wanted.emit("delete_effect"))
        column.addWidget(self.list, 1)
        buttons = QHBoxLayout()
        buttons.setSpacing(6)
        self.add = QPushButton("Add")
        self.add.setToolTip("Add a colour at the end of the list.")
        self.add.setMenu(self.kinds_menu(self))
        self.delete, self.duplicate = QPushButton("Delete"), QPushButton("Duplicate")
        for button, name, tip in (
            (self.duplicate, "duplicate_effect", "Copy the chosen effect and place the copy below it."),
            (self.delete, "delete_effect", "Take the chosen colour away."),
        ):
            button.setToolTip(tip)
            run_from(button, name, self.wanted)
        for button in (self.add, self.duplicate, self.delete):
            button.setStyleSheet("QPushButton { padding: 4px 12px; }")
            buttons.addWidget(button)
        buttons.addStretch()
        column.addLayout(buttons)
        return column

    def kinds_menu(self, parent: QWidget) -> QMenu:
        """A menu with every kind of colour."""
        menu = QMenu("&Add", parent)
        menu.setToolTipsVisible(True)
        for group, kinds in GROUPS:
            menu.addSection(group)
            for kind in kinds:
                action = QAction(EFFECT_TITLES[kind], menu)
                action.setToolTip(SAYS[kind])
                action.triggered.connect(lambda _=False, k=kind: self.add_wanted.emit(k))
                menu.addAction(action)
        menu.addSeparator()
        action = QAction("A pad from the marked range …", menu)
        action.setToolTip("Smear a slice of the song into a cloud that goes round without a seam.")
        action.triggered.connect(lambda: self.wanted.emit("pad"))
        menu.addAction(action)
        return menu

    def _middle(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        head = QHBoxLayout()
        head.setSpacing(8)
        self.switch = Switch("Colour on", "colour", "Switch this colour off and on.")
        self.switch.clicked.connect(lambda on: self.changed.emit("on", on))
        self.title = QLabel()
        self.title.setFont(font(14, BOLD))
        self.keep = QCheckBox("Keep level")
        self.keep.setToolTip(
            "The version stays as loud as it is without this colour, so that louder never passes for better."
        )
        self.keep.clicked.connect(lambda on: self.changed.emit("keep_level", on))
        self.file = QPushButton("Choose a file …")
        self.file.setStyleSheet("QPushButton { padding: 3px 12px; }")
        run_from(self.file, "choose_effect_file", self.wanted)
        self.overtime = QPushButton("Over the song")
        self.overtime.setStyleSheet("QPushButton { padding: 3px 12px; }")
        self.overtime.setToolTip(
            "Let a control of this colour change over the song: open over a range, dip, or points of your own on the ribbon."
        )
        self.lanes_menu = QMenu(self.overtime)
        self.overtime.setMenu(self.lanes_menu)
        for widget in (self.switch, self.title, self.keep):
            head.addWidget(widget)
        head.addStretch()
        for button in (self.file, self.overtime):
            head.addWidget(button)
        column.addLayout(head)
        self.forms = QStackedWidget()
        self._empty = quiet_label(
            "Add a colour: a hall, a worn record, a dive under water, a way round the head … Each is fed by the one above it. "
            "Several mild ones sound better than a single strong one.",
            13,
        )
        self._empty.setWordWrap(True)
        self._empty.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.forms.addWidget(self._empty)
        self._forms: dict[str, _Form] = {}
        column.addWidget(self.forms, 1)
        self.problem = QLabel()
        self.problem.setProperty("warning", True)
        self.problem.setWordWrap(True)
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
        self.problem.setText(problems.get(self.chosen, "") if effect else "")
        self.problem.setVisible(bool(self.problem.text()))
        for part in (self.switch, self.title, self.keep, self.overtime):
            part.setVisible(effect is not None)
        self.file.setVisible(effect is not None and needs_file(effect))
        self.delete.setEnabled(effect is not None)
        self.duplicate.setEnabled(effect is not None)
        self.pictures.setVisible(effect is not None)
        if effect is None:
            self.forms.setCurrentWidget(self._empty)
            return
        self._show_effect(effect, document)

    def _show_effect(self, effect: AnyEffect, document: Document) -> None:
        kind = effect_kind(effect)
        self.title.setText(EFFECT_TITLES[kind])
        self.title.setToolTip(SAYS[kind])
        self.switch.setChecked(effect.on)
        self.keep.setChecked(effect.keep_level)
        if needs_file(effect):
            name = getattr(effect, "path", "").rsplit("/", 1)[-1]
            self.file.setText(name[:22] or "Choose a file …")
        form = self.form(kind)
        self.forms.setCurrentWidget(form)
        form.show_effect(effect, document)
        if document.loaded is not None:
            self._show_picture(kind, effect, document)

    def form(self, kind: str) -> _Form:
        """The form of a kind, made when it is first needed."""
        if kind not in self._forms:
            made = _Form(kind)
            made.changed.connect(self.changed)
            made.settled.connect(self.settled)
            self._forms[kind] = made
            self.forms.addWidget(made)
        return self._forms[kind]

    def _show_picture(self, kind: str, effect: AnyEffect, document: Document) -> None:
        from latespin.desktop.plots.effect_plot import Shown
        from latespin.desktop.plots.registry import picture_of

        assert document.loaded is not None
        if kind not in self._pictures:
            self._pictures[kind] = picture_of(kind)
            self.pictures.addWidget(self._pictures[kind])
        picture = self._pictures[kind]
        self.pictures.setCurrentWidget(picture)
        heard = effect in document.stages.colour.heard
        picture.show_effect(Shown(effect, document.loaded.readers.context(document.stages), heard))  # type: ignore[attr-defined]

    def show_place(self, frame: int, notes: tuple[tuple[int, float], ...]) -> None:
        """Move the picture on to a frame of After."""
        picture = self.pictures.currentWidget()
        if self.isVisible() and picture is not None:
            picture.show_place(frame, notes)  # type: ignore[attr-defined]

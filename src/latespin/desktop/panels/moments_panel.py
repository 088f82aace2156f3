"""The Moments panel: the list of a version's moments or the song's markers, what the chosen one does, and its curve."""

from PySide6.QtCore import QSize, Qt, Signal
from PySide6.QtGui import QAction, QKeyEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QListWidgetItem,
    QMenu,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from latespin.desktop.panels.marker_list import MarkerPage
from latespin.desktop.panels.moment_pages import MomentPage, make_page, page_key
from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.plots.moment_curve import CurveEditor
from latespin.desktop.session.document import Document
from latespin.desktop.theme.theme import BOLD, font
from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.controls import (
    SegmentedButton,
    Switch,
    WarningLabel,
    command_button,
    quiet_label,
    run_from,
)
from latespin.desktop.widgets.form_stack import FormStack
from latespin.desktop.widgets.gallery import Gallery
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.model.moments.declaration import MOMENTS, moment_info, moment_title
from latespin.model.moments.moments import AnyMoment, DropIn, EffectMoment
from latespin.model.timing.positions import Length, say_place, say_span
from latespin.model.values.kinds import kind_of
from latespin.model.values.parameters import LENGTH_BEATS
from latespin.model.version import Stages


class MomentsPanel(StagePanel):
    """Asks through signals; :class:`~latespin.desktop.controllers.moments.MomentWork` does."""

    wanted = Signal(str)
    add_wanted = Signal(str)
    moment_chosen = Signal(str, object)  # the one shown, and all that are chosen
    changed = Signal(str, object)  # a field of the chosen moment, and its value
    place_typed = Signal(str, str)  # start, end or length, and what was typed
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__("moments")
        self.chosen = ""
        self.others: frozenset[str] = frozenset()  # chosen with it
        self._filling = False
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addLayout(self._side())
        row.addLayout(self._middle(), 1)
        self.curve = CurveEditor("moments")
        self.curve.bent.connect(lambda tension: self.changed.emit("tension", tension))
        self.curve.staged.connect(lambda share: self.changed.emit("second_percent", share))
        self.curve.hushed.connect(lambda share: self.changed.emit("gap_percent", share))
        self.curve.settled.connect(self.settled)
        self.curve.setFixedWidth(312)
        row.addWidget(self.curve)
        self.column.addLayout(row, 1)

    def _side(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        pages = {
            "moments": ("Moments", "What happens at places of this version."),
            "markers": ("Markers", "Labelled places and ranges of the song (X marks one while it plays)."),
        }
        self.pages = SegmentedButton("Page of the Moments panel", pages, "moments")
        self.pages.chosen.connect(self.open_page)
        self.pages.choose("moments")
        column.addWidget(self.pages, 0, Qt.AlignmentFlag.AlignLeft)
        self.lists = QStackedWidget()
        self.lists.setFixedWidth(212)
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Moments of this version"))
        self.list.setToolTip(tr("Ctrl or Shift and a click choose several, which then change together."))
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setSelectionMode(QListWidget.SelectionMode.ExtendedSelection)
        self.list.itemSelectionChanged.connect(self._take_choice)
        self.markers = MarkerPage()
        self.lists.addWidget(self.list)
        self.lists.addWidget(self.markers)
        column.addWidget(self.lists, 1)
        buttons = QHBoxLayout()
        buttons.setSpacing(6)
        self.add = QPushButton(tr("Add"))
        self.add.setToolTip(tr("Place a moment on the marked range, or at the playhead."))
        self.add.setMenu(self.kinds_menu(self))
        self.add.setStyleSheet("QPushButton { padding: 4px 9px; }")
        buttons.addWidget(self.add)
        self.buttons: dict[str, QPushButton] = {}
        for name, text, tip in (
            ("audition_moment", "Play it", "Loops from a bar before the chosen moment to a bar after it (A)."),
            ("delete_moment", "Delete", "Delete the chosen moments (Delete on the waveforms)."),
        ):
            self.buttons[name] = command_button(name, text, tip, self.wanted, dense=True)
            buttons.addWidget(self.buttons[name])
        buttons.addStretch()
        column.addLayout(buttons)
        return column

    def kinds_menu(self, parent: QWidget) -> QMenu:
        """A menu with every kind of moment."""
        menu = QMenu(tr("&Add"), parent)
        menu.setToolTipsVisible(True)
        for kind in MOMENTS:
            action = QAction(translated(moment_info(kind)).title, menu)
            action.setToolTip(translated(moment_info(kind)).summary)
            action.triggered.connect(lambda _=False, k=kind: self.add_wanted.emit(k))
            menu.addAction(action)
        return menu

    def _middle(self) -> QVBoxLayout:
        column = QVBoxLayout()
        column.setSpacing(6)
        column.addLayout(self._head())
        column.addLayout(self._position_row())
        self._forms = FormStack(self._make_page)
        self.forms = self._forms.widget
        self.forms.addWidget(self._nothing())
        column.addWidget(self.forms, 1)
        self.file = QPushButton(tr("Choose the file …"))
        self.file.setToolTip(tr("The file the moment plays or its effect is made from."))
        run_from(self.file, "choose_moment_file", self.wanted)
        column.addWidget(self.file)
        self.problem = WarningLabel()
        column.addWidget(self.problem)
        return column

    def _head(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(8)
        self.switch = Switch(tr("Moment on"), "moments", tr("Switch this moment off and on."))
        self.switch.clicked.connect(lambda on: self.changed.emit("on", on))
        self.title = QLabel()
        self.title.setFont(font(14, BOLD))
        self.label = QLineEdit()
        self.label.setPlaceholderText(tr("Label"))
        self.label.setAccessibleName(tr("Label of the moment"))
        self.label.setFixedWidth(170)
        self.label.setStyleSheet("padding: 2px 8px;")
        self.label.editingFinished.connect(self._take_label)
        head.addWidget(self.switch)
        head.addWidget(self.title)
        self.together = quiet_label("", 12)
        self.together.setToolTip(
            tr("A change applies to every chosen moment that has the control; To applies to this one alone.")
        )
        head.addWidget(self.label)
        head.addWidget(self.together)
        head.addStretch()
        return head

    def _position_row(self) -> QHBoxLayout:
        head = QHBoxLayout()
        head.setSpacing(4)
        self.entries: dict[str, InlineEdit] = {}
        self._names: list[QLabel] = []
        for name, title, tip, wide in (
            ("start", "From", "Where it begins: a bar (17), a bar and beat (17.3) or a time (1:02.345).", 96),
            ("end", "To", "Where it ends: a bar (19), a bar and beat (18.3) or a time (1:04.5).", 96),
            ("length", "Length", "How long it takes: 2 bars, 3 beats, 1/8, 800 ms.", 84),
        ):
            entry = InlineEdit(tr(title), tr(tip), token="moments")
            entry.setFixedWidth(wide)
            entry.typed.connect(lambda text, n=name: self.place_typed.emit(n, text))
            self.entries[name] = entry
            head.addSpacing(4 if self._names else 0)
            name_label = quiet_label(tr(title), 12)
            self._names.append(name_label)
            head.addWidget(name_label)
            head.addWidget(entry)
        head.addStretch()
        return head

    def _nothing(self) -> QWidget:
        """The page without a chosen moment: every kind, to add with a click."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(6)
        column.addWidget(quiet_label(tr("Add a moment on the marked range, or at the playhead:"), 12))
        entries = [
            (kind, translated(moment_info(kind)).title, translated(moment_info(kind)).summary) for kind in MOMENTS
        ]
        self.gallery = Gallery(entries, "moments", 4)
        self.gallery.chosen.connect(self.add_wanted)
        area = QScrollArea()
        area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        area.setWidgetResizable(True)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(self.gallery)
        column.addWidget(area, 1)
        return page

    # -- hands ---------------------------------------------------------------------------------------------------

    def open_page(self, name: str) -> None:
        """Show the moments or the markers."""
        self.pages.choose(name)
        self.lists.setCurrentWidget(self.list if name == "moments" else self.markers)

    def _take_choice(self) -> None:
        chosen = [item.data(Qt.ItemDataRole.UserRole) for item in self.list.selectedItems()]
        if chosen and not self._filling:
            current = self.list.currentItem()
            lead = (
                current.data(Qt.ItemDataRole.UserRole) if current is not None and current.isSelected() else chosen[-1]
            )
            self.moment_chosen.emit(lead, frozenset(chosen))

    def _take_label(self) -> None:
        if self.label.isModified():
            self.label.setModified(False)
            self.changed.emit("label", self.label.text().strip())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Delete and self.list.hasFocus():
            self.wanted.emit("delete_moment")
        else:
            super().keyPressEvent(event)

    # -- showing -------------------------------------------------------------------------------------------------

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        grid = document.grid
        problems = {problem.id: problem.says for problem in document.problems()}
        placed = sorted(stages.moments.placed, key=lambda m: m.start.at(grid))
        self.others = frozenset(m.id for m in placed if m.id in self.others) - {self.chosen}
        self._fill(placed, problems, document)
        moment = stages.moments.find(self.chosen)
        self.problem.say(problems.get(self.chosen, "") if moment else "")
        for part in (self.switch, self.title, self.label, self.together, *self._names, *self.entries.values()):
            part.setVisible(moment is not None)
        for button in self.buttons.values():
            button.setEnabled(moment is not None)
        self.markers.show_markers(document.session.markers, grid)
        self.file.setVisible(moment is not None and file_of(moment) is not None)
        if moment is None:
            self.forms.setCurrentIndex(0)
            self.curve.show_moment(None, Length(beats=1.0), 1.0, 1.0)
            self.curve.hide()
            return
        self.curve.show()
        self._show_moment(moment, document)

    def _fill(self, placed: list[AnyMoment], problems: dict[str, str], document: Document) -> None:
        """The list, kept as it is where nothing in it changed."""
        rows = [(m.id, f"{'⚠ ' if m.id in problems else ''}{_row(m, document)}", m.on) for m in placed]
        have = [
            (item.data(Qt.ItemDataRole.UserRole), item.text(), item.data(Qt.ItemDataRole.UserRole + 1))
            for item in (self.list.item(i) for i in range(self.list.count()))
        ]
        self._filling = True
        if rows != have:
            self.list.clear()
            for ident, text, on in rows:
                item = QListWidgetItem(text)
                item.setData(Qt.ItemDataRole.UserRole, ident)
                item.setData(Qt.ItemDataRole.UserRole + 1, on)
                item.setToolTip(problems.get(ident, ""))
                item.setSizeHint(QSize(200, 24))
                if not on:
                    item.setForeground(self.palette().placeholderText())
                self.list.addItem(item)
        at = next((i for i, row in enumerate(rows) if row[0] == self.chosen), -1)
        self.list.setCurrentRow(at)
        for i, row in enumerate(rows):
            if row[0] in self.others:
                self.list.item(i).setSelected(True)
        self._filling = False

    def _show_moment(self, moment: AnyMoment, document: Document) -> None:
        kind, grid = kind_of(moment), document.grid
        self.title.setText(tr(moment_title(moment)))
        self.title.setToolTip(translated(moment_info(kind)).summary)
        self.together.setText(tr("and {0} more").format(len(self.others)) if self.others else "")
        self.switch.setChecked(moment.on)
        if not self.label.hasFocus():
            self.label.setText(moment.label)
        length = length_of(moment, document)
        self.entries["start"].show_text(say_place(moment.start, grid))
        self.entries["end"].show_text(say_place(moment.end, grid))
        self.entries["length"].show_text(say_span(length, grid))
        self._forms.show(page_key(moment)).show_moment(moment, grid)
        path = file_of(moment)
        if path is not None:
            self.file.setText(path.rsplit("/", 1)[-1] or tr("Choose the file …"))
        lasts, speed = heard_length(moment, document)
        self.curve.show_moment(moment, length, lasts, speed)

    def page(self, key: str) -> MomentPage:
        """The page of a kind, or of an effect over a range."""
        return self._forms.page(key)

    def form(self, kind: str) -> FieldForm:
        """The form of a kind."""
        return self.page(kind).form

    def _make_page(self, key: str) -> MomentPage:
        page = make_page(key)
        page.changed.connect(self.changed)
        page.settled.connect(self.settled)
        page.refused.connect(self.refused)
        return page


def file_of(moment: AnyMoment) -> str | None:
    """The file a moment is made from, empty while none is chosen; None where it needs none."""
    if isinstance(moment, EffectMoment):
        return moment.effect.file
    return moment.path if isinstance(moment, DropIn) else None


def _row(moment: AnyMoment, document: Document) -> str:
    place = say_place(moment.start, document.grid)
    name = f"{place[:1].upper()}{place[1:]} · {tr(moment_title(moment))}"
    return f"{name} · {moment.label}" if moment.label else name


def named(moments: list[AnyMoment]) -> str:
    """What moments are called in a step of undo."""
    return tr(moment_title(moments[0])).lower() if len(moments) == 1 else tr("{0} moments").format(len(moments))


def length_of(moment: AnyMoment, document: Document) -> Length:
    """The length of a moment, in beats if both ends are, otherwise in seconds of the track."""
    if moment.start.beat is not None and moment.end.beat is not None and moment.end.beat - moment.start.beat >= 0.01:
        return Length(beats=LENGTH_BEATS.clamp(moment.end.beat - moment.start.beat))
    grid = document.grid
    start, end = moment.start.at(grid), moment.end.at(grid)
    return Length(seconds=min(3600.0, max(0.003, end - start)))


def heard_length(moment: AnyMoment, document: Document) -> tuple[float, float]:
    """Seconds that a moment lasts in After, and the version's own speed there."""
    made, layout = document.arrangement(), document.layout
    if made is None or layout is None:
        return 1.0, 1.0
    spot = next((spot for spot in made.spots if spot.id == moment.id), None)
    if spot is None:
        return 1.0, 1.0
    return (spot.stop - spot.start) / layout.rate, abs(made.music.speed_at(float(spot.music)))

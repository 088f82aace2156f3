"""The Ending panel: how the version finishes, where, and what follows its last beat."""

from msgspec.structs import replace
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from latespin.desktop.panels.panel import StagePanel
from latespin.desktop.plots.ending_tail import End, TailPlot
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.controls import SegmentedButton, WarningLabel, quiet_label
from latespin.desktop.widgets.gallery import Gallery
from latespin.desktop.widgets.inline_edit import InlineEdit
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.errors import LateSpinError
from latespin.model.arranging.arrangement import ending_place
from latespin.model.arranging.placement import ENDING
from latespin.model.moments.endings import ENDINGS, AnyEnding, EchoEnd, Ending, NoEnding, RingOut, ending_info
from latespin.model.timing.positions import Position, end_suggestions, parse_place, say_place, snapped_place
from latespin.model.values.kinds import kind_of
from latespin.model.values.units import NO_VALUE, number
from latespin.model.values.words import label_of
from latespin.model.version import Stages

SUGGESTIONS = 4


class EndingPanel(StagePanel):
    """Its own signals are answered by the window."""

    audition_wanted = Signal()
    refused = Signal(str)

    def __init__(self) -> None:
        super().__init__("ending")
        self._document: Document | None = None
        head = QHBoxLayout()
        head.setSpacing(8)
        self.choices = SegmentedButton(
            "Ending",
            {kind: (translated(ending_info(kind)).title, translated(ending_info(kind)).summary) for kind in ENDINGS},
            "ending",
        )
        self.choices.chosen.connect(self.choose_kind)
        head.addWidget(self.choices)
        head.addStretch()
        self.column.addLayout(head)
        row = QHBoxLayout()
        row.setSpacing(12)
        left = QVBoxLayout()
        left.setSpacing(8)
        left.addLayout(self._where())
        self.forms = QStackedWidget()
        self._forms: dict[str, QWidget] = {}
        left.addWidget(self.forms, 1)
        self.problem = WarningLabel()
        left.addWidget(self.problem)
        row.addLayout(left, 1)
        self.picture = TailPlot()
        self.picture.setFixedWidth(410)
        row.addWidget(self.picture)
        self.column.addLayout(row, 1)

    def _where(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setSpacing(6)
        self._at_label = quiet_label(tr("Ends at"), 12)
        self.at = InlineEdit(
            tr("Where it ends"),
            tr(
                "A bar (61), a bar and beat (61.3), a time (3:05.2), or auto for the best strong bar line near the end."
            ),
            token="ending",
        )
        self.at.setFixedWidth(104)
        self.at.typed.connect(self._take_place)
        row.addWidget(self._at_label)
        row.addWidget(self.at)
        self._suggest_label = quiet_label(tr("Strong bar lines"), 12)
        row.addSpacing(8)
        row.addWidget(self._suggest_label)
        self.suggestions: list[QPushButton] = []
        for _ in range(SUGGESTIONS):
            button = QPushButton()
            button.setStyleSheet("QPushButton { padding: 3px 9px; }")
            button.setToolTip(tr("End here: one of the strongest bar lines in the last eighth of the song."))
            button.clicked.connect(lambda _=False, b=button: self._end_at(b.property("place")))
            self.suggestions.append(button)
            row.addWidget(button)
        row.addStretch()
        self.audition = QPushButton(tr("Play it"))
        self.audition.setToolTip(tr("Plays from two bars before the end (A)."))
        self.audition.setStyleSheet("QPushButton { padding: 4px 12px; }")
        self.audition.clicked.connect(self.audition_wanted)
        row.addWidget(self.audition)
        return row

    # -- hands ---------------------------------------------------------------------------------------------------

    def choose_kind(self, kind: str) -> None:
        way = self._stages.ending.way
        if kind_of(way) == kind:
            return
        new = ENDINGS[kind]()
        place = getattr(way, "at", None)
        if place is not None and not isinstance(new, NoEnding):
            new = replace(new, at=place)
        self._put(tr("Ending: {0}").format(translated(ending_info(kind)).title.lower()), new)

    def _put(self, label: str, way: AnyEnding, merge: str = "") -> None:
        self.edited.emit(label, replace(self._stages, ending=Ending(on=True, way=way)), merge)

    def _change(self, name: str, value: object) -> None:
        try:
            way = replace(self._stages.ending.way, **{name: value})
        except (LateSpinError, ValueError) as error:
            self.refused.emit(str(error))
            return
        self._put(tr("Ending: {0}").format(tr(label_of(type(way), name)).lower()), way, f"ending {name}")

    def _take_place(self, text: str) -> None:
        if self._document is None or isinstance(self._stages.ending.way, NoEnding):
            return
        try:
            place = None if text.strip().lower() == "auto" else parse_place(text, self._document.grid)
        except (LateSpinError, ValueError) as error:
            self.refused.emit(str(error))
            return
        self._end_at(place)

    def _end_at(self, place: Position | None, merge: str = "") -> None:
        if not isinstance(self._stages.ending.way, NoEnding):
            self._put(tr("Move ending"), replace(self._stages.ending.way, at=place), merge)

    def move_to(self, seconds: float, snapped: bool) -> None:
        """End at a second of Before, as a hand on the waveform left it."""
        if self._document is not None:
            place = snapped_place(seconds, self._document.grid) if snapped else Position(seconds=round(seconds, 4))
            self._end_at(place, "ending-place")

    # -- showing -------------------------------------------------------------------------------------------------

    def show_stages(self, stages: Stages, document: Document) -> None:
        super().show_stages(stages, document)
        self._document = document
        way, layout = stages.ending.way, document.layout
        kind = kind_of(way)
        self.choices.choose(kind)
        ends = not isinstance(way, NoEnding)
        for widget in (self._at_label, self.at, self._suggest_label, self.audition, *self.suggestions):
            widget.setVisible(ends)
        form = self._form(kind)
        self.forms.setCurrentWidget(form)
        problems = [problem.says for problem in document.problems() if problem.id == ENDING]
        self.problem.say(problems[0] if problems else "")
        if layout is None or not ends:
            self.picture.show_end(None, None, measured=False)
            self.picture.setVisible(ends)
            return
        self.picture.setVisible(True)
        if isinstance(form, FieldForm) and not isinstance(way, NoEnding):
            form.show_values(way, document.grid)
            for name, active in way.active_fields().items():
                form.enable(name, active)
        self._at_label.setText(translated(ending_info(kind)).begins)
        place = ending_place(stages, layout)
        self.at.show_text(say_place(place, document.grid) if place else NO_VALUE)
        self.at.setToolTip(
            tr(
                "Automatic: the best strong bar line in the last eighth of the song. Type a bar or a time, or drag it on the waveform."
            )
            if getattr(way, "at", None) is None
            else tr("A bar (61), a bar and beat (61.3), a time (3:05.2), or auto.")
        )
        self._suggest(document)
        self._show_picture(stages, document)

    def _suggest(self, document: Document) -> None:
        assert document.layout is not None
        found = end_suggestions(document.layout, SUGGESTIONS)
        self._suggest_label.setVisible(bool(found))
        for i, button in enumerate(self.suggestions):
            button.setVisible(i < len(found))
            if i < len(found):
                button.setText(say_place(found[i], document.grid).removeprefix(tr("bar {0}").format("")))
                button.setProperty("place", found[i])

    def _show_picture(self, stages: Stages, document: Document) -> None:

        made, layout = document.arrangement(), document.layout
        assert made is not None
        assert layout is not None
        close, rate = made.close, layout.rate
        if isinstance(close.way, NoEnding):
            self.picture.show_end(None, None, measured=False)
            return
        until = made.map.after_frames / rate + document.tail_seconds()
        decay = close.way.decay_seconds if isinstance(close.way, RingOut) else None
        after = until - close.at / rate
        says = tr("silent {0} s later").format(number(after, 1)) if after > 0.05 else tr("no tail")
        repeats: tuple[float, ...] = ()
        if isinstance(close.way, EchoEnd):
            from latespin.render.timeline.echo_ending import repeat_times

            repeats = tuple((close.at + time) / rate for time in repeat_times(close))
            says = tr("{0} repeats, {1}").format(len(repeats), says)
        word = {"fade": tr("fade"), "tape-stop": tr("stop")}.get(kind_of(close.way), tr("end"))
        peaks = document.peaks()
        self.picture.show_end(
            End(close.at / rate, until, decay, says, word, repeats), peaks, measured=document.measured() is not None
        )

    def _form(self, kind: str) -> QWidget:
        if kind not in self._forms and ENDINGS[kind] is NoEnding:
            entries = [
                (k, translated(ending_info(k)).title, translated(ending_info(k)).summary) for k in ENDINGS if k != kind
            ]
            gallery = Gallery(entries, "ending", 3)
            gallery.chosen.connect(self.choose_kind)
            self._forms[kind] = gallery
            self.forms.addWidget(gallery)
        elif kind not in self._forms:
            form = FieldForm(ENDINGS[kind], "ending", ending_info(kind).fields, 3)
            form.changed.connect(self._change)
            form.settled.connect(self.settled)
            form.refused.connect(self.refused)
            self._forms[kind] = form
            self.forms.addWidget(form)
        return self._forms[kind]

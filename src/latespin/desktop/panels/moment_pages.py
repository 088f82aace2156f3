"""The forms of moments: one for each kind, and one for each kind of effect over a range."""

from msgspec.structs import replace
from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QCheckBox, QComboBox, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.controls import quiet_label
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.errors import LateSpinError
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.effects.effects import AnyEffect, Echo
from latespin.model.moments.declaration import MOMENTS, moment_info
from latespin.model.moments.moments import AnyMoment, EffectMoment
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.kinds import kind_of


def page_key(moment: AnyMoment) -> str:
    """The key of a moment's page."""
    kind = kind_of(moment)
    return f"{kind} {kind_of(moment.effect)}" if isinstance(moment, EffectMoment) else kind


def make_page(key: str) -> "MomentPage":
    """The page of a key."""
    kind, _, effect = key.partition(" ")
    return EffectMomentPage(kind, effect) if effect else MomentPage(kind)


class MomentPage(QScrollArea):
    """The form of a kind of moment; scrolls if it is too tall. The signals are those of the form."""

    changed = Signal(str, object)
    settled = Signal()
    refused = Signal(str)

    def __init__(self, kind: str) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.form = FieldForm(MOMENTS[kind], "moments", moment_info(kind).fields, 3)
        self.form.changed.connect(self.changed)
        self._connect(self.form)
        self._lay_out()

    def _connect(self, form: FieldForm) -> None:
        form.settled.connect(self.settled)
        form.refused.connect(self.refused)

    def _lay_out(self) -> None:
        self.setWidget(self.form)

    def show_moment(self, moment: AnyMoment, grid: Grid | None) -> None:
        """Show a moment's values; what does nothing now cannot be set."""
        self.form.show_values(moment, grid)
        for name, active in moment.active_fields().items():
            self.form.enable(name, active)


class EffectMomentPage(MomentPage):
    """Which effect it is, its settings, and its fades."""

    def __init__(self, moment: str, effect: str) -> None:
        self._kind = effect
        super().__init__(moment)

    def _lay_out(self) -> None:
        info = effect_info(self._kind)
        self._effect: AnyEffect = Echo()
        self.settings = FieldForm(
            EFFECTS[self._kind], "moments", ("amount_percent", *info.main, *info.more), info.columns
        )
        self.settings.changed.connect(self._change)
        self._connect(self.settings)
        self.kinds = QComboBox()
        self.kinds.setAccessibleName(tr("Effect"))
        self.kinds.setToolTip(tr("The effect of the range, with settings of its own."))
        for kind in EFFECTS:
            self.kinds.addItem(translated(effect_info(kind)).title, kind)
        self.kinds.setCurrentIndex(self.kinds.findData(self._kind))
        self.kinds.activated.connect(lambda _: self._choose_kind(self.kinds.currentData()))
        self.keep = QCheckBox(tr("Keep level"))
        self.keep.setToolTip(
            tr("Keeps the range as loud as without this effect, so that louder never passes for better.")
        )
        self.keep.clicked.connect(lambda on: self._change("keep_level", on))
        head = QHBoxLayout()
        head.setSpacing(12)
        head.addWidget(self.kinds)
        head.addWidget(self.keep)
        head.addStretch()
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 4, 0)
        column.setSpacing(8)
        column.addLayout(head)
        column.addWidget(self.settings)
        column.addWidget(quiet_label(tr("Fades of the effect within the range"), 11))
        column.addWidget(self.form)
        column.addStretch()
        self.setWidget(holder)

    def show_moment(self, moment: AnyMoment, grid: Grid | None) -> None:
        super().show_moment(moment, grid)
        assert isinstance(moment, EffectMoment)
        self._effect = moment.effect
        self.kinds.setCurrentIndex(self.kinds.findData(self._kind))
        self.settings.show_values(moment.effect, grid)
        self.keep.setChecked(moment.effect.keep_level)
        self.keep.setVisible(not moment.effect.sets_level)
        acts = moment.effect.active_fields()
        for name, control in self.settings.controls.items():
            control.setEnabled(acts.get(name, True))

    def _choose_kind(self, kind: str) -> None:
        if kind != self._kind:
            self.changed.emit("effect", EFFECTS[kind]())
            self.settled.emit()

    def _change(self, name: str, value: object) -> None:
        try:
            changed = replace(self._effect, **{name: value})
        except (LateSpinError, ValueError) as error:
            self.refused.emit(str(error))
            return
        self.changed.emit("effect", changed)

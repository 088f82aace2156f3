"""The controls of one effect: the main ones, and the rest folded away."""

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QPushButton, QScrollArea, QVBoxLayout, QWidget

from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr, translated
from latespin.desktop.widgets.struct_form import FieldForm
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.effects.effects import AnyEffect


class EffectForm(QScrollArea):
    """An effect's main controls, and the rest of them folded away."""

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
        info = translated(effect_info(kind))
        self.setAccessibleName(tr("Settings of {0}").format(info.title))
        self.forms = [FieldForm(EFFECTS[kind], "colour", ("amount_percent", *info.main), info.columns)]
        column.addWidget(self.forms[0])
        if info.more:
            self.forms.append(FieldForm(EFFECTS[kind], "colour", info.more, info.columns))
            self.more = QPushButton(tr("More"))
            self.more.setCheckable(True)
            self.more.setToolTip(tr("Show or hide the finer controls of this effect."))
            self.more.setStyleSheet("QPushButton { padding: 3px 9px; }")
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
        self.more.setText(tr("Less") if on else tr("More"))
        self.forms[1].setVisible(on)
        if on:
            self.ensureWidgetVisible(self.forms[1])

    def show_field(self, name: str) -> None:
        """Unfold what is folded away where need be, and put the focus on a control."""
        for number, form in enumerate(self.forms):
            if name in form.controls:
                if number:
                    self.more.setChecked(True)
                form.controls[name].setFocus()
                self.ensureWidgetVisible(form.controls[name])

    def show_effect(self, effect: AnyEffect, document: Document) -> None:
        """Show an effect's values; what does nothing now cannot be set."""
        acts, moving = effect.active_fields(), {lane.field for lane in effect.lanes}
        for form in self.forms:
            form.show_values(effect, document.grid)
            for name, control in form.controls.items():
                control.setEnabled(acts.get(name, True) and name not in moving)

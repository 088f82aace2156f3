"""Typed results: the version changes to reach a typed tempo, length, key or loudness."""

from collections.abc import Callable

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.controllers.goal_seek import apply, kept_mode, more_allowance, side_effects
from latespin.desktop.session.document import Document
from latespin.desktop.translation import tr
from latespin.model.values.units import number

SPEED_ASKED = ("tempo", "length", "total", "percent")


class ResultController(QObject):
    """``marked`` gives the marked range in seconds of Before, or None.

    offered : a sentence, the words of a button, and what it does; without a button the last two are empty and None.
    """

    refused = Signal(str)
    offered = Signal(str, str, object)

    def __init__(self, document: Document, marked: Callable[[], tuple[float, float] | None], parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._marked = document, marked
        self._loudness_typed = False
        document.measured_changed.connect(self._explain_missed_loudness)

    def ask(self, asked: str, text: str) -> None:
        """Change the version so that it gives a typed result; name the side effects and offer to avoid them."""
        document, before = self._document, self._document.stages
        try:
            apply(document, asked, text, self._marked())
        except ValueError as error:
            self.refused.emit(str(error))
            return
        cost = side_effects(before, document.stages) if asked in SPEED_ASKED else None
        if asked == "key":
            cost = kept_mode(document, text)
        if cost is not None:
            sentence, spared, words = cost
            self.offered.emit(sentence, words, lambda: document.edit_stages(words, spared))
        self._loudness_typed = asked == "loudness"

    def _explain_missed_loudness(self) -> None:
        """Say why a typed loudness is not reached, and offer more limiting if that helps."""
        document = self._document
        measured, stages = document.measured(), document.stages
        target = stages.level.target_lufs
        if not self._loudness_typed or measured is None or target is None:
            return
        self._loudness_typed = False
        if not measured.plan.note:
            return
        level = more_allowance(stages.level, measured.facts.loudness.integrated_lufs, target)
        if level is None or measured.plan.loudest:
            self.offered.emit(measured.plan.note, "", None)
            return
        changed = replace(stages, level=level)
        self.offered.emit(
            measured.plan.note,
            tr("Allow {0} dB").format(number(level.allowance_db, 1)),
            lambda: document.edit_stages(tr("Level: maximum limiting"), changed),
        )

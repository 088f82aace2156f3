"""The basis of all plots of effects."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TypeVar

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QSizePolicy, QWidget

from latespin.desktop.theme.theme import colour, font
from latespin.desktop.translation import tr
from latespin.desktop.widgets.plot_panel import paint_panel
from latespin.model.effects.declaration import Effect
from latespin.model.effects.effects import AnyEffect
from latespin.render.effects.context import EffectContext, amount_of
from latespin.render.effects.effect_node import GainHistory


@dataclass(frozen=True)
class Shown:
    """An effect and what it is made in. heard : whether it changes anything now."""

    effect: AnyEffect
    context: EffectContext
    heard: bool


class EffectPlot(QWidget):
    """Draws an effect at a frame of After. ``SAYS`` is its tooltip."""

    NAME, SAYS = "", ""
    MOVES = True  # whether it changes as the music goes on

    def __init__(self) -> None:
        super().__init__()
        self.shown: Shown | None = None
        self.frame = 0
        self.notes: GainHistory = ()
        self.setMinimumSize(240, 120)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        self.setFixedWidth(288)
        self.setAccessibleName(tr(self.NAME))
        self.setToolTip(tr(self.SAYS))

    def sizeHint(self) -> QSize:
        return QSize(288, 180)

    def show_effect(self, shown: Shown | None) -> None:
        """Show an effect."""
        if shown != self.shown:
            self.shown = shown
            self.update()

    def show_place(self, frame: int, notes: GainHistory = ()) -> None:
        """Show it at a frame of After; ``notes`` of what it did lately."""
        if self.MOVES and (frame, notes) != (self.frame, self.notes):
            self.frame, self.notes = frame, notes
            self.update()

    @property
    def amount(self) -> float:
        """The amount at the position, 0 to 1."""
        assert self.shown is not None
        return min(1.0, max(0.0, amount_of(self.shown.effect, self.shown.context.clock).point(self.frame)))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        body = paint_panel(painter, self)
        if self.shown is None:
            return
        if not self.shown.heard:
            painter.setOpacity(0.4)
        self.paint(painter, body, self.shown)

    def paint(self, painter: QPainter, body: QRectF, shown: Shown) -> None:
        """Draw what there is to see."""
        raise NotImplementedError

    def caption(self, painter: QPainter, body: QRectF, text: str) -> None:
        """A line of words at the top left."""
        painter.setFont(font(11))
        painter.setPen(colour("ink_soft"))
        painter.drawText(body.adjusted(10, 7, -10, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, text)


Plot = TypeVar("Plot", bound="type[EffectPlot]")
PLOTS: dict[type[Effect], type[EffectPlot]] = {}


def plot_for(*kinds: type[Effect]) -> Callable[[Plot], Plot]:
    """Declare a class as the plot of effects. Effects without one show the song's spectrum."""

    def declare(plot: Plot) -> Plot:
        PLOTS.update(dict.fromkeys(kinds, plot))
        return plot

    return declare

"""A thin band over the After waveform where stretching and shifting strain the song; nothing where it is natural."""

import numpy as np
from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QPen

from latespin.desktop.canvas.layers.layer import Layer
from latespin.desktop.theme.theme import colour
from latespin.dsp.arrays import Floats

WIDE = 4.0
FAINTEST = 0.25


class StrainBand(Layer):
    """Shows; nothing in it can be taken hold of."""

    edges: Floats = np.zeros(1)
    amounts: Floats = np.zeros(0)

    def show(self, edges: Floats, amounts: Floats) -> None:
        """Show amounts, 0 to 1, between edges in seconds of After, of which there is one more."""
        if not (np.array_equal(edges, self.edges) and np.array_equal(amounts, self.amounts)):
            self.edges, self.amounts = edges, amounts
            self.changed.emit()

    def paint(self, painter: QPainter) -> None:
        """Draw a piece for each step that is strained."""
        y = self.geometry.bands.after.top() + WIDE / 2.0
        for i in np.flatnonzero(self.amounts > 0.0).tolist():
            a, b = (self.geometry.scale.x(float(self.edges[i + n])) for n in (0, 1))
            if b >= 0.0 and a <= self.geometry.scale.width:
                painter.setPen(QPen(colour("warning", FAINTEST + (1.0 - FAINTEST) * float(self.amounts[i])), WIDE))
                painter.drawLine(QPointF(a, y), QPointF(max(b, a + 1.0), y))

"""The colours of a card: those of the window's evening, or of a cover."""

from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage

from latespin.desktop.theme.theme import EVENING

SAMPLE, HUES = 48, 24  # pixels a cover is looked at with, and sectors of the colour circle
CONTRAST = 4.6  # with the ground, at least; AA asks for 4.5
LEAST_COLOUR = 0.02  # of a cover's pixels, each by how colourful it is; a cover below is taken for grey


@dataclass(frozen=True)
class Palette:
    """ground : behind everything.  ink, ink_soft : text on it.  before, after : the ribbons."""

    ground: QColor
    panel: QColor
    ink: QColor
    ink_soft: QColor
    before: QColor
    after: QColor


EVENING_PALETTE = Palette(
    *(QColor(getattr(EVENING, token)) for token in ("ground", "panel", "ink", "ink_soft", "before", "after"))
)


def palette_of(cover: QImage | None) -> Palette:
    """The colours for a cover: a dark ground of its strongest hue, ribbons of that hue and of its neighbour."""
    hue = None if cover is None or cover.isNull() else _strongest_hue(cover)
    if hue is None:
        return EVENING_PALETTE
    beside = (hue + 0.09) % 1.0

    def made(own: float, saturation: float, lightness: float) -> QColor:
        return QColor.fromHslF(own, saturation, lightness)

    ground, panel = made(hue, 0.35, 0.085), made(hue, 0.30, 0.13)

    def readable(own: float, saturation: float, lightness: float) -> QColor:
        """As light as it must be to be read on the ground, which blues are later than yellows."""
        light = next(
            (
                x
                for x in np.arange(lightness, 0.97, 0.01)
                if contrast(made(own, saturation, float(x)), panel) >= CONTRAST
            ),
            0.97,
        )
        return made(own, saturation, float(light))

    return Palette(
        ground, panel, made(beside, 0.35, 0.94), readable(hue, 0.20, 0.74), readable(hue, 0.38, 0.70),
        readable(beside, 0.85, 0.66),
    )  # fmt: skip


def contrast(first: QColor, second: QColor) -> float:
    """The ratio of two colours' luminances, 1 to 21. Source: W3C, Web Content Accessibility Guidelines 2.2, "contrast ratio"."""
    low, high = sorted((_luminance(first), _luminance(second)))
    return (high + 0.05) / (low + 0.05)


def _luminance(colour: QColor) -> float:
    parts = np.array([colour.redF(), colour.greenF(), colour.blueF()])
    linear = np.where(parts <= 0.04045, parts / 12.92, ((parts + 0.055) / 1.055) ** 2.4)
    return float(linear @ [0.2126, 0.7152, 0.0722])


def _strongest_hue(cover: QImage) -> float | None:
    """Its hue, 0 to 1, with each pixel counting by how colourful it is; None for a grey picture."""
    small = cover.scaled(
        SAMPLE, SAMPLE, Qt.AspectRatioMode.IgnoreAspectRatio, Qt.TransformationMode.SmoothTransformation
    ).convertToFormat(QImage.Format.Format_RGB32)
    pixels = np.frombuffer(small.constBits(), np.uint8).reshape(-1, 4)[:, 2::-1] / 255.0
    high, low = pixels.max(axis=1), pixels.min(axis=1)
    weight = high - low
    if weight.mean() < LEAST_COLOUR:
        return None
    spread = np.where(weight > 0.0, weight, 1.0)
    red, green, blue = pixels.T
    sector = np.where(
        high == red, ((green - blue) / spread) % 6.0, np.where(high == green, (blue - red) / spread + 2.0, (red - green) / spread + 4.0)
    )  # fmt: skip
    sums = np.bincount((sector / 6.0 * HUES).astype(int) % HUES, weights=weight**2, minlength=HUES)
    return (int(np.argmax(sums)) + 0.5) / HUES

"""Both themes keep WCAG 2.2 AA contrast for text, and the figures of the font are tabular."""

import pytest
from PySide6.QtGui import QColor, QFontMetricsF
from PySide6.QtWidgets import QApplication

from latespin.desktop.session.settings import Settings, load_settings, save_settings, settings_path
from latespin.desktop.theme.theme import STAGES, THEMES, font


def luminance(name: str) -> float:
    """Relative luminance (WCAG 2.2, definition)."""
    parts = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in QColor(name).getRgbF()[:3]]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


@pytest.mark.parametrize("name", THEMES)
def test_text_keeps_its_contrast_on_every_ground(name: str) -> None:
    theme = THEMES[name]
    for ink in ("ink", "ink_soft", "before", "after", "warning", "focus", *STAGES):
        for ground in ("ground", "panel", "raised"):
            light, dark = sorted((luminance(getattr(theme, ink)), luminance(getattr(theme, ground))), reverse=True)
            assert (light + 0.05) / (dark + 0.05) >= 4.5, f"{ink} on {ground} in {name}"


def test_figures_are_tabular(qapp: QApplication) -> None:
    metrics = QFontMetricsF(font(14))
    assert len({round(metrics.horizontalAdvance(digit), 2) for digit in "0123456789"}) == 1


def test_settings_are_remembered_and_broken_ones_do_no_harm() -> None:
    save_settings(Settings(theme="Daylight", recent=["a"]))
    assert load_settings().theme == "Daylight"
    settings_path().write_text("{broken")
    assert load_settings() == Settings()

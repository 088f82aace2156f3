"""Colours, fonts and the style of everything that Qt draws. Two themes from the same tokens."""

import contextlib
import dataclasses
from collections.abc import Iterator
from dataclasses import dataclass
from importlib import resources
from pathlib import Path
from string import Template

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

FAMILY = "Manrope"
STAGES = ("time", "colour", "moments", "ending", "level")
STAGE_TITLES = {
    "time": "Time",
    "colour": "Effects",
    "moments": "Moments",
    "ending": "Ending",
    "level": "Level",
}


@dataclass(frozen=True)
class Theme:
    """Tokens by what they are for. Text on its ground keeps WCAG AA contrast (tested)."""

    name: str
    ground: str
    panel: str
    raised: str
    line: str
    ink: str
    ink_soft: str
    before: str
    after: str
    focus: str
    warning: str
    time: str
    colour: str
    moments: str
    ending: str
    level: str

    def stage(self, name: str) -> str:
        """The accent of a stage."""
        return str(getattr(self, name))


EVENING = Theme(
    "Evening", ground="#1a1120", panel="#241929", raised="#332439", line="#4c3a54", ink="#f7ebda", ink_soft="#bfaebb",
    before="#a59bc9", after="#f2ab4f", focus="#ffdb9a", warning="#ff9a82",
    time="#ee8f6c", colour="#cb96e6", moments="#74ccb2", ending="#86b6f0", level="#dcca68",
)  # fmt: skip
DAYLIGHT = Theme(
    "Daylight", ground="#f3eadf", panel="#fcf6ec", raised="#eadfd0", line="#c9b8a5", ink="#2c1c31", ink_soft="#655062",
    before="#645a92", after="#8f5000", focus="#7a3d00", warning="#a8321a",
    time="#a9431f", colour="#84409f", moments="#19705a", ending="#285c9e", level="#6f6000",
)  # fmt: skip
THEMES = {theme.name: theme for theme in (EVENING, DAYLIGHT)}

_current = [EVENING]


def theme() -> Theme:
    """The theme in use."""
    return _current[0]


def colour(token: str, alpha: float = 1.0) -> QColor:
    """A token of the current theme as a colour."""
    made = QColor(getattr(theme(), token))
    made.setAlphaF(alpha)
    return made


def font(size: int = 13, weight: QFont.Weight = QFont.Weight.Medium) -> QFont:
    """The application's font at a pixel size, with tabular figures."""
    made = QFont(FAMILY)
    made.setPixelSize(size)
    made.setWeight(weight)
    made.setFeature(QFont.Tag("tnum"), 1)
    return made


BOLD = QFont.Weight.Bold
SEMI_BOLD = QFont.Weight.DemiBold


def load_fonts() -> None:
    """Make the shipped fonts known to Qt."""
    for file in (resources.files("latespin.desktop.theme") / "fonts").iterdir():
        if file.name.endswith(".ttf"):
            QFontDatabase.addApplicationFontFromData(file.read_bytes())


def apply_theme(app: QApplication, name: str) -> None:
    """Dress the whole application."""
    _current[0] = THEMES.get(name, EVENING)
    t = theme()
    app.setStyle("Fusion")
    app.setFont(font())
    palette = QPalette()
    roles = QPalette.ColorRole
    for role, token in (
        (roles.Window, t.ground), (roles.Base, t.panel), (roles.AlternateBase, t.raised), (roles.Button, t.raised),
        (roles.WindowText, t.ink), (roles.Text, t.ink), (roles.ButtonText, t.ink), (roles.ToolTipBase, t.raised),
        (roles.ToolTipText, t.ink), (roles.Highlight, t.after), (roles.HighlightedText, t.ground),
        (roles.PlaceholderText, t.ink_soft), (roles.Mid, t.line), (roles.Accent, t.after), (roles.Link, t.after),
    ):  # fmt: skip
        palette.setColor(role, QColor(token))
    for role in (roles.WindowText, roles.Text, roles.ButtonText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, colour("ink_soft", 0.6))
    app.setPalette(palette)
    app.setStyleSheet(_sheet(t))


@contextlib.contextmanager
def undressed() -> Iterator[None]:
    """Take the style sheet off while widgets are put together, which would dress each of them again and again."""
    app = QApplication.instance()
    assert isinstance(app, QApplication)
    sheet = app.styleSheet()
    app.setStyleSheet("")
    try:
        yield
    finally:
        app.setStyleSheet(sheet)


def _sheet(t: Theme) -> str:
    """The style sheet in a theme's colours."""
    icons = (Path(__file__).parent / "icons").as_posix()
    text = (resources.files("latespin.desktop.theme") / "style.qss").read_text(encoding="utf-8")
    return Template(text).substitute(dataclasses.asdict(t), icons=icons, tick="dark" if t is EVENING else "light")

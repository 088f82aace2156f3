"""The commands of the window as data: menus and keys are built from this list."""

from collections.abc import Callable
from dataclasses import dataclass

from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu


@dataclass(frozen=True)
class Command:
    """An entry of a menu. shortcut : as Qt writes it, several with a bar between. song : needs an opened song."""

    ident: str
    menu: str
    title: str
    shortcut: str = ""
    song: bool = True
    separate: bool = False
    checkable: bool = False


COMMANDS = (
    Command("open", "&File", "&Open song or session …", "Ctrl+O", song=False),
    Command("save", "&File", "&Save session", "Ctrl+S", separate=True),
    Command("save_as", "&File", "Save session &as …", "Ctrl+Shift+S"),
    Command("collect", "&File", "&Collect with all its files …"),
    Command("export", "&File", "&Export …", "Ctrl+E", separate=True),
    Command("set", "&File", "&Make a set …", "Ctrl+Shift+E"),
    Command("quit", "&File", "&Quit", "Ctrl+Q", song=False, separate=True),
    Command("undo", "&Edit", "&Undo", "Ctrl+Z"),
    Command("redo", "&Edit", "&Redo", "Ctrl+Shift+Z|Ctrl+Y"),
    Command("duplicate", "&Version", "&Duplicate", "Ctrl+D"),
    Command("rename", "&Version", "&Rename", "F2"),
    Command("recipes", "&Version", "R&ecipes …", "Ctrl+R"),
    Command("keep_recipe", "&Version", "&Keep as a recipe …"),
    Command("move_up", "&Version", "Move &up", "Ctrl+Up"),
    Command("move_down", "&Version", "Move do&wn", "Ctrl+Down"),
    Command("delete", "&Version", "D&elete", "Ctrl+Backspace", separate=True),
    Command("play", "&Play", "&Play or pause", "Space"),
    Command("start", "&Play", "To the &start", "Home"),
    Command("loudest", "&Play", "&Jump to the loudest part", "J"),
    Command("loop", "&Play", "&Loop the marked range", "L", checkable=True),
    Command("unmark", "&Play", "&Forget the marked range", "Escape"),
    Command("side", "&Play", "&Before or After", "B", separate=True),
    Command("matched", "&Play", "Level-&matched", "M", checkable=True),
    Command("compare", "&Play", "Com&pare …", "C"),
    Command("next_section", "&Play", "Next se&ction", "PgDown", separate=True),
    Command("last_section", "&Play", "Section be&fore", "PgUp"),
    Command("drums", "&Play", "Where drums &enter"),
    Command("beats", "&Beats", "Beats and &bars", "G"),
    Command("tap", "&Beats", "&Tap the tempo", "T", separate=True),
    Command("bar_one", "&Beats", "Bar &1 is here", "Ctrl+B"),
    Command("beat_back", "&Beats", "Bars a beat &earlier", "Alt+Left"),
    Command("beat_on", "&Beats", "Bars a beat &later", "Alt+Right"),
    Command("nudge_back", "&Beats", "All beats 10 ms earlier", "Alt+Shift+Left"),
    Command("nudge_on", "&Beats", "All beats 10 ms later", "Alt+Shift+Right"),
    Command("halve", "&Beats", "&Half as many beats"),
    Command("double", "&Beats", "Twice as &many beats"),
    Command("click", "&Beats", "&Click on every beat", "K", separate=True, checkable=True),
    Command("snap", "&Beats", "&Snap to beats", "N", checkable=True),
    Command("as_read", "&Beats", "As the song was &read", separate=True),
    Command("read_anew", "&Beats", "Read the song a&gain"),
    Command("import_grid", "&Beats", "&Import …", separate=True),
    Command("export_grid", "&Beats", "E&xport …"),
    Command("audition", "&Moments", "&Hear the moment, or the ending", "A"),
    Command("previous_moment", "&Moments", "Moment &before", "["),
    Command("next_moment", "&Moments", "&Next moment", "]"),
    Command("copy", "&Moments", "Co&py the moment", "Ctrl+C"),
    Command("paste", "&Moments", "Past&e it here", "Ctrl+V"),
    Command("delete_moment", "&Moments", "&Delete the moment"),
    Command("mark", "&Moments", "&Mark this place, or the marked range", "X", separate=True),
    Command("mark_end", "&Moments", "&End the last mark here", "Shift+X"),
    Command("cover_markers", "&Moments", "&Cover all marked ranges"),
    Command("import_markers", "&Moments", "&Import markers …", separate=True),
    Command("export_markers", "&Moments", "E&xport markers …"),
    Command("zoom_in", "V&iew", "Zoom &in", "+|="),
    Command("zoom_out", "V&iew", "Zoom &out", "-"),
    Command("zoom_fit", "V&iew", "&Whole song", "0"),
    Command("zoom_bars", "V&iew", "Zoom to four &bars", "Z"),
    Command("bar_rulers", "V&iew", "&Rulers in bars", "R", checkable=True),
    Command("evening", "V&iew", "&Evening", song=False, separate=True, checkable=True),
    Command("daylight", "V&iew", "&Daylight", song=False, checkable=True),
    Command("about", "&Help", "&About Late Spin", song=False),
)


def build_menus(
    window: QMainWindow, handlers: dict[str, Callable[[], None]]
) -> tuple[dict[str, QAction], dict[str, QMenu]]:
    """Fill the menu bar; returns the actions by ident and the menus by title."""
    actions: dict[str, QAction] = {}
    menus: dict[str, QMenu] = {}
    for command in COMMANDS:
        menu = menus.get(command.menu)
        if menu is None:
            menu = menus[command.menu] = window.menuBar().addMenu(command.menu)
        if command.separate:
            menu.addSeparator()
        action = QAction(command.title, window)
        action.setShortcuts([QKeySequence(keys) for keys in command.shortcut.split("|") if keys])
        action.setCheckable(command.checkable)
        action.triggered.connect(lambda _=False, call=handlers[command.ident]: call())
        menu.addAction(action)
        actions[command.ident] = action
    return actions, menus

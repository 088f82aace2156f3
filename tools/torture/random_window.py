"""The real window, used at random: by its commands, keys, buttons, numbers, waveforms and dialogs, for as long as wanted.

Runs by itself in a process of its own and prints what it found as JSON; see :mod:`tools.torture.window`.
"""

import faulthandler
import json
import logging
import random
import shutil
import sys
import threading
import time
import traceback
from collections import Counter
from pathlib import Path
from typing import Any, ClassVar

import numpy as np
from PySide6.QtCore import QObject, QPoint, QPointF, Qt, QTimer, qInstallMessageHandler
from PySide6.QtGui import QAction, QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSlider,
    QApplication,
    QComboBox,
    QDialog,
    QFileDialog,
    QInputDialog,
    QLineEdit,
    QMenu,
    QMessageBox,
    QTabBar,
    QWidget,
)

from latespin.desktop.app import make_app
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.main_window import Window
from latespin.desktop.widgets.value_bar import ValueBar
from latespin.media.track import file_hash
from latespin.model.documents.documents import read_session, to_json
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player

HANG_SECONDS = 10.0
LEFT = Qt.MouseButton.LeftButton
IGNORED = ("propagateSizeHints", "plugin does not support raise", "This plugin does not support")
TYPED = (
    "80 %",
    "+30 %",
    "-3 st",
    "1.5 s",
    "0",
    "-1",
    "99999",
    "nan",
    "1/8",
    "2 bars",
    "A minor",
    "17.3",
    "",
    "🛼",
    "1e9",
    "120 ms",
    "8 kHz",
)
LEFT_ALONE = {"quit"}


class Listener(SilentDevice):
    """The silent device, hearing whether what it is given could hurt."""

    wrong: ClassVar[Counter[str]] = Counter()

    def __init__(self, player: Player) -> None:
        pull = player.pull

        def watched(frames: int, *, only_ready: bool = False) -> np.ndarray:
            block = pull(frames, only_ready=only_ready)
            if not np.isfinite(block).all():
                self.wrong["what was played holds no numbers"] += 1
            elif block.size and np.abs(block).max() > 1.0:
                self.wrong["what was played is beyond full scale"] += 1
            return block

        player.pull = watched  # type: ignore[method-assign]
        super().__init__(player, remember_seconds=0.1)


class RandomUser(QObject):
    """Does one thing after the other. found : what went wrong, and how often."""

    def __init__(self, window: Window, folder: Path, seed: int, seconds: float, most: int) -> None:
        super().__init__()
        self.window, self.folder, self.rng = window, folder, random.Random(seed)
        self.done, self.most, self.until = 0, most, time.monotonic() + seconds
        self.began = self.beat = time.monotonic()
        self.did: Counter[str] = Counter()
        self.last: list[str] = []
        self.found: Counter[str] = Counter()
        self.memory: list[tuple[float, int]] = []
        self.songs = {path: file_hash(path) for path in folder.glob("song*")}
        self._seen = {path: _stamp(path) for path in self.songs}
        self._was_open: set[Path] = set()
        self._timer = QTimer(self, singleShot=True)
        self._timer.timeout.connect(self.act)
        self._timer.start(0)
        threading.Thread(target=self._watch, daemon=True).start()

    def act(self) -> None:
        """One action, and the next one soon."""
        self.beat = time.monotonic()
        if self.beat > self.until or self.done >= self.most:
            QApplication.exit(0)
            return
        kinds = (
            self.command,
            self.press,
            self.click,
            self.click,
            self.number,
            self.number,
            self.point,
            self.wheel,
            self.write,
            self.choose,
            self.menu,
            self.check,
        )
        kind = self.rng.choice(kinds)
        self.last = [*self.last[-11:], kind.__name__]
        try:
            kind()
        except Exception:
            self.note(traceback.format_exc())
        self.look_after_songs()
        self.done += 1
        self.did[kind.__name__] += 1
        if self.done % 50 == 0:
            self.memory.append((time.monotonic() - self.began, resident_bytes()))
        self._timer.start(self.rng.choice((0, 0, 5, 20, 60)))

    def note(self, what: str) -> None:
        """Keep what went wrong, with what was done last."""
        self.found[what] += 1
        if self.found[what] == 1:
            sys.stderr.write(f"after {self.done} actions ({', '.join(self.last)}):\n{what}\n")

    # -- what is done ------------------------------------------------------------------------------------------

    def command(self) -> None:
        """Any of the window's commands."""
        if QApplication.activeModalWidget() is not None:
            self.leave()
            return
        names = [
            name
            for name, action in self.window.actions_by_name.items()
            if action.isEnabled() and name not in LEFT_ALONE
        ]
        name = self.rng.choice(names)
        self.last.append(name)
        self.window.actions_by_name[name].trigger()

    def press(self) -> None:
        """A key, wherever the focus is."""
        target = QApplication.focusWidget() or self.window
        key = self.rng.choice((*range(Qt.Key.Key_A, Qt.Key.Key_Z + 1), *range(Qt.Key.Key_0, Qt.Key.Key_9 + 1), Qt.Key.Key_Return, Qt.Key.Key_Tab, Qt.Key.Key_Space,
                               Qt.Key.Key_Delete, Qt.Key.Key_Left, Qt.Key.Key_Right, Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_Home, Qt.Key.Key_Escape, Qt.Key.Key_BracketLeft))  # fmt: skip
        shift = self.rng.choice(
            (
                Qt.KeyboardModifier.NoModifier,
                Qt.KeyboardModifier.NoModifier,
                Qt.KeyboardModifier.ShiftModifier,
                Qt.KeyboardModifier.AltModifier,
            )
        )
        QTest.keyClick(target, Qt.Key(key), shift)

    def click(self) -> None:
        """A button that can be seen, or a card."""
        button = self.any(QAbstractButton)
        if button is not None and "Quit" not in button.text():
            QTest.mouseClick(button, LEFT)

    def number(self) -> None:
        """A number dragged, stepped, typed or put back."""
        bar = self.any(ValueBar)
        if bar is None:
            return
        way = self.rng.randrange(4)
        if way == 0:
            self.drag(bar)
        elif way == 1:
            QTest.keyClick(
                bar,
                self.rng.choice(
                    (Qt.Key.Key_Up, Qt.Key.Key_Down, Qt.Key.Key_PageUp, Qt.Key.Key_PageDown, Qt.Key.Key_Home)
                ),
            )
        elif way == 2:
            QTest.mouseDClick(bar, LEFT)
        else:
            QTest.keyClick(bar, Qt.Key.Key_Return)
            bar._editor.insert(self.rng.choice(TYPED))
            QTest.keyClick(bar._editor, self.rng.choice((Qt.Key.Key_Return, Qt.Key.Key_Escape)))

    def point(self) -> None:
        """A drag or a double click on something that is painted: waveforms, curves, pictures."""
        widget = self.rng.choice([self.window.waveform_view, self.window.waveform_view, self.any(QWidget)])
        if widget is not None and not isinstance(widget, QAbstractButton):
            if self.rng.random() < 0.25:
                QTest.mouseDClick(widget, LEFT, pos=self.place(widget))
            else:
                self.drag(widget)

    def drag(self, widget: QWidget) -> None:
        """From one place of a widget to another."""
        modifier = self.rng.choice(
            (Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier)
        )
        QTest.mousePress(widget, LEFT, modifier, self.place(widget))
        for _ in range(self.rng.randrange(5)):
            QTest.mouseMove(widget, self.place(widget))
        QTest.mouseRelease(widget, LEFT, modifier, self.place(widget))

    def wheel(self) -> None:
        """The wheel over something."""
        widget = self.rng.choice([self.window.waveform_view, self.any(ValueBar), self.any(QAbstractSlider)])
        if widget is None:
            return
        at, turn = QPointF(self.place(widget)), QPoint(0, self.rng.choice((-120, 120, 15)))
        modifier = self.rng.choice((Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ControlModifier))
        event = QWheelEvent(
            at,
            QPointF(widget.mapToGlobal(at.toPoint())),
            QPoint(),
            turn,
            Qt.MouseButton.NoButton,
            modifier,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )
        QApplication.sendEvent(widget, event)

    def write(self) -> None:
        """Text in a field."""
        field = self.any(QLineEdit)
        if field is not None and not field.isReadOnly():
            field.setFocus()
            field.selectAll()
            field.insert(self.rng.choice(TYPED))
            QTest.keyClick(field, self.rng.choice((Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Tab)))

    def choose(self) -> None:
        """A row, a page or an entry of a list."""
        chosen = self.any((QAbstractItemView, QComboBox, QTabBar))
        if isinstance(chosen, QComboBox) and chosen.count():
            chosen.setCurrentIndex(self.rng.randrange(chosen.count()))
            chosen.activated.emit(chosen.currentIndex())
        elif isinstance(chosen, QTabBar) and chosen.count():
            chosen.setCurrentIndex(self.rng.randrange(chosen.count()))
        elif chosen is not None:
            target = chosen.viewport() if isinstance(chosen, QAbstractItemView) else chosen
            QTest.mouseClick(target, LEFT, pos=self.place(target))

    def menu(self) -> None:
        """An entry of a menu that is open, or of a button's."""
        menu = QApplication.activePopupWidget()
        if not isinstance(menu, QMenu):
            button = self.any(QAbstractButton)
            menu = button.menu() if button is not None and hasattr(button, "menu") else None
        if isinstance(menu, QMenu):
            menu.aboutToShow.emit()
            action = self.any_action(menu)
            menu.close()
            if action is not None:
                action.trigger()

    def any_action(self, menu: QMenu) -> QAction | None:
        """An entry that does something."""
        actions = [a for a in menu.actions() if a.isEnabled() and not a.isSeparator() and a.menu() is None]
        return self.rng.choice(actions) if actions else None

    def check(self) -> None:
        """What must always hold."""
        document = self.window.document
        if read_session(to_json(document.session), "now") != document.session:
            self.note("the session as written is not the session")
        if len(document.session.versions) > 12:
            document.delete_version(document.session.versions[0].id)
        if document.loaded is None and not self.window.work.active("open"):
            self.window.files.open_file(self.rng.choice(list(self.songs)))

    def look_after_songs(self) -> None:
        """A song that is open, and was before the last action, is as it was; others may be replaced by who is asked and says yes."""
        is_open = {Path(name) for name in self.window.document.session.files()}
        for path, digest in self.songs.items():
            seen = _stamp(path)
            if seen != self._seen[path] and (seen is None or file_hash(path) != digest):
                if path in is_open & self._was_open:
                    self.note(f"{path.name} was changed while it was open")
                shutil.copy(self.folder / "kept" / path.name, path)
            self._seen[path] = _stamp(path)
        self._was_open = is_open

    def leave(self) -> None:
        """A dialog is closed, one way or the other."""
        dialog = QApplication.activeModalWidget()
        if isinstance(dialog, QDialog):
            self.rng.choice((dialog.accept, dialog.reject))()

    # -- where -------------------------------------------------------------------------------------------------

    def any(self, kind: Any) -> Any:
        """A widget of a kind that can be seen and used: of the dialog that is open, else of the window."""
        holder = QApplication.activeModalWidget() or self.window
        kinds = kind if isinstance(kind, tuple) else (kind,)
        found = [w for k in kinds for w in holder.findChildren(k) if w.isVisible() and w.isEnabled()]
        return self.rng.choice(found) if found else None

    def place(self, widget: QWidget) -> QPoint:
        """Anywhere in it."""
        return QPoint(self.rng.randrange(max(1, widget.width())), self.rng.randrange(max(1, widget.height())))

    # -- watched -----------------------------------------------------------------------------------------------

    def _watch(self) -> None:
        told = 0.0
        while True:
            time.sleep(0.5)
            if time.monotonic() - self.beat > HANG_SECONDS and told != self.beat:
                told = self.beat
                faulthandler.dump_traceback(sys.stderr)
                self.note(f"the window did not answer for {HANG_SECONDS:g} s")

    def _memory_each_minute(self) -> list[int]:
        """The median of what was resident in each minute."""
        found: dict[int, list[int]] = {}
        for at, size in self.memory:
            found.setdefault(int(at // 60.0), []).append(size >> 20)
        return [int(np.median(sizes)) for sizes in found.values()]

    def summary(self) -> dict[str, Any]:
        """What was done and found."""
        found = self.found + Listener.wrong
        return {
            "actions": self.done, "seconds": round(time.monotonic() - self.began, 1), "did": dict(self.did), "found": dict(found),
            "memory_mb_each_minute": self._memory_each_minute(), "widgets": len(QApplication.allWidgets()), "threads": threading.active_count(),
        }  # fmt: skip


def _stamp(path: Path) -> tuple[int, int, int] | None:
    """What changes with a file."""
    try:
        found = path.stat()
    except OSError:
        return None
    return found.st_ino, found.st_size, found.st_mtime_ns


def resident_bytes() -> int:
    """How much memory the process has."""
    return int(Path("/proc/self/statm").read_text().split()[1]) * 4096


def play_the_dialogs(user: RandomUser) -> None:
    """Answer at random what would wait for a person."""
    rng, folder = user.rng, user.folder

    def existing(*_: object, **__: object) -> tuple[str, str]:
        return str(rng.choice([path for path in folder.iterdir() if path.is_file()])) if rng.random() < 0.6 else "", ""

    def new(*_: object, **__: object) -> tuple[str, str]:
        names = [
            "new.latespin",
            "song.flac",
            "song 2.ogg",
            "marks.csv",
            "grid.mid",
            "take.mid",
            "surface.json",
            "recipe.json",
            "pad.wav",
            "x" * 300,
            "no/where.wav",
        ]
        return str(folder / rng.choice(names)) if rng.random() < 0.6 else "", "CSV (*.csv)"

    def exec_box(box: QMessageBox) -> int:
        if box.buttons():
            rng.choice(box.buttons()).click()
        return 0

    QFileDialog.getOpenFileName = existing  # type: ignore[method-assign,assignment]
    QFileDialog.getOpenFileNames = lambda *a, **k: ([existing()[0]], "")  # type: ignore[method-assign,assignment]
    QFileDialog.getSaveFileName = new  # type: ignore[method-assign,assignment]
    QFileDialog.getExistingDirectory = lambda *a, **k: str(folder / "out")  # type: ignore[method-assign,assignment]
    standard = QMessageBox.StandardButton
    QMessageBox.question = lambda *a, **k: rng.choice(
        (standard.Yes, standard.No, standard.Discard, standard.Save, standard.Cancel)
    )  # type: ignore[method-assign,assignment]
    QInputDialog.getText = lambda *a, **k: (rng.choice(TYPED), rng.random() < 0.7)  # type: ignore[method-assign,assignment]
    QInputDialog.getDouble = lambda *a, **k: (rng.choice((4.0, 60.0, 2000.0)), rng.random() < 0.7)  # type: ignore[method-assign,assignment]
    QInputDialog.getMultiLineText = lambda *a, **k: (rng.choice(TYPED), rng.random() < 0.7)  # type: ignore[method-assign,assignment]
    QMessageBox.exec = exec_box  # type: ignore[method-assign,assignment]


def main() -> None:
    """Arguments: folder with songs, seed, seconds, most actions."""
    folder, seed, seconds, most = Path(sys.argv[1]), int(sys.argv[2]), float(sys.argv[3]), int(sys.argv[4])
    faulthandler.enable()
    app = make_app()
    window = Window(Settings(), Listener)
    window.resize(1280, 800)
    window.show()
    window.finish_loading()
    user = RandomUser(window, folder, seed, seconds, most)
    play_the_dialogs(user)
    sys.excepthook = lambda kind, error, trace: user.note("".join(traceback.format_exception(kind, error, trace)))
    threading.excepthook = lambda args: user.note("".join(traceback.format_exception(args.exc_value)))
    qInstallMessageHandler(
        lambda _, __, text: None if any(part in text for part in IGNORED) else user.note(f"Qt: {text}")
    )
    logging.getLogger().addHandler(_Noted(user))
    window.files.open_file(next(iter(user.songs)))
    app.exec()
    window.document.forget_changes()
    for task in window.work.active():
        task.cancel()
    window.close()
    sys.stdout.write(json.dumps(user.summary()) + "\n")
    sys.stdout.flush()


class _Noted(logging.Handler):
    """What the log says of faults."""

    def __init__(self, user: RandomUser) -> None:
        super().__init__(logging.ERROR)
        self._user = user

    def emit(self, record: logging.LogRecord) -> None:
        trace = "".join(traceback.format_exception(*record.exc_info)) if record.exc_info else ""
        self._user.note(f"log: {record.getMessage()}\n{trace}")


if __name__ == "__main__":
    main()

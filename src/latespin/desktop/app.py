"""Starting the window."""

import gc
import logging
import os
import signal
import sys
import time
from collections.abc import Callable
from importlib import resources
from pathlib import Path

from PySide6.QtCore import QLoggingCategory, Qt, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication

from latespin import __version__
from latespin.demo import demo_session
from latespin.desktop.session.settings import load_settings
from latespin.desktop.shell.main_window import Window
from latespin.desktop.theme.theme import apply_theme, load_fonts, undressed
from latespin.desktop.translation import install_language
from latespin.desktop.widgets.access import install_access
from latespin.integration import APP_ID
from latespin.memory import settle_allocator

MEDIA_KEYS_MS = 500  # after the first picture, which does not wait for the bus
SWITCH_SECONDS = (
    0.0005  # after which a thread gives way to the window: Python's own 5 ms are felt when something is dragged
)


def run(file: Path | None, *, demo: bool = False) -> int:
    """Show the window, with a song, a session or the demo in it; returns the exit code."""
    app = make_app()
    with undressed():
        window = Window(load_settings())
    window.show()
    desktop: list[Callable[[], None]] = []  # what ends the connections to it
    QTimer.singleShot(0, window, lambda: _begin(window, demo_session() if demo else file))
    QTimer.singleShot(0, window, lambda: desktop.append(_be_found(window)))
    QTimer.singleShot(MEDIA_KEYS_MS, window, lambda: desktop.append(_take_media_keys(window)))
    code = _run_until_quit(app)
    for end in desktop:
        end()
    window.work.close()
    if window.playback:
        window.playback.close()
    return code


def _bring_forward(window: Window, file: Path | None) -> None:
    """Show the window above others, and open a file that another start was given."""
    window.setWindowState(window.windowState() & ~Qt.WindowState.WindowMinimized)
    window.show()
    window.raise_()
    window.activateWindow()
    if file is not None:
        window.files.open_file(file)


def _be_found(window: Window) -> Callable[[], None]:
    """Take files from later starts of the program; returns what ends it."""
    from latespin.desktop.integration.one_window import OneWindow

    one = OneWindow(window)
    one.asked.connect(lambda path: _bring_forward(window, path))
    return one.close


def _take_media_keys(window: Window) -> Callable[[], None]:
    """Be a player of the desktop; returns what ends it."""
    from latespin.desktop.integration.media_keys import MediaKeys

    keys = MediaKeys(window.document, window.play, window)
    keys.raise_wanted.connect(lambda: _bring_forward(window, None))
    keys.quit_wanted.connect(window.close)
    keys.open_wanted.connect(window.files.open_file)
    keys.start()
    return keys.stop


def run_surface() -> int:
    """Show the practice surface; returns the exit code."""
    from latespin.desktop.surface.surface_window import SurfaceWindow

    app = make_app()
    window = SurfaceWindow()
    window.show()
    code = _run_until_quit(app)
    window.close()
    return code


def _run_until_quit(app: QApplication) -> int:
    """Run the application until its last window is closed or a signal comes; returns the exit code."""
    signal.signal(signal.SIGINT, lambda *_: app.quit())
    signal.signal(signal.SIGTERM, lambda *_: app.quit())
    heartbeat = QTimer()
    heartbeat.start(250)
    heartbeat.timeout.connect(lambda: None)  # lets Python see signals
    return app.exec()


def make_app() -> QApplication:
    """The application object, dressed."""
    settle_allocator()
    if os.environ.get("LATESPIN_LOG") == "debug":
        logging.getLogger("latespin").setLevel(logging.DEBUG)
    logging.basicConfig(level=logging.WARNING, format="%(asctime)s %(name)s %(levelname)s %(message)s")
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        app = QApplication(sys.argv[:1])
    sys.setswitchinterval(SWITCH_SECONDS)
    app.setApplicationName("Late Spin")
    app.setApplicationVersion(__version__)
    app.setDesktopFileName(APP_ID)
    app.setWindowIcon(QIcon(str(resources.files("latespin.desktop.theme") / "icons" / "latespin.svg")))
    # Which codecs and drivers Qt Multimedia finds is of no use to anybody here; it only plays.
    QLoggingCategory.setFilterRules("qt.multimedia.*=false")
    settings = load_settings()
    install_language(app, settings.language)
    install_access()
    load_fonts()
    apply_theme(app, settings.theme)
    return app


def _begin(window: Window, file: Path | None) -> None:
    if os.environ.get("LATESPIN_TIMING"):
        _say_when("window painted")
        window.document.track_changed.connect(lambda: _say_when("playable"))
    gc.freeze()  # what the program is made of stays: later searches for garbage need not go through it
    gc.enable()
    window.finish_loading()
    window.controllers.autosave.offer(lambda: window.files.open_file(file.resolve()) if file is not None else None)


def _say_when(what: str) -> None:
    """Print how long after the process was started (Linux) something is done; for the benchmark."""
    ticks = int(Path("/proc/self/stat").read_text(encoding="ascii").rsplit(")", 1)[1].split()[19])
    seconds = time.clock_gettime(time.CLOCK_BOOTTIME) - ticks / os.sysconf("SC_CLK_TCK")
    sys.stdout.write(f"{what} after {seconds:.2f} s\n")
    sys.stdout.flush()

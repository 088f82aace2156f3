"""Takes the pictures in ``docs/screenshots`` anew from the demo session.

Run ``.venv/bin/python tools/make_screenshots.py``; each view is one function below.
"""

import os
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["LATESPIN_CONFIG"] = tempfile.mkdtemp(prefix="late-spin-pictures-")
os.environ["XDG_CACHE_HOME"] = os.environ["LATESPIN_CONFIG"]

import numpy as np
from msgspec.structs import replace
from PySide6.QtWidgets import QApplication, QWidget

from latespin.demo import demo_session
from latespin.desktop.app import make_app
from latespin.desktop.settings import Settings
from latespin.desktop.window import Window
from latespin.model.curve import CurvePoint
from latespin.model.markers import Marker
from latespin.model.place import Place
from latespin.render.silent import SilentDevice

TARGET = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


class Studio:
    """A window and the means to wait and to take pictures."""

    def __init__(self) -> None:
        self.app = make_app()
        self.window = Window(Settings(), lambda player: SilentDevice(player))
        self.window.resize(1280, 800)
        self.window.show()
        self.window.finish_loading()

    def wait(self, condition: Callable[[], object], seconds: float = 90.0) -> None:
        """Until something is so."""
        end = time.monotonic() + seconds
        while not condition() and time.monotonic() < end:
            self.app.processEvents()
            time.sleep(0.01)

    def pause(self, seconds: float) -> None:
        """Let the window live for a while."""
        end = time.monotonic() + seconds
        self.wait(lambda: time.monotonic() > end)

    def take(self, name: str, widget: QWidget | None = None) -> None:
        """Save a picture."""
        (widget or self.window).grab().save(str(TARGET / f"{name}.png"))
        print(name)


def main() -> None:
    """Every main view once."""
    TARGET.mkdir(parents=True, exist_ok=True)
    studio = Studio()
    window = studio.window
    studio.pause(0.5)
    window.setFocus()
    studio.pause(0.1)
    studio.take("empty")
    window.open_file(demo_session())
    studio.wait(lambda: window.document.measured())
    studio.wait(lambda: all(window.document.measured(v.stages) for v in window.document.session.versions))
    window.do_loudest()
    window.do_play()
    studio.pause(3.5)
    studio.take("time")
    pages_of_time(studio)
    beats(studio)
    moments(studio)
    colours(studio)
    window.document.choose("relay")
    window.open_bench("level")
    window.ribbons.set_loop(None)
    studio.pause(0.6)
    studio.take("level")
    window.document.choose("couples")
    export(studio)
    window.do_daylight()
    window.open_bench("time")
    studio.pause(0.5)
    studio.take("daylight")
    window.do_about()
    studio.pause(0.3)
    about = QApplication.activeModalWidget()
    if about is not None:
        studio.take("about", about)
        about.close()
    window.document.forget_changes()
    window.close()


def colours(studio: Studio) -> None:
    """The hall's decay, the orbit as it goes round, a dive drawn over the song, and the pad maker."""
    window = studio.window
    window.open_bench("colour")
    window.ribbons.set_loop((20.0, 35.0))
    studio.pause(0.3)
    studio.take("colour")
    window.ribbons.set_loop(None)
    window.document.choose("overhead")
    studio.wait(lambda: window.document.measured())
    for name, ident, seconds in (("orbit", "orbit", 37.0), ("underwater", "water", 50.5)):
        window.colour_work.choose(ident)
        window.playback.seek("before", seconds)
        studio.pause(1.6)
        studio.take(name)
    window.mark((20.0, 24.0))
    window.colour_work.do("pad")
    dialog = window.colour_work.dialog
    studio.wait(lambda: dialog.sound is not None)
    studio.pause(0.3)
    studio.take("pad", dialog)
    dialog.close()
    window.mark(None)


def beats(studio: Studio) -> None:
    """The bench of beats and bars, and the ribbons zoomed to a few bars."""
    window = studio.window
    studio.wait(lambda: window.document.reading)
    window.open_bench("grid")
    studio.pause(0.5)
    studio.take("beats")
    window.do_zoom_bars()
    window.ribbons.set_loop(tuple(window.document.grid.seconds_of(4.0 * np.array([29, 30])).tolist()))
    studio.pause(0.5)
    studio.take("bars")
    window.ribbons.set_loop(None)
    window.do_zoom_fit()


def moments(studio: Studio) -> None:
    """Every kind of moment, one of them near, markers, and the ending."""
    window, document = studio.window, studio.window.document
    window.playback.player.pause()
    document.choose("closing")
    studio.wait(lambda: document.measured())
    window.open_bench("moments")
    window.moment_work.choose("stop")
    window.playback.seek("before", 60.5)
    studio.pause(0.5)
    studio.take("moments")
    window.ribbons.show_range(58.0, 74.0)
    studio.pause(0.3)
    studio.take("moment-curve")
    markers = (
        Marker(id="drums", label="drums enter", start=Place(beat=8.0)),
        Marker(id="word", label="a word", start=Place(beat=17.5), end=Place(beat=18.5)),
        Marker(id="again", label="the word again", start=Place(beat=25.5), end=Place(beat=26.5)),
    )
    document.edit_session("Markers", replace(document.session, markers=markers))
    window.moment_work.choose("word")
    window.benches.moments.open_page("markers")
    window.ribbons.show_range(3.0, 22.0)
    studio.pause(0.3)
    studio.take("markers")
    document.undo()
    window.benches.moments.open_page("moments")
    window.ribbons.zoom_to_fit()
    window.open_bench("ending")
    studio.pause(0.5)
    studio.take("ending")
    document.choose("couples")


def pages_of_time(studio: Studio) -> None:
    """The other pages of the Time bench, on a version of their own."""
    window, document = studio.window, studio.window.document
    document.duplicate_version()
    curve = (
        CurvePoint(place=0.0, speed=0.85),
        CurvePoint(place=0.35, speed=1.0, shape="smooth"),
        CurvePoint(place=0.8, speed=1.25),
    )
    for page, changes in (
        ("character", {"pitch": "held", "character": "voice", "formants": "kept", "semitones": 2.0}),
        ("curve", {"curve": curve, "semitones": 0.0, "character": "full-mix"}),
        ("halftime", {"curve": (), "halftime": "2bar", "speed": 0.95}),
    ):
        time_stage = replace(document.stages.time, **changes)
        document.edit_stages("Time", replace(document.stages, time=time_stage))
        window.benches.time.open_page(page)
        studio.wait(lambda: document.measured())
        studio.pause(0.5)
        studio.take(page)
    document.delete_version(document.session.chosen)
    document.choose("couples")
    window.benches.time.open_page("speed")


def export(studio: Studio) -> None:
    """The export dialog, and an export on its way."""
    window = studio.window
    folder = Path(tempfile.gettempdir()) / "lanternwheel"
    folder.mkdir(exist_ok=True)
    window.do_export()
    studio.pause(0.3)
    dialog = QApplication.activeModalWidget()
    assert dialog is not None
    dialog.folder.setText(str(folder))
    dialog.every.setChecked(True)
    studio.pause(0.1)
    studio.take("export", dialog)
    dialog.reject()


if __name__ == "__main__":
    main()

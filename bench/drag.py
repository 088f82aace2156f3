"""How quickly the window follows a hand on a moment: repaint and audible result, on a song of four minutes.

Run ``PYTHONPATH=bench .venv/bin/python bench/drag.py``; paused and playing, each 150 steps of a drag.
"""

import os
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["LATESPIN_CONFIG"] = os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="late-spin-drag-")

import numpy as np
import soundfile
from msgspec.structs import replace
from PySide6.QtCore import QPointF

from latespin.demo import demo_folder
from latespin.desktop.app import make_app
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.main_window import Window
from latespin.media.track import open_track
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.moments import AnyMoment, Moments, Reverse, Stutter, TapeStop
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.render.playback.null_device import SilentDevice

SECONDS = 240
STEPS = 150


def main() -> None:
    """Print the 95th percentiles."""
    app = make_app()
    window = Window(Settings(), lambda player: SilentDevice(player))
    window.show()
    window.finish_loading()
    demo = open_track(demo_folder() / "lantern-light.ogg")
    times = -(-SECONDS * demo.rate // demo.frames)
    song = Path(os.environ["LATESPIN_CONFIG"]) / "long.wav"
    soundfile.write(song, np.tile(demo.sound, (1, times))[:, : SECONDS * demo.rate].T, demo.rate)
    window.files.open_file(song)
    _until(app, lambda: window.document.measured())
    document = window.document
    document.set_grid("grid", Grid(bpm=92.0, first_beat_seconds=0.25))
    document.edit_stages("moments", replace(document.stages, moments=Moments(placed=_placed())))
    window.open_panel("moments")
    window.controllers.moments.choose("stop")
    window.waveform_view.show_range(30.0, 60.0)
    _until(app, lambda: document.measured())
    for playing in (False, True):
        if playing:
            window.playback.seek("before", 34.0)
            window.run("play")
            _wait(app, 2.0)
            window.playback.player.change_latencies.clear()
        edits, paints = _drag(app, window)
        message = f"edit {np.percentile(edits, 95):.1f} ms, repaint {np.percentile(paints, 95):.1f} ms (median {np.median(paints):.1f})"
        heard = [1000 * seconds for seconds in window.playback.player.change_latencies] if playing else []
        more = f", heard after {np.percentile(heard, 95):.0f} ms ({len(heard)} changes)" if heard else ""
        print(f"{'playing' if playing else 'paused '}: 95th percentile: {message}{more}")
    document.forget_changes()
    window.close()


def _placed() -> tuple[AnyMoment, ...]:
    def at(kind: type, start: float, beats: float, ident: str, **values: object) -> AnyMoment:
        return kind(id=ident, start=Position(beat=start), end=Position(beat=start + beats), **values)

    others = [at(Stutter, 16.0 * n, 2.0, f"s{n}", values=("1/8", "1/16")) for n in range(1, 20) if n != 4]
    return (
        at(TapeStop, 64.0, 4.0, "stop"), *others, at(Reverse, 74.0, 2.0, "back"), at(ColourDip, 82.0, 12.0, "dive"),
    )  # fmt: skip


def _drag(app, window) -> tuple[list[float], list[float]]:  # type: ignore[no-untyped-def]
    layer = window.waveform_view.moments
    shape = next(shape for shape in layer.shapes if shape.id == "stop")
    grip = layer.grip(shape, 1).center()
    layer.take(grip)
    edits, paints = [], []
    for step in range(STEPS):
        began = time.perf_counter()
        layer.drag(QPointF(grip.x() + 8.0 + 0.5 * step, grip.y()), free=True)
        edited = time.perf_counter()
        window.waveform_view.repaint()
        painted = time.perf_counter()
        edits.append(1000 * (edited - began))
        paints.append(1000 * (painted - edited))
        app.processEvents()
        time.sleep(0.016)
    layer.drop()
    _wait(app, 1.0)
    return edits, paints


def _until(app, condition) -> None:  # type: ignore[no-untyped-def]
    end = time.monotonic() + 120.0
    while not condition() and time.monotonic() < end:
        app.processEvents()
        time.sleep(0.01)


def _wait(app, seconds: float) -> None:  # type: ignore[no-untyped-def]
    end = time.monotonic() + seconds
    _until(app, lambda: time.monotonic() > end)


if __name__ == "__main__":
    main()

"""Start of the window, opening a 4-minute song in it (time to the waveform, longest gap of the event loop), and from the press of a recipe to its sound.

Run ``PYTHONPATH=bench python bench/window.py``; with ``--long`` it opens a three-hour WAV instead (6 GB of disk for a while).
"""

import os
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import TYPE_CHECKING

import soundfile
from msgspec.structs import replace

from latespin.demo import demo_folder, demo_session
from latespin.model.documents.documents import read_session, to_json
from songs import four_minutes

if TYPE_CHECKING:
    from PySide6.QtWidgets import QApplication

    from latespin.desktop.shell.main_window import Window

ROUNDS, VERSIONS = 5, 200
HOURS, RATE = 3, 44_100


def main() -> None:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ.pop("PYTHONDONTWRITEBYTECODE", None)  # where people work, modules are kept compiled
    for name in (
        "XDG_CACHE_HOME",
        "XDG_DATA_HOME",
        "LATESPIN_CONFIG",
    ):  # work left behind elsewhere would be offered, and wait for an answer
        os.environ[name] = tempfile.mkdtemp(prefix="late-spin-bench-")
    if "--long" in sys.argv:
        opening_hours()
    else:
        starts()
        opening()


BARE = """
from PySide6.QtWidgets import QApplication, QLabel
app = QApplication([])
label = QLabel("hello")
label.resize(1280, 800)
label.show()
app.processEvents()
"""


def starts() -> None:
    """Second starts, warm, with the demo session; and a window with one label, from start to end of the process."""
    bare = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        subprocess.run([sys.executable, "-c", BARE], check=True, capture_output=True)
        bare.append(time.perf_counter() - began)
    print(f"bare PySide6 window   {min(bare):.2f} to {max(bare):.2f} s")
    command = [str(Path(sys.executable).with_name("latespin")), "open", "--demo"]
    painted, playable = [], []
    for _ in range(ROUNDS):
        environment = {**os.environ, "LATESPIN_TIMING": "1", "LATESPIN_DEVICE": "silent"}
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment) as process:
            assert process.stdout is not None
            for times in (painted, playable):
                times.append(float(process.stdout.readline().rsplit(" ", 2)[1]))
            process.terminate()
    print(f"window painted after  {min(painted):.2f} to {max(painted):.2f} s (second start)")
    print(f"demo playable after   {min(playable):.2f} to {max(playable):.2f} s")


def empty_window() -> "tuple[QApplication, Window]":
    """A window without a song, ready for one."""
    from latespin.desktop.app import make_app
    from latespin.desktop.session.settings import Settings
    from latespin.desktop.shell.main_window import Window

    app, window = make_app(), Window(Settings())
    window.show()
    window.finish_loading()
    return app, window


def opening() -> None:
    """Opening a song while the event loop is watched."""
    app, window = empty_window()
    song = four_minutes()
    for name in ("waveform drawn (first song)", "waveform drawn (second song)"):
        before = window.document.loaded
        shutil.rmtree(os.environ["XDG_CACHE_HOME"], ignore_errors=True)
        began, longest, last = time.perf_counter(), 0.0, time.perf_counter()
        window.files.open_file(song)
        while window.document.loaded is before:
            app.processEvents()
            time.sleep(0.001)
            now = time.perf_counter()
            longest, last = max(longest, now - last), now
        app.processEvents()
        longest = max(longest, time.perf_counter() - last)
        drawn = time.perf_counter() - began
        longest_after, last, read_after = 0.0, time.perf_counter(), 0.0
        while window.document.measured() is None or window.document.is_reading:
            read_after = time.perf_counter() - began if window.document.reading is None else read_after
            app.processEvents()
            time.sleep(0.001)
            now = time.perf_counter()
            longest_after, last = max(longest_after, now - last), now
        print(
            f"{name:28} {drawn:.2f} s, longest gap {1000 * longest:.0f} ms; read after {read_after:.2f} s, measured after "
            f"{time.perf_counter() - began:.2f} s, longest gap meanwhile {1000 * longest_after:.0f} ms"
        )
    recipes_heard(app, window)
    many_versions(app, window)
    window.document.forget_changes()  # else it would ask what becomes of them
    window.close()


def recipes_heard(app: "QApplication", window: "Window") -> None:
    """From the press of each recipe of the strip to the first of its frames handed to the device."""
    from PySide6.QtCore import Qt
    from PySide6.QtTest import QTest

    player = window.play.player
    assert player is not None
    heard: dict[str, float] = {}
    for name, row in window.version_list.strip.rows.items():
        player.change_latencies.clear()
        began = time.perf_counter()
        QTest.mouseClick(row, Qt.MouseButton.LeftButton)
        while not (player.change_latencies and player.playing):
            app.processEvents()
            time.sleep(0.001)
        heard[name] = time.perf_counter() - began
        settle(app, 1.0)
    window.document.forget_changes()  # else the next session would ask what becomes of the recipes
    slowest = max(heard, key=lambda name: heard[name])
    times = sorted(heard.values())
    print(
        f"press of a recipe to sound   median {1000 * times[len(times) // 2]:.0f} ms of {len(times)}, worst {1000 * times[-1]:.0f} ms ({slowest})"
    )


def settle(app: "QApplication", seconds: float) -> None:
    """Let the window go on for a while."""
    until = time.perf_counter() + seconds
    while time.perf_counter() < until:
        app.processEvents()
        time.sleep(0.001)


def opening_hours() -> None:
    """Three hours of sound: time to the first of its waveform, until it is heard while it is being opened, and until it is open."""
    app, window = empty_window()
    song = soundfile.read(demo_folder() / "lantern-light.ogg", dtype="int16")[0]
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "hours.wav"
        with soundfile.SoundFile(path, "w", RATE, 2, "PCM_16") as file:
            while file.frames < HOURS * 3600 * RATE:
                file.write(song)
        began, first, heard = time.perf_counter(), 0.0, 0.0
        window.opening.listening.place_changed.connect(lambda seconds, _: places.append(seconds))
        places: list[float] = []
        window.files.open_file(path)
        while window.document.loaded is None:
            app.processEvents()
            time.sleep(0.01)
            first = first or (time.perf_counter() - began if window.welcome.waveform.peaks is not None else 0.0)
            if not places and window.welcome.listen.isEnabled():
                window.opening.listening.toggle()
            heard = heard or (time.perf_counter() - began if any(places) else 0.0)
        print(
            f"{HOURS}-hour WAV              drawn from {first:.2f} s on, heard from {heard:.2f} s on, open after {time.perf_counter() - began:.1f} s"
        )
    window.close()


def many_versions(app: "QApplication", window: "Window") -> None:
    """A session of 200 versions opened, and edits in it: the longest the event loop is kept."""
    session = read_session(demo_session().read_bytes(), "demo")
    assert session.track is not None
    track = replace(session.track, path=str(demo_folder() / session.track.path))
    many = tuple(
        replace(session.versions[n % len(session.versions)], id=f"v{n}", name=f"Version {n}") for n in range(VERSIONS)
    )
    path = Path(tempfile.mkdtemp(prefix="late-spin-bench-")) / "many.latespin"
    path.write_bytes(to_json(replace(session, track=track, versions=many, chosen="v0")))
    before, longest = window.document.loaded, 0.0
    window.files.open_file(path)
    while window.document.loaded is before:
        began = time.perf_counter()
        app.processEvents()
        longest = max(longest, time.perf_counter() - began)
        time.sleep(0.001)
    edits = []
    for n in range(20):
        stages = window.document.stages
        began = time.perf_counter()
        window.document.edit_stages("Speed", replace(stages, time=replace(stages.time, speed=0.8 + 0.01 * n)))
        edits.append(time.perf_counter() - began)
        app.processEvents()
    print(
        f"session of {VERSIONS} versions    longest gap {1000 * longest:.0f} ms; an edit {1000 * sorted(edits)[10]:.0f} ms"
    )


if __name__ == "__main__":
    main()

"""Start of the window, and opening a 4-minute song in it: time to the waveform, longest gap of the event loop."""

import os
import shutil
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from songs import four_minutes

ROUNDS = 5


def main() -> None:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    os.environ["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="late-spin-bench-")
    os.environ["LATESPIN_CONFIG"] = tempfile.mkdtemp(prefix="late-spin-bench-")
    starts()
    opening()


def starts() -> None:
    """Second starts, warm, with the demo session."""
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


def opening() -> None:
    """Opening a song while the event loop is watched."""
    from latespin.desktop.app import make_app
    from latespin.desktop.session.settings import Settings
    from latespin.desktop.shell.main_window import Window

    app = make_app()
    window = Window(Settings())
    window.show()
    window.finish_loading()
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
    window.close()


if __name__ == "__main__":
    main()

"""A window that is edited, saved and exported from until it is killed, and what is found afterwards."""

import json
import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import soundfile

from latespin.media.storage.autosave import left_behind
from latespin.model.documents.documents import read_session

LONGEST_LOSS_SECONDS = 5.0

BUSY = """
import json, sys, time
from pathlib import Path
from msgspec.structs import replace
from PySide6.QtCore import QTimer
from latespin.desktop.app import make_app
from latespin.desktop.session.settings import Settings
from latespin.desktop.shell.main_window import Window
from latespin.desktop.dialogs.export import ExportOrder
from latespin.desktop.controllers.publishing.export import export_task
from latespin.render.playback.null_device import SilentDevice

song, folder = Path(sys.argv[1]), Path(sys.argv[2])
app = make_app()
window = Window(Settings(), lambda player: SilentDevice(player))
window.finish_loading()
window.files.open_file(song)
count = 0

def edit():
    global count
    document = window.document
    if document.loaded is None:
        return
    count += 1
    stages = document.stages
    document.edit_stages(f"Edit {count}", replace(stages, time=replace(stages.time, semitones=round(0.01 * (count % 1000), 2))))
    if count % 7 == 0:
        document.save(folder / "work.latespin")
    if count % 5 == 0:
        order = ExportOrder(document.version, folder / f"out {count}.flac", "24", False)
        window.work.submit(export_task(document.loaded.readers, order, (), lambda: None))
    print(json.dumps([count, time.time()]), flush=True)

timer = QTimer()
timer.timeout.connect(edit)
timer.start(90)
app.exec()
"""


def kill_window(song: Path, folder: Path, rng: random.Random) -> str:
    """Edit, save and export for a random while, kill, and look; returns what is wrong, or nothing."""
    folder.mkdir()
    data = folder / "data"
    process = subprocess.Popen(
        [sys.executable, "-c", BUSY, str(song), str(folder)], stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True,
        env={**os.environ, "XDG_DATA_HOME": str(data), "QT_QPA_PLATFORM": "offscreen", "LATESPIN_DEVICE": "silent"},
    )  # fmt: skip
    assert process.stdout is not None
    edits = [json.loads(process.stdout.readline())]
    time.sleep(rng.uniform(0.2, 5.0))
    killed = time.time()
    process.send_signal(signal.SIGKILL)
    edits += [json.loads(line) for line in process.communicate()[0].splitlines() if line.endswith("]")]
    return _wrong(folder, data, edits, killed)


def _wrong(folder: Path, data: Path, edits: list[list[float]], killed: float) -> str:
    kept = [left.session for left in left_behind(data / "late-spin" / "unsaved")]
    saved = folder / "work.latespin"
    if saved.exists():
        kept.append(read_session(saved.read_bytes(), saved.name))
    semitones = {version.stages.time.semitones for session in kept for version in session.versions}
    known = [when for count, when in edits if round(0.01 * (count % 1000), 2) in semitones]
    newest = max(known, default=edits[0][1])
    if killed - newest > LONGEST_LOSS_SECONDS:
        return f"{killed - newest:.1f} s of work are lost"
    for file in folder.glob("[!.]*.flac"):
        with soundfile.SoundFile(file) as sound:
            if len(sound.read()) != sound.frames or sound.frames == 0:
                return f"{file.name} is not whole"
    return ""

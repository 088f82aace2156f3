"""Every command line that README and docs print is one that works."""

import re
import shlex
import shutil
import subprocess
from collections.abc import Callable
from pathlib import Path

import pytest
import soundfile
from mido import Message

from latespin.media.midi.midi_files import write_performance
from latespin.media.track import Track
from latespin.model.documents.documents import Session, TrackReference, to_json
from latespin.model.version import Stages, Time, Version

ROOT = Path(__file__).resolve().parents[2]
MEASURED = {"cookbook.md"}  # whose commands a test of their own runs
PAGES = (
    ROOT / "README.md",
    ROOT / "CONTRIBUTING.md",
    *sorted(p for p in (ROOT / "docs").glob("*.md") if p.name not in MEASURED),
)
BY_THEMSELVES = {"demo", "test", "build", "open", "surface"}  # they set up, or open a window
RATE = 44_100


def command_lines() -> list[tuple[str, list[str]]]:
    """The page and the words of each call of ``./late-spin`` in a block of code, without what is explained after it."""
    found = []
    for page in PAGES:
        for block in re.findall(r"```sh\n(.*?)```", page.read_text(encoding="utf-8"), re.DOTALL):
            for line in block.splitlines():
                words = shlex.split(line, comments=True)
                if words[:1] == ["./late-spin"]:
                    found.append((page.name, words[1:]))
    return found


@pytest.fixture(scope="module")
def beats(lantern: Track, tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A quick song of more than 32 bars, at half the rate and in one channel, so that every command is done soon."""
    path = tmp_path_factory.mktemp("songs") / "song.flac"
    soundfile.write(path, 0.5 * lantern.sound[0, : 84 * RATE : 3], RATE // 2)
    return path


def test_every_command_line_that_is_printed_runs(
    beats: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, here: Callable[..., subprocess.CompletedProcess[str]]
) -> None:
    (tmp_path / "songs").mkdir()
    for place in (tmp_path / "song.flac", tmp_path / "songs" / "a.flac"):
        shutil.copy(beats, place)
    version = Version(id="c", name="Closing time", stages=Stages(time=Time(speed=0.9)))
    session = Session(track=TrackReference(path="song.flac", sha256="0" * 64), versions=(version,), chosen="c")
    (tmp_path / "my.latespin").write_bytes(to_json(session))
    write_performance(
        tmp_path / "moves.mid", [(1.0, Message("note_on", note=37)), (2.0, Message("note_off", note=37))], ""
    )
    monkeypatch.chdir(tmp_path)
    lines = [(page, words) for page, words in command_lines() if words[0] not in BY_THEMSELVES]
    assert len(lines) >= 12
    for page, words in lines:
        for out in (*Path().glob("slow.*"), *Path().glob("out.*")):
            out.unlink()
        done = here(*words)
        assert done.returncode == 0, (page, words, done.stderr)
        assert "left out" not in done.stderr, (words, done.stderr)


def test_the_launcher_hands_every_word_on(tmp_path: Path) -> None:
    """Whatever latespin knows, it knows, too; set up already, it only does that."""
    shutil.copy(ROOT / "late-spin", tmp_path)
    for name in ("requirements.lock", "requirements-dev.lock", "pyproject.toml"):
        (tmp_path / name).touch()
    for folder in ("src/latespin/dsp", "src/latespin/analysis", ".venv/bin"):
        (tmp_path / folder).mkdir(parents=True)
    program = tmp_path / ".venv" / "bin" / "latespin"
    program.write_text('#!/bin/sh\nprintf "<%s>" "$@"\n')
    program.chmod(0o755)
    for stamp in (".set-up-requirements.lock", ".kernels"):
        (tmp_path / ".venv" / stamp).touch()

    def launched(*words: str) -> str:
        return subprocess.run([tmp_path / "late-spin", *words], capture_output=True, text=True, check=True).stdout

    assert launched("set", "my songs/", "--recipe", "slowed-reverb") == "<set><my songs/><--recipe><slowed-reverb>"
    assert launched("anything", "") == "<anything><>"
    assert launched().endswith("<--help>")

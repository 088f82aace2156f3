"""A short, always equal slice of the torture (tools/torture), and whether the torture would notice."""

import itertools
import random
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from tools.torture import reading
from tools.torture.commands import _wrong, cases
from tools.torture.files import Case, make_cases, torture_files
from tools.torture.kills import kill_render, made_up_song
from tools.torture.minimal import minimal
from tools.torture.mutations import spoilt
from tools.torture.places import on_a_disk, slow_disk, two_renders

RATE = 44_100
Run = Callable[..., subprocess.CompletedProcess[str]]


def test_spoilt_files_are_opened_or_refused_in_a_sentence(tmp_path: Path) -> None:
    """Twelve and more kinds of container, sessions, recipes, lists, ears and responses, and all that was crafted to do harm."""
    (tmp_path / "samples").mkdir()
    spoiled = make_cases(tmp_path / "samples", 300, 20_261_127)
    result = torture_files(spoiled, tmp_path, tmp_path / "kept", processes=1)
    assert result.wrong == []
    assert result.counts["opened"] + result.counts["refused"] == len(spoiled)
    assert min(result.counts["opened"], result.counts["refused"]) > 80, "neither all good nor all broken"


@given(st.binary(max_size=400), st.integers(0, 10**9))
def test_the_same_seed_spoils_in_the_same_way(data: bytes, seed: int) -> None:
    assert spoilt(data, seed) == spoilt(data, seed)
    assert any(spoilt(data, seed + n) != data for n in range(12))


@given(st.binary(max_size=200), st.binary(min_size=1, max_size=4), st.integers(0, 200))
def test_the_least_that_is_wrong_is_found(data: bytes, culprit: bytes, at: int) -> None:
    made = minimal(data[:at] + culprit + data[at:], lambda trial: culprit in trial, 5_000)
    assert made == culprit
    assert culprit in minimal(data[:at] + culprit + data[at:], lambda trial: culprit in trial, 3), (
        "few tries give more, never less"
    )


def test_what_is_wrong_is_noticed_and_a_reproducer_kept(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A reader that lets NaN pass, one that says nothing useful, one that dies and one that hangs."""
    song = made_up_song(tmp_path / "song.flac", 0.1)
    monkeypatch.setattr(reading, "open_track", lambda _: type("T", (), {"sound": np.array([[np.nan]])}))
    with pytest.raises(reading.Broken, match="NaN"):
        reading.read(song)
    monkeypatch.setattr(reading, "open_track", lambda _: (_ for _ in ()).throw(reading.LateSpinError("two\nlines")))
    with pytest.raises(reading.Broken, match="no sentence"):
        reading.read(song)
    monkeypatch.undo()
    monkeypatch.setattr("tools.torture.files.SLOWEST_SECONDS", 0.2)
    monkeypatch.setattr("tools.torture.files.TRIES", 0)
    monkeypatch.setattr("tools.torture.files.DELIBERATELY", True)
    for name, words in (("dies.wav", "crashed"), ("hangs.wav", "hung")):
        (tmp_path / name).write_bytes(song.read_bytes())
        result = torture_files([Case(tmp_path / name, -1)], tmp_path, tmp_path / "kept", processes=1)
        assert words in result.wrong[0][2]
        assert (tmp_path / "kept" / f"-1 {name}").read_bytes() == song.read_bytes()
        assert (tmp_path / "kept" / f"minimal -1 {name}").exists()


def test_extremes_on_the_command_line_are_done_or_refused(tmp_path: Path, here: Run) -> None:
    song = tmp_path / "song.wav"
    soundfile.write(song, 0.1 * np.random.default_rng(1).standard_normal((RATE // 2, 2)), RATE)
    before = song.read_bytes()
    for words in itertools.islice(cases(song, tmp_path, 5), 36):
        done = here(*words)
        assert not _wrong(words, done.returncode, done.stderr), words
        assert song.read_bytes() == before


def test_a_killed_render_leaves_nothing_half_done(tmp_path: Path) -> None:
    assert kill_render(tmp_path, random.Random(3)) == ""


def test_two_processes_and_a_slow_disk(tmp_path: Path) -> None:
    for check in (two_renders, slow_disk):
        place = tmp_path / check.__name__
        place.mkdir()
        assert check(place) == ""


@pytest.mark.skipif(
    sys.platform != "linux"
    or subprocess.run(["unshare", "-rm", "true"], check=False, capture_output=True).returncode != 0,
    reason="a disk of its own needs a user namespace",
)
@pytest.mark.parametrize("kind", ["full", "read-only"])
def test_disks_with_no_room(tmp_path: Path, kind: str) -> None:
    assert on_a_disk(tmp_path, kind, ".wav") == ""

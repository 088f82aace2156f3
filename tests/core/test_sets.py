"""Sets: names, plans, workers that die or are stopped, going on after a kill, tags and reports that agree with what is in the files."""

import csv
import dataclasses
import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import msgspec
import mutagen
import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import amplitude, decibels
from latespin.errors import Unusable
from latespin.jobs import Quietly, Work, step
from latespin.language import Language, localised, tr
from latespin.media.track import file_hash, open_track
from latespin.model.effects.effects import Eq
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.file_names import FIELDS, LONGEST_BYTES, check_pattern, named
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.batch import run as setrun
from latespin.render.batch.jobs import Job
from latespin.render.batch.journal import NAME, Journal
from latespin.render.batch.local_workers import LocalWorkers
from latespin.render.batch.plan import Choice, is_there, plan_set, refuse_conflicts
from latespin.render.batch.run import BatchJobInput, BatchRun, going_on, look_at, make, songs_in
from latespin.render.batch.worker_pool import run_jobs
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.codec_headroom import Decoded, quieter, spared_there
from latespin.render.export.export import export
from latespin.render.mastering.level import CodecHeadroom, LevelPlan
from tests.conftest import noise, track_of

RATE = 22_050
Run = Callable[..., subprocess.CompletedProcess[str]]
SLOW = Choice("slow", Stages(time=Time(speed=0.8)))
QUICK = Choice("quick", Stages(time=Time(speed=1.25), level=Level(target_lufs=-20.0)))


def song(path: Path, seed: int = 1, seconds: float = 4.0) -> Path:
    """A short song with a title."""
    soundfile.write(path, noise(seconds, RATE, level=0.1, seed=seed).T, RATE)
    file = mutagen.File(path)
    if file.tags is None:
        file.add_tags()
    file["title"], file["artist"] = f"Lap {seed}", "The Wheelmen"
    file.save()
    return path


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Three songs."""
    place = tmp_path / "songs"
    place.mkdir()
    for n in (1, 2, 3):
        song(place / f"{n}.flac", n)
    return place


# -- names -------------------------------------------------------------------------------------------------------------


@given(values=st.dictionaries(st.sampled_from(sorted(FIELDS)), st.text(max_size=300)), pattern=st.sampled_from(
    ["{title} ({version})", "{artist}/{title} [{key}] – {bpm}", "{number} {song}", "x{title}{artist}"]
))  # fmt: skip
def test_any_name_stays_in_its_folder_and_on_every_system(values: dict[str, str], pattern: str) -> None:
    try:
        path = named(pattern, values)
    except Unusable:  # all of a part's fields were empty
        assert any(
            not named("x" + field, values).name.removeprefix("x").strip("_")
            for field in ["{title}", "{artist}", "{version}", "{song}", "{number}"]
        )
        return
    assert len(path.parts) == pattern.count("/") + 1
    for part in path.parts:
        assert part.strip(" .") == part
        assert part not in ("", ".", "..")
        assert len(part.encode()) <= LONGEST_BYTES
        assert not set('<>:"/\\|?*\0\n') & set(part)


def test_names_say_what_they_are_and_leave_out_what_is_not_known() -> None:
    assert str(named("{artist} - {title} ({version})", {"title": "Lap 1", "version": "slow"})) == "Lap 1 (slow)"
    assert (
        str(named("{title} ({bpm} BPM) [{key}]", {"title": "AC/DC: live?", "bpm": "92.0"})) == "AC_DC_ live_ (92.0 BPM)"
    )
    assert str(named("{title}", {"title": "CON"})) == "CON_"


@pytest.mark.parametrize(
    ("pattern", "says"),
    [("", "empty"), ("  ", "empty"), ("{mood}", "no field {mood}"), ("../{title}", "out of its folder"), ("/tmp/{title}", "out of its"),
     ("a//b", "out of its"), ("{title", "brace"), ("~/{title}", "out of its"), ("..\\{title}", "out of its")],
)  # fmt: skip
def test_patterns_that_cannot_do_are_refused(pattern: str, says: str) -> None:
    with pytest.raises(Unusable, match=says.replace("{", r"\{")):
        check_pattern(pattern)


# -- workers -----------------------------------------------------------------------------------------------------------


GERMAN = Language("de", ",")


def double(value: int, work: Work) -> int:
    """A job that does what it should."""
    step(work, 0.5)
    return 2 * value


def die(_: int, __: Work) -> None:
    """A job whose process ends."""
    os.kill(os.getpid(), signal.SIGKILL)


def die_once(marker: str, _: Work) -> str:
    """A job whose process ends the first time."""
    if not Path(marker).exists():
        Path(marker).touch()
        os.kill(os.getpid(), signal.SIGKILL)
    return "second time"


def refuse(value: int, _: Work) -> None:
    """A job that finds something wrong, and says so in the language of whoever asked for it."""
    raise Unusable(f"{tr('Whole song')}: {localised(f'{value}.5')} will not do.")


def endless(_: int, work: Work) -> None:
    """A job that goes on until it is stopped."""
    while True:
        step(work, 0.1)
        time.sleep(0.01)


def test_one_failure_or_death_does_not_stop_the_rest(tmp_path: Path) -> None:
    jobs = [
        Job(double, 4),
        Job(die, 0),
        Job(refuse, 7, language=GERMAN),
        Job(die_once, str(tmp_path / "marker")),
        Job(double, 5),
        Job(endless, 0),
        Job(refuse, 8),
    ]

    def stop_the_endless(job: Job) -> None:
        if job is jobs[5] and job.fraction > 0.0:
            job.cancel()

    run_jobs(jobs, LocalWorkers(2), stop_the_endless)
    assert [job.state for job in jobs] == ["done", "failed", "failed", "done", "done", "cancelled", "failed"]
    assert [job.result for job in jobs] == [8, None, None, "second time", 10, None, None]
    assert "crashed twice" in jobs[1].message
    assert jobs[2].message == "Ganzer Song: 7,5 will not do."
    assert jobs[6].message == "Whole song: 8.5 will not do."


# -- plans and runs ----------------------------------------------------------------------------------------------------


def test_a_plan_tells_lengths_and_what_stands_in_the_way(folder: Path, tmp_path: Path) -> None:
    songs = [look_at(str(path), Quietly()) for path in songs_in([folder, folder / "1.flac"])]
    assert len(songs) == 3
    orders = plan_set(songs, [SLOW, QUICK], tmp_path, "{title} {version}", ".flac")
    assert [Path(o.target).name for o in orders[:2]] == ["Lap 1 slow.flac", "Lap 1 quick.flac"]
    assert orders[0].seconds == pytest.approx(5.0, abs=0.001)
    assert orders[1].target_lufs == -20.0
    assert not any(o.conflict for o in orders)
    same = plan_set(songs, [SLOW, QUICK], tmp_path, "{title}", ".flac")
    assert all("same name" in o.conflict for o in same)
    with pytest.raises(Unusable, match=r"6 of 6 files cannot be written.*nothing was begun.*3 more"):
        refuse_conflicts(same)
    onto = plan_set(songs[:1], [SLOW], folder, "{song}", ".flac", overwrite=True)
    assert "never changed" in onto[0].conflict
    (tmp_path / "Lap 1 slow.flac").touch()
    assert "there already" in plan_set(songs, [SLOW], tmp_path, "{title} {version}", ".flac")[0].conflict
    assert not plan_set(songs, [SLOW], tmp_path, "{title} {version}", ".flac", overwrite=True)[0].conflict


def latespin_set(*arguments: object) -> subprocess.Popen[str]:
    """The command line in a process of its own."""
    return subprocess.Popen(
        [sys.executable, "-m", "latespin", "set", *map(str, arguments)], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    )  # fmt: skip


def test_a_folder_in_versions_out_and_a_report_that_is_true(folder: Path, tmp_path: Path, here: Run) -> None:
    """One song of the folder cannot be read, which is said and stops nothing."""
    (folder / "broken.mp3").write_bytes(b"no song")
    out = tmp_path / "out"
    running = latespin_set(
        folder,
        "--recipe",
        "sped-up",
        "--recipe",
        "small-speaker",
        "--out",
        out,
        "--jobs",
        2,
        "--credit",
        "By leave of Rink",
        "--json",
    )
    said, complained = running.communicate(timeout=240)
    assert running.returncode == 1
    assert "broken.mp3" in complained
    rows = json.loads(said)["files"]
    assert [row["state"] for row in rows] == ["failed"] + 6 * ["done"]
    assert rows == msgspec.json.decode((out / "set-report.json").read_bytes())["files"]
    table = list(csv.DictReader((out / "set-report.csv").read_text(encoding="utf-8-sig").splitlines()))
    assert [line["file"] for line in table[1:]] == [row["file"] for row in rows[1:]]
    for row in rows[1:]:
        track = open_track(Path(row["file"]))
        facts = facts_of(track.sound, track.rate)
        assert facts.loudness.integrated_lufs == pytest.approx(row["integrated_lufs"], abs=0.01)
        assert facts.true_peak_dbtp == pytest.approx(row["true_peak_dbtp"], abs=0.01)
        assert facts.true_peak_dbtp <= row["ceiling_dbtp"] + 0.05
        assert track.frames == row["frames"]
        assert row["sha256"] == file_hash(Path(row["file"]))
        assert mutagen.File(row["file"])["credits"] == ["By leave of Rink"]
    assert not (out / NAME).exists()
    again = here("set", folder / "1.flac", "--recipe", "sped-up", "--out", out)
    assert "nothing was begun" in again.stderr
    assert again.returncode == 2


def test_a_set_goes_on_where_it_was_killed(folder: Path, tmp_path: Path) -> None:
    """No half-written file carries a final name, and what was finished is not made again."""
    out = tmp_path / "out"
    arguments = (folder, "--recipe", "sped-up", "--out", out, "--jobs", 1, "--json")
    running = latespin_set(*arguments)
    deadline = time.monotonic() + 120
    while not (out / NAME).exists() and time.monotonic() < deadline:
        time.sleep(0.02)
    running.kill()
    running.communicate()
    finished = {path: path.stat().st_mtime_ns for path in out.glob("*.flac") if not path.name.startswith(".")}
    for path in finished:
        assert soundfile.info(path).frames > 0
    gain_history = len((out / NAME).read_bytes().splitlines())
    assert gain_history >= 1
    said, _ = latespin_set(*arguments).communicate(timeout=240)
    states = [row["state"] for row in json.loads(said)["files"]]
    assert states.count("kept") >= gain_history
    assert set(states) == {"kept", "done"}
    kept = [Path(row["file"]) for row in json.loads(said)["files"] if row["state"] == "kept"]
    assert all(path.stat().st_mtime_ns == finished[path] for path in kept)
    assert not list(out.glob(".*.flac"))


def test_a_file_is_noted_before_it_has_its_name(folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """So that a kill between the two leaves a note that counts for nothing, and never a finished file that nobody knows of."""
    song = look_at(str(folder / "1.flac"), Quietly())
    (order,) = plan_set([song], [SLOW], tmp_path, "{title}", ".wav")
    there = []
    real = setrun.note
    monkeypatch.setattr(setrun, "note", lambda *args: (there.append(Path(order.target).exists()), real(*args)))
    outcome = make(BatchJobInput(order, song, str(tmp_path), False, ""), Quietly())
    assert there == [False]
    assert Journal(tmp_path).outcome(order) == outcome
    assert going_on([replace(order, conflict=is_there())], tmp_path)[0].conflict == ""
    Path(order.target).write_bytes(b"another")
    assert Journal(tmp_path).outcome(order) is None
    Path(order.target).unlink()
    assert Journal(tmp_path).outcome(order) is None


def test_a_file_whose_worker_was_interrupted_as_it_got_its_name_is_written_all_the_same(
    folder: Path, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """What was not said any more stands in the journal: the report is true, and the set goes on after it."""
    songs = [look_at(str(path), Quietly()) for path in songs_in([folder / "1.flac"])]
    orders = plan_set(
        songs,
        [SLOW, Choice("slower", Stages(time=Time(speed=0.7)))],
        tmp_path,
        "{title} {version}",
        ".wav",
    )

    def interrupted(jobs: list[Job], *_: object) -> None:
        jobs[0].function(jobs[0].argument, Quietly())
        jobs[0].state = jobs[1].state = "running"
        raise KeyboardInterrupt

    monkeypatch.setattr(setrun, "run_jobs", interrupted)
    run = BatchRun(orders, songs, tmp_path)
    with pytest.raises(KeyboardInterrupt):
        run.run(LocalWorkers(1))
    assert [line.state for line in run.lines()] == ["done", "cancelled"]
    assert run.lines()[0].outcome.frames == soundfile.info(orders[0].target).frames
    assert not Path(orders[1].target).exists()


def test_a_failed_file_can_be_tried_again(folder: Path, tmp_path: Path) -> None:
    songs = [look_at(str(path), Quietly()) for path in songs_in([folder / "1.flac"])]
    orders = plan_set(songs, [SLOW], tmp_path, "{title}", ".wav")
    run = BatchRun(orders, songs, tmp_path)
    blocker = tmp_path / "Lap 1.wav"
    blocker.mkdir()
    run.run(LocalWorkers(1))
    assert run.jobs[0].state == "failed"
    assert "is a folder" in run.jobs[0].message
    blocker.rmdir()
    run.retry(run.jobs[0])
    run.run(LocalWorkers(1))
    assert [line.state for line in run.lines()] == ["done"]
    assert soundfile.info(blocker).frames == orders[0].seconds * RATE


# -- single files: lossy formats and tags --------------------------------------------------------------------------------


@pytest.mark.parametrize("suffix", [".mp3", ".m4a", ".ogg", ".opus"])
def test_a_lossy_file_holds_its_level_once_decoded(suffix: str, tmp_path: Path) -> None:
    sound = noise(8.0, 44_100, level=0.2) * (1.0 + 2.0 * (np.arange(8 * 44_100) % 9_000 < 40)).astype(np.float32)
    stages = Stages(
        colour=Colour(effects=(Eq(id="e", high_cut_hz=12_000.0),)), level=Level(target_lufs=-14.0, allowance_db=9.0)
    )
    result = export(TrackRenderer(track_of(sound)), stages, tmp_path / f"a{suffix}", Quietly())
    decoded = open_track(result.target)
    facts = facts_of(decoded.sound, decoded.rate)
    assert facts.true_peak_dbtp <= -1.0 + 0.05
    assert facts.loudness.integrated_lufs == pytest.approx(-14.0, abs=0.1)
    assert result.facts.true_peak_dbtp == facts.true_peak_dbtp


def test_peaks_of_a_format_lower_the_ceiling_where_they_are_and_then_the_whole() -> None:
    over = np.ones(100)
    over[40] = amplitude(1.0)
    sound = noise(1.0)
    decoded = Decoded(dataclasses.replace(facts_of(sound, RATE), true_peak_dbtp=0.0), over)
    spare = spared_there(spared_there(CodecHeadroom(0.8), decoded, 0), decoded, 1)
    lowered = 20.0 * np.log10(spare.lowered)
    assert np.flatnonzero(lowered < -1.0).tolist() == [38, 39, 40, 41, 42]
    assert lowered[40] == pytest.approx(-(1.3 + 0.1) - (2.0 + 0.1))
    assert spare.headroom_db == pytest.approx(1.0)
    plan = quieter(LevelPlan(4.0, amplitude(-1.0)), decoded, Level())
    assert plan.gain_db == pytest.approx(3.0, abs=0.05)
    assert decibels(plan.ceiling) == pytest.approx(-2.0, abs=0.05)
    assert "LUFS" in plan.note


@pytest.mark.parametrize("suffix", [".flac", ".mp3", ".opus", ".wav"])
def test_tags_say_what_is_known_and_nothing_else(suffix: str, folder: Path, tmp_path: Path) -> None:
    track = open_track(folder / "1.flac")
    readers = TrackRenderer(track, Grid(bpm=100.0))
    stages = replace(SLOW.stages, level=Level(target_lufs=-20.0))
    result = export(readers, stages, tmp_path / f"v{suffix}", Quietly(), credit="By leave of the Wheelmen")
    file = mutagen.File(result.target)

    def tag(name: str, frame: str) -> Any:
        found = file.get(name) if suffix in (".flac", ".opus") else file.get(frame)
        return None if found is None else str(found[0] if suffix in (".flac", ".opus") else found.text[0])

    assert tag("title", "TIT2") == "Lap 1 (slowed)"
    assert tag("artist", "TPE1") == "The Wheelmen"
    assert tag("bpm", "TBPM") == "80"
    assert tag("version_of", "TXXX:VERSION_OF") == "Lap 1 – The Wheelmen"
    assert tag("credits", "TXXX:CREDITS") == "By leave of the Wheelmen"
    assert tag("initialkey", "TKEY") is None
    assert tag("album", "TALB") is None
    gain = -20.0 - result.facts.loudness.integrated_lufs
    assert abs(gain) < 0.1
    if suffix == ".opus":
        assert int(str(tag("r128_track_gain", ""))) == round((-23.0 - result.facts.loudness.integrated_lufs) * 256)
        assert tag("replaygain_track_gain", "") is None
    else:
        assert float(
            str(tag("replaygain_track_gain", "TXXX:REPLAYGAIN_TRACK_GAIN")).removesuffix(" dB")
        ) == pytest.approx(2.0, abs=0.05)

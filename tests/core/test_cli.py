"""The command line as it is used: a process, its output, its exit code, and the files it leaves."""

import json
import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
import soundfile

from latespin.demo import demo_folder
from latespin.media.exchange.marker_files import write_marks
from latespin.media.track import Track, open_track
from latespin.model.documents.documents import Recipe, to_json
from latespin.model.effects.effects import Gain
from latespin.model.values.kinds import kind_of
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.recipes import find_recipe, load_recipes
from tests.conftest import cents, frequency, level_db, noise, sine
from tests.core.conftest import INTERRUPTIBLE, facts, latespin

SONG = demo_folder() / "slow-door-blue-floor.ogg"
RATE = 44_100
Run = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture
def tone(tmp_path: Path) -> Path:
    """A tone of 1 kHz, three seconds."""
    path = tmp_path / "tone.wav"
    soundfile.write(path, sine(1000, 3.0, level=0.25).T, RATE, subtype="FLOAT")
    return path


def test_inspect_prints_the_facts_of_a_whole_song(here: Run) -> None:
    found = facts(here("inspect", SONG, "--json"))
    assert found["sample_rate"] == RATE
    assert found["channels"] == 2
    assert found["frames"] == pytest.approx(found["duration_s"] * RATE)
    assert found["integrated_lufs"] == pytest.approx(-10.0, abs=0.3)
    assert found["max_momentary_lufs"] > found["max_short_term_lufs"] > found["integrated_lufs"]
    assert found["bpm"] == pytest.approx(68.0, rel=1e-4)
    assert (found["metre"], found["key"], found["steady"]) == (3, "D major", True)
    assert 0.5 < found["bpm_confidence"] <= 1.0
    assert 0.5 < found["key_confidence"] <= 1.0
    assert 0.5 < found["beats_confidence"] <= found["bpm_confidence"] + 0.001
    for other in found["other_beats"]:
        assert sorted(other) == ["bpm", "confidence", "metre"]
        assert other["confidence"] < found["beats_confidence"]
    assert np.diff(found["beats"]) == pytest.approx(60 / 68, rel=1e-4)
    assert set(found["downbeats"]) == set(found["beats"][0::3])
    assert abs(found["tuning_cents"]) < 3.0
    assert {*map(tuple, map(sorted, found["sections"]))} == {("end", "energy", "kind", "label", "start")}
    assert (found["sections"][0]["kind"], found["sections"][-1]["kind"]) == ("intro", "outro")
    assert [held["bpm"] for held in found["tempi"]] == pytest.approx([68.0], rel=1e-3)
    assert found["swing"] is None
    assert found["sections"][0]["start"] == 0.0
    assert found["sections"][-1]["end"] == pytest.approx(found["duration_s"], abs=0.01)
    assert found["title"] == "Slow Door, Blue Floor"
    lines = dict(line.split(maxsplit=1) for line in here("inspect", SONG).stdout.splitlines())
    assert float(lines["bpm"]) == pytest.approx(68.0, rel=1e-4)
    assert lines["other_beats"].count("BPM") == len(found["other_beats"])
    assert lines["sections"].split(", ")[0] == "intro A 0:00"
    assert lines["tempi"] == "68.0 BPM 0:00"


def test_inspect_gives_null_for_what_is_not_defined(here: Run, tmp_path: Path) -> None:
    soundfile.write(tmp_path / "silence.wav", np.zeros((RATE, 2)), RATE)
    found = facts(here("inspect", tmp_path / "silence.wav", "--json"))
    undefined = (
        "integrated_lufs",
        "true_peak_dbtp",
        "max_momentary_lufs",
        "max_short_term_lufs",
        "bpm",
        "key",
        "metre",
    )
    assert [name for name in undefined if found[name] is not None] == []


@pytest.mark.parametrize(
    ("options", "hz", "length"),
    [(["--speed", 0.8], 800, 3.75), (["--speed", 0.8, "--hold-pitch"], 1000, 3.75), (["--semitones", 2], 1122.462, 3.0),
     (["--speed", 1.25, "--semitones", -3.8631371], 1000, 2.4)],
)  # fmt: skip
def test_render_changes_time_and_pitch_and_nothing_else(
    here: Run, tone: Path, options: list, hz: float, length: float
) -> None:
    out = tone.with_name("out.wav")
    said = facts(here("render", tone, out, *options, "--json"))
    sound, rate = soundfile.read(out, dtype="float32", always_2d=True)
    assert said["frames"] == len(sound) == round(length * RATE)
    assert said["gain_db"] == said["limiter_max_reduction_db"] == 0.0
    stretched = hz / 1000 != 1 / (length / 3)
    assert abs(cents(frequency(sound.T, rate, hz), hz)) < (1.0 if stretched else 0.01)
    assert np.abs(sound[RATE:-RATE]).max() == pytest.approx(0.25, abs=0.01)


def test_with_no_options_a_song_comes_out_bit_for_bit(tmp_path: Path) -> None:
    loud = 1.7 * noise(1.0, level=0.6)
    soundfile.write(tmp_path / "loud.wav", loud.T, RATE, subtype="FLOAT")
    facts(latespin("render", tmp_path / "loud.wav", tmp_path / "same.wav", "--loudness", "off", "--json"))
    assert np.array_equal(soundfile.read(tmp_path / "same.wav", dtype="float32")[0].T, loud)


def test_a_recipe_gives_a_slow_song_in_a_hall_at_its_loudness(here: Run, tmp_path: Path) -> None:
    out = tmp_path / "slow.flac"
    said = facts(
        here("render", SONG, out, "--recipe", "slowed-reverb", "--loudness", "-16", "--ceiling", "-2", "--json")
    )
    measured = facts(here("inspect", out, "--json"))
    assert measured["integrated_lufs"] == pytest.approx(-16.0, abs=0.1)
    assert measured["true_peak_dbtp"] <= -1.95
    assert measured["frames"] == said["frames"]
    assert said["length_s"] > soundfile.info(SONG).duration / 0.85 + 3.0, "the tail is there"
    assert measured["title"] == "Slow Door, Blue Floor (slowed + reverb)"
    assert list(tmp_path.iterdir()) == [out]


def test_a_recipe_from_a_file_and_options_on_top(here: Run, tone: Path) -> None:
    recipe = tone.with_name("mine.json")
    recipe.write_bytes(to_json(Recipe(name="mine", title="Mine", stages=Stages(time=Time(speed=0.5)))))
    said = facts(here("render", tone, tone.with_name("o.wav"), "--recipe", recipe, "--loudness", "off", "--json"))
    assert said["frames"] == 6 * RATE
    said = facts(
        here(
            "render", tone, tone.with_name("o2.wav"), "--recipe", recipe, "--speed", "2", "--loudness", "-20", "--json"
        )
    )
    assert said["frames"] == round(1.5 * RATE)
    assert said["integrated_lufs"] == pytest.approx(-20, abs=0.1)


def test_ranges_of_a_marker_file_are_covered(here: Run, tone: Path) -> None:
    """Bit for bit the song elsewhere; positions are named as left out, and a file of nothing else is refused."""
    words = tone.with_name("words.csv")
    words.write_text("label,start_seconds,end_seconds\noh no,1.0,1.5\nhere,2.0,\nthat,2.25,2.5\n", encoding="utf-8")
    song, heard = soundfile.read(tone, dtype="float32")[0], {}
    for way in ("silence", "reverse"):
        out = tone.with_name(f"{way}.wav")
        said = here("render", tone, out, "--cover", words, "--cover-by", way, "--loudness", "off")
        assert said.returncode == 0, said.stderr
        assert "1 of 3 markers in words.csv have no end" in said.stderr
        heard[way] = soundfile.read(out, dtype="float32")[0]
        for first, last in ((0.0, 1.0), (1.5, 2.25), (2.5, 3.0)):
            there = slice(round(first * RATE), round(last * RATE))
            assert np.array_equal(heard[way][there], song[there])
    inside = slice(round(1.02 * RATE), round(1.48 * RATE))
    assert not heard["silence"][inside].any()
    assert np.abs(heard["reverse"][inside] - song[inside]).max() > 0.1
    assert level_db(heard["reverse"][inside].T) == pytest.approx(level_db(song[inside].T), abs=0.1)
    marked = tone.with_name("marked.wav")
    write_marks([("oh no", 1.0, 1.5)], marked, open_track(tone), overwrite=False, sources=())
    kept = marked.read_bytes()
    refused = here("render", tone, marked, "--cover", marked, "--overwrite")
    assert refused.returncode == 2
    assert marked.read_bytes() == kept, "the markers belong to what the version is made from"
    words.write_text("label,start_seconds,end_seconds\nhere,2.0,\n", encoding="utf-8")
    refused = here("render", tone, tone.with_name("no.wav"), "--cover", words)
    assert refused.returncode == 2
    assert "marks positions only" in refused.stderr


def test_recipes_are_laid_over_one_another(here: Run, tone: Path, tmp_path: Path) -> None:
    """The speed of one and the effects of both; the order of effects is that of the recipes; options come on top."""
    gain = Recipe(
        name="quiet", title="Quiet", stages=Stages(colour=Colour(effects=(Gain(id="g", gain_db=-6.0),)), level=Level())
    )
    half = Recipe(
        name="half",
        title="Half",
        stages=Stages(time=Time(speed=0.5), colour=Colour(effects=(Gain(id="g", gain_db=-4.0),))),
    )
    for recipe in (gain, half):
        (tmp_path / f"{recipe.name}.json").write_bytes(to_json(recipe))
    both = ["--recipe", tmp_path / "quiet.json", "--recipe", tmp_path / "half.json"]
    out = tmp_path / "both.wav"
    said = facts(here("render", tone, out, *both, "--loudness", "off", "--json"))
    assert said["frames"] == 6 * RATE
    heard = soundfile.read(out, dtype="float32")[0][RATE : 5 * RATE]
    assert level_db(heard.T) == pytest.approx(level_db(soundfile.read(tone, dtype="float32")[0].T) - 10.0, abs=0.05)
    assert facts(here("render", tone, tmp_path / "o.wav", *both, "--speed", "2", "--json"))["frames"] == round(
        1.5 * RATE
    )
    whole, _ = load_recipes(["sped-up", "echo-ending", "underwater"])
    alone = {name: find_recipe(name).stages for name in ("sped-up", "echo-ending", "underwater")}
    assert whole.stages.ending == alone["echo-ending"].ending
    kinds = [kind_of(effect) for name in alone for effect in alone[name].colour.heard]
    assert [kind_of(effect) for effect in whole.stages.colour.effects] == kinds
    assert len({effect.id for effect in whole.stages.colour.effects}) == len(kinds)


def test_a_length_is_reached_to_the_frame(here: Run, tone: Path) -> None:
    out = tone.with_name("fit.wav")
    assert facts(here("render", tone, out, "--length", "0:04.321", "--hold-pitch", "--json"))["frames"] == round(
        4.321 * RATE
    )
    for words, hint in (
        (["--length", "1:00"], "0:00.8 to 0:12.0"),
        (["--length", "soon"], "1:30"),
        (["--length", "4", "--speed", "1"], "one of them"),
    ):
        done = here("render", tone, out, *words, "--overwrite")
        assert done.returncode == 2
        assert hint in done.stderr


def test_recipes_are_listed() -> None:
    assert {r["name"] for r in json.loads(latespin("recipes", "--json").stdout)} >= {"slowed-reverb", "sped-up"}
    assert "slowed-reverb" in latespin("recipes").stdout


def wrong_calls(folder: Path, tone: Path) -> list[tuple[list[object], str]]:
    """Calls that are wrong, and a word that the one line on stderr must hold."""
    (folder / "text.wav").write_text("no song")
    (folder / "text.mp3").write_text("no song either, but a long text, " * 99)
    (folder / "there.wav").write_bytes(b"kept")
    (folder / "bad.json").write_text(
        '{"format": "late-spin recipe", "format_version": 1, "name": "x", "title": "x", "stages": {"time": {"speed": 44}}}'
    )
    return [
        (["inspect", folder / "none.wav"], "none.wav"),
        (["inspect", folder / "text.wav"], "text.wav"),
        (["inspect", folder], "folder"),
        (["inspect", folder / "text.mp3"], "text.mp3 is not a sound"),
        (["render", tone, folder / "there.wav"], "already exists"),
        (["render", tone, tone, "--overwrite"], "never changed"),
        (["render", tone, folder / "no" / "out.wav"], "does not exist"),
        (["render", tone, folder / "out.xyz"], "ending"),
        (["render", tone, folder / "out.wav", "--speed", "9"], "--speed"),
        (["render", tone, folder / "out.wav", "--speed", "quick"], "--speed"),
        (["render", tone, folder / "out.wav", "--loudness", "loud"], "--loudness"),
        (["render", tone, folder / "out.wav", "--loudness", "3"], "off"),
        (["render", tone, folder / "out.wav", "--recipe", "none"], "slowed-reverb"),
        (["render", tone, folder / "out.wav", "--recipe", folder / "bad.json"], "stages.time: speed is 44"),
        (["render", tone, folder / "out.flac", "--depth", "float"], "cannot hold"),
        (["render", tone], "OUT"),
        (["dance"], "dance"),
    ]


def test_what_is_wrong_is_said_in_one_line_with_exit_code_2(tmp_path: Path, tone: Path, here: Run) -> None:
    before = {p: p.read_bytes() for p in tmp_path.iterdir()}
    for i, (words, hint) in enumerate(wrong_calls(tmp_path, tone)):
        done = (here if i else latespin)(*words)
        assert done.returncode == 2, words
        assert hint in done.stderr, words
        assert done.stderr.count("\n") == 1, done.stderr
        assert "Traceback" not in done.stderr
    assert (tmp_path / "there.wav").read_bytes() == b"kept"
    assert not (tmp_path / "out.wav").exists()
    assert before.items() <= {p: p.read_bytes() for p in tmp_path.iterdir()}.items()


def test_an_interrupted_render_leaves_nothing(tmp_path: Path) -> None:
    song = tmp_path / "long.wav"
    soundfile.write(song, np.tile(noise(10), 6).T, RATE)
    out = tmp_path / "out"
    out.mkdir()
    process = subprocess.Popen(
        [*INTERRUPTIBLE, sys.executable, "-m", "latespin", "render", str(song), str(out / "long.mp3"), "--speed", "0.5", "--hold-pitch"],
        stderr=subprocess.PIPE, text=True, env={**os.environ, "PYTHONUNBUFFERED": "1"},
    )  # fmt: skip
    deadline = time.monotonic() + 60
    while not list(out.iterdir()) and process.poll() is None and time.monotonic() < deadline:
        time.sleep(0.02)
    process.send_signal(signal.SIGTERM)
    _, said = process.communicate(timeout=30)
    assert process.returncode == 130
    assert not list(out.iterdir())
    assert "Interrupted" in said


@pytest.mark.parametrize(
    ("options", "seconds", "hz"),
    [
        (["--bpm", "90", "--source-bpm", "120", "--hold-pitch", "--character", "voice"], 4.0, 1000.0),
        (["--speed-curve", "0=0.5,1=0.5", "--hold-pitch", "--semitones", "2"], 6.0, 1000.0 * 2 ** (2 / 12)),
        (["--speed-curve", "0=0.9,0.4=1.0,1=1.15", "--length", "0:04.5"], 4.5, None),
        (["--halftime", "song", "--octave-down"], 6.0, 500.0),
        (["--halftime", "2bar", "--source-bpm", "120", "--first-beat", "0.1"], 3.0, None),
        (["--speed", "0.1", "--hold-pitch", "--character", "smear"], 30.0, 1000.0),
        (["--semitones", "-3", "--hold-pitch", "--keep-formants", "--formants", "1"], 3.0, 1000.0 * 2 ** (-3 / 12)),
    ],
)
def test_time_can_be_asked_for_in_many_ways(
    here: Run,
    tone: Path,
    tmp_path: Path,
    options: list[str],
    seconds: float,
    hz: float | None,
) -> None:
    out = tmp_path / "out.wav"
    found = facts(here("render", tone, out, "--loudness", "off", "--json", *options))
    assert found["frames"] == round(seconds * RATE)
    if hz:
        sound = soundfile.read(out, dtype="float32", always_2d=True)[0].T
        assert abs(cents(frequency(sound, RATE, hz), hz)) < 0.05


@pytest.mark.parametrize(
    ("options", "words"),
    [
        (["--bpm", "90"], "--bpm needs the track’s tempo: add --source-bpm, 20 to 400"),
        (["--bpm", "900", "--source-bpm", "120"], "--bpm 900 is out of reach; from 120 it can be 30 to 480"),
        (["--bpm", "90", "--source-bpm", "120", "--speed", "2"], "--speed and --bpm are one value"),
        (["--octave-down"], "--octave-down goes with --halftime"),
        (["--speed", "0.1"], "speed is 0.1 ×; it can be 0.25 to 4 ×"),
        (["--speed-curve", "0=0.9,1=0"], "speed is 0 ×; it can be 0.25 to 4 ×"),
        (["--speed-curve", "0.5=0.9,0.2=1"], "goes back from 0.5 to 0.2"),
        (["--speed-curve", "half"], "such as 0=0.9,0.4=1.0,1=1.15"),
        (
            ["--speed-curve", "0=0.9,1=1.1", "--length", "1:00"],
            "--length 1:00.0 is out of reach; it can be 0:00.8 to 0:12.0",
        ),
        (["--semitones", "25"], "25"),
        (["--formants", "13"], "13"),
    ],
)
def test_what_does_not_go_together_is_said(
    here: Run, tone: Path, tmp_path: Path, options: list[str], words: str
) -> None:
    done = here("render", tone, tmp_path / "out.wav", *options)
    assert done.returncode == 2
    assert words in done.stderr
    assert not (tmp_path / "out.wav").exists()


def test_endings_on_the_command_line(here: Run, tmp_path: Path, lantern: Track) -> None:
    """At a bar, a time, or the place found by itself; the map tells what became of time."""
    bars, song = ["--source-bpm", "92", "--first-beat", "0.25"], tmp_path / "song.wav"
    soundfile.write(song, lantern.sound[0, ::2], RATE // 2)
    end = 0.25 + 30 * 4 * 60 / 92
    for asked, least, most in (
        ("stop@31", end - 0.001, end + 0.001), ("tape-stop@31", end + 4 * 60 / 92 - 0.001, end + 4 * 60 / 92 + 0.001),
        ("echo@31.1", end + 5.2, end + 5.3), ("ring-out@1:00", 64.5, 68.0), ("fade@1:20", 87.99, 88.01),
    ):  # fmt: skip
        done = facts(here("render", song, tmp_path / "e.wav", "--ending", asked, *bars, "--overwrite", "--json"))
        assert least <= done["length_s"] <= most, asked
        assert done["notes"] == []
    for recipe in ("tape-stop-ending", "ring-out-ending", "echo-ending"):
        done = facts(here("render", song, tmp_path / "r.wav", "--recipe", recipe, "--overwrite", "--json"))
        assert 85.0 < done["length_s"] < 100.0
        assert done["integrated_lufs"] == pytest.approx(-14.0, abs=0.1)
    late = here("render", song, tmp_path / "n.wav", "--ending", "stop@300", *bars, "--json")
    assert "beyond the song" in facts(late)["notes"][0]
    assert facts(late)["length_s"] == pytest.approx(98.16, abs=0.01)
    for wrong, words in (("soon@3", "not an ending"), ("stop@31.9", "counted from 1"), ("stop@later", "not a place")):
        refused = here("render", song, tmp_path / "n2.wav", "--ending", wrong, *bars)
        assert refused.returncode == 2
        assert words in refused.stderr


def test_versions_of_a_session_on_the_command_line(here: Run, tmp_path: Path) -> None:
    """Rendered and mapped without a window; spans follow each other without a gap."""
    session = demo_folder() / "late-session.latespin"
    spans = facts(here("map", session, "--version", "Closing time", "--json"))
    assert spans["problems"] == []
    starts = [span["after_start"] for span in spans["spans"]]
    assert starts[1:] == [span["after_stop"] for span in spans["spans"]][:-1]
    assert spans["spans"][-1]["after_stop"] == spans["after_frames"]
    assert {span["speed_start"] for span in spans["spans"]} >= {0.92, -0.92, 0.0}
    done = facts(here("render", session, tmp_path / "c.wav", "--version", "closing", "--json"))
    assert done["notes"] == []
    assert done["frames"] > spans["after_frames"] + 4 * RATE
    assert "no version" in here("map", session, "--version", "Nobody").stderr
    song = here("map", demo_folder() / "lantern-light.ogg", "--ending", "stop@0:30")
    assert song.stdout.startswith("After 0:00.000 to 0:30.000: Before 0:00.000 to 0:30.000, 1.000")
    assert "--recipe" in here("render", session, tmp_path / "d.wav", "--recipe", "sped-up").stderr

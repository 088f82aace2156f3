"""Every job of the cookbook, done on a demo song by the command that the page prints, and measured."""

import json
import re
import shlex
import subprocess
from collections.abc import Callable
from pathlib import Path

import numpy as np
import pytest
import soundfile

from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import Audio
from latespin.media.track import Track
from latespin.model.moments.moments import Dip, GainChange, Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import DIP_DEPTH
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from tests.conftest import level_db, track_of

PAGE = Path(__file__).resolve().parents[2] / "docs" / "cookbook.md"
RATE, BPM, FIRST = 44_100, 92.0, 0.25
BAR = 4 * 60.0 / BPM
SECONDS = 26.0
WORDS = ((4.0, 4.4), (9.0, 9.6))
Run = Callable[..., subprocess.CompletedProcess[str]]


def jobs() -> dict[str, list[str]]:
    """The words of each job's command, without the program; none where it is done in the window."""
    parts = re.split(r"^## (.+)$", PAGE.read_text(encoding="utf-8"), flags=re.MULTILINE)[1:]
    found = {}
    for title, text in zip(parts[::2], parts[1::2], strict=True):
        block = re.search(r"```sh\n\./late-spin (.+?)\n```", text)
        found[title] = shlex.split(block[1]) if block else []
    return found


@pytest.fixture(scope="module")
def before(lantern: Track) -> Audio:
    """The first bars of a demo song, at a level that leaves room."""
    return 0.5 * lantern.sound[:, : round(SECONDS * RATE)]


def bands(sound: Audio) -> np.ndarray:
    """Power in bands of 1/24 octave from 60 Hz to 12 kHz, dB."""
    power = (np.abs(np.fft.rfft(sound[:, : len(sound[0]) // 2 * 2])) ** 2).sum(axis=0)
    edges = 60.0 * 2.0 ** (np.arange(184) / 24.0) * sound.shape[1] / RATE
    sums = np.concatenate(([0.0], np.cumsum(power)))[edges.astype(int)]
    return 10.0 * np.log10(np.maximum(np.diff(sums), 1e-12))


def shift(before: Audio, after: Audio) -> float:
    """Semitones from one sound to the other, from the fine shape of their spectra."""
    a, b = (each - np.convolve(each, np.ones(25) / 25.0, "same") for each in (bands(before), bands(after)))
    lags = np.arange(-24, 25)
    match = [float(np.dot(a[24:-24], np.roll(b, -lag)[24:-24])) for lag in lags]
    return 0.5 * float(lags[int(np.argmax(match))])


def band_change(before: Audio, after: Audio, low: float, high: float) -> float:
    """How much louder a band is in ``after``, dB, both brought to the same whole level."""
    hz = 60.0 * 2.0 ** ((np.arange(183) + 0.5) / 24.0)
    inside = (hz >= low) & (hz < high)
    levels = [
        10.0 * np.log10(np.sum(10.0 ** (bands(each)[inside] / 10.0))) - level_db(each) - 10.0 * np.log10(each.shape[1])
        for each in (before, after)
    ]
    return float(levels[1] - levels[0])


def alike(one: Audio, other: Audio) -> bool:
    """Equal but for the dither of 24 bits."""
    return float(np.abs(one - other).max()) < 4.0 * 2.0**-23


def lufs(sound: Audio) -> float:
    """Integrated loudness."""
    return facts_of(np.ascontiguousarray(sound), RATE).loudness.integrated_lufs


def slowed_and_reverb(before: Audio, after: Audio) -> None:
    assert shift(before, after) == pytest.approx(12.0 * np.log2(0.85), abs=0.5)
    assert after.shape[1] > before.shape[1] / 0.85 + RATE, "a tail"
    assert lufs(after) == pytest.approx(-14.0, abs=0.1)


def sped_up(before: Audio, after: Audio) -> None:
    assert shift(before, after) == pytest.approx(12.0 * np.log2(1.25), abs=0.5)
    assert after.shape[1] == pytest.approx(before.shape[1] / 1.25, abs=1)


def slower_at_the_same_pitch(before: Audio, after: Audio) -> None:
    assert shift(before, after) == 0.0
    assert after.shape[1] == pytest.approx(before.shape[1] / 0.8, abs=1)


def a_certain_tempo(before: Audio, after: Audio) -> None:
    assert after.shape[1] == pytest.approx(before.shape[1] * 92.0 / 84.0, abs=1)


def halftime(before: Audio, after: Audio) -> None:
    """As long as the song; the first bar of each two lasts two."""
    assert after.shape[1] == pytest.approx(before.shape[1], abs=RATE // 100)
    start = round((FIRST + 2 * BAR) * RATE)
    envelopes = [
        np.sqrt(np.mean(np.square(each[:, start : start + frames]), axis=0).reshape(-1, frames // 200).mean(axis=1))
        for each, frames in ((before, round(BAR * RATE) // 200 * 200), (after, round(2 * BAR * RATE) // 200 * 200))
    ]
    assert np.corrcoef(*envelopes)[0, 1] > 0.8


def lo_fi(before: Audio, after: Audio) -> None:
    assert band_change(before, after, 6_000.0, 12_000.0) < -3.0


def under_water(before: Audio, after: Audio) -> None:
    assert band_change(before, after, 4_000.0, 12_000.0) < -15.0


def eight_d(before: Audio, after: Audio) -> None:
    """The louder ear changes."""
    highs = np.abs(np.diff(after))[:, : after.shape[1] // RATE * RATE].reshape(2, -1, RATE).mean(axis=2)
    balance = 20.0 * np.log10(highs[1] / highs[0])[2:-2]
    assert balance.max() > 4.0
    assert balance.min() < -4.0


def sides(sound: Audio) -> float:
    """Level of the sides against the middle, dB."""
    return level_db(sound[:1] - sound[1:]) - level_db(sound[:1] + sound[1:])


def a_radio_that_opens(before: Audio, after: Audio) -> None:
    """Next to mono, its middle forward, until the eighth bar has gone by; then the song, but for the limiter."""
    early, late = (slice(round(at * RATE), round((at + 3.0) * RATE)) for at in (8.0, 22.0))
    assert sides(after[:, early]) < sides(before[:, early]) - 8.0
    assert band_change(before[:, early], after[:, early], 250.0, 4_000.0) > 3.0
    assert sides(after[:, late]) == pytest.approx(sides(before[:, late]), abs=0.7)
    assert band_change(before[:, late], after[:, late], 250.0, 4_000.0) == pytest.approx(0.0, abs=0.5)


def a_tape_stop(before: Audio, after: Audio) -> None:
    at = round((FIRST + 7 * BAR) * RATE)
    assert alike(after[:, : at - RATE // 50], before[:, : at - RATE // 50])
    assert after.shape[1] == pytest.approx(at + BAR * RATE, abs=RATE // 50)
    quarter = round(BAR * RATE / 4)
    first, last = (np.abs(np.diff(after[:, at + n * quarter : at + (n + 1) * quarter])).mean() for n in (0, 3))
    assert last < 0.5 * first, "slower is duller"


def a_ring_out(before: Audio, after: Audio) -> None:
    at = round((FIRST + 7 * BAR) * RATE)
    assert alike(after[:, : at - RATE // 50], before[:, : at - RATE // 50])
    levels = [level_db(after[:, at + n * RATE : at + (n + 1) * RATE]) for n in range(1, 4)]
    assert np.diff(levels) == pytest.approx(-60.0 / 4.5, abs=3.0)


def covered_words(before: Audio, after: Audio) -> None:
    assert after.shape == before.shape
    untouched = np.ones(before.shape[1], bool)
    for start, stop in WORDS:
        span = slice(round(start * RATE), round(stop * RATE))
        untouched[span] = False
        assert level_db((after - before)[:, span]) > level_db(before[:, span]) - 3.0
    assert alike(after[:, untouched], before[:, untouched])


CHECKS: dict[str, Callable[[Audio, Audio], None]] = {
    "Slowed and reverb": slowed_and_reverb, "Sped up": sped_up, "Slower at the same pitch": slower_at_the_same_pitch,
    "A certain tempo": a_certain_tempo, "Halftime": halftime, "Lo-fi": lo_fi, "Under water": under_water, "8D": eight_d,
    "A radio that opens into the song": a_radio_that_opens, "A tape stop at the end": a_tape_stop,
    "A ring-out at the end": a_ring_out, "Words that must not be heard": covered_words,
}  # fmt: skip
MORE = {"A few decibels less between two bars", "The song sags by an octave and comes back", "A folder of songs"}


def test_every_job_is_measured() -> None:
    assert set(jobs()) == set(CHECKS) | MORE
    assert len(jobs()) == 15


@pytest.mark.parametrize("title", CHECKS)
def test_the_command_does_the_job(
    title: str, before: Audio, here: Run, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    soundfile.write(tmp_path / "song.flac", before.T, RATE, subtype="PCM_24")
    (tmp_path / "words.csv").write_text(
        "label,start_seconds,end_seconds\n" + "".join(f"w,{start},{stop}\n" for start, stop in WORDS), encoding="utf-8"
    )
    monkeypatch.chdir(tmp_path)
    song = soundfile.read("song.flac", dtype="float32")[0].T
    done = here(*jobs()[title])
    assert done.returncode == 0, done.stderr
    assert "left out" not in done.stderr
    CHECKS[title](song, soundfile.read("out.flac", dtype="float32")[0].T)


def test_a_gain_between_two_bars_and_an_octave_down_and_back(before: Audio) -> None:
    """What the window does for these jobs: bars 3 and 4 are 5 dB down; bar 6 sags to half its speed, keeping the time."""
    grid = Grid(bpm=BPM, first_beat_seconds=FIRST)
    quieter = GainChange(
        id="g",
        start=Position(beat=8.0),
        end=Position(beat=16.0),
        gain_db=-5.0,
        fade_in_value="1/8",
        fade_out_value="1/8",
    )
    sag = Dip(
        id="d", start=Position(beat=20.0), end=Position(beat=24.0), depth_percent=DIP_DEPTH.parse("−12 st"), time="keep"
    )
    readers = TrackRenderer(track_of(before), grid)
    after = readers.chain(Stages(moments=Moments(placed=(quieter, sag)))).read(10**9)
    assert after.shape == before.shape

    def span(first: float, last: float) -> slice:
        return slice(round((FIRST + first * BAR / 4) * RATE), round((FIRST + last * BAR / 4) * RATE))

    assert level_db(after[:, span(9, 15)]) == pytest.approx(level_db(before[:, span(9, 15)]) - 5.0, abs=0.05)
    assert np.array_equal(after[:, span(0, 8)], before[:, span(0, 8)])
    assert np.array_equal(after[:, span(24.1, 36)], before[:, span(24.1, 36)])
    speeds = readers.arrangement(Stages(moments=Moments(placed=(sag,)))).map.speed_at((FIRST + 5.5 * BAR) * RATE)
    assert speeds == pytest.approx(0.5, abs=0.01)


def test_a_folder_becomes_two_versions_of_each_song(
    before: Audio, here: Run, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "songs").mkdir()
    soundfile.write(tmp_path / "songs" / "lap.flac", before[:, : 4 * RATE].T, RATE)
    monkeypatch.chdir(tmp_path)
    done = here(*jobs()["A folder of songs"])
    assert done.returncode == 0, done.stderr
    report = json.loads((tmp_path / "versions" / "set-report.json").read_text())["files"]
    assert [row["state"] for row in report] == ["done", "done"]
    for row in report:
        sound = soundfile.read(row["file"], dtype="float32")[0].T
        assert lufs(sound) == pytest.approx(row["integrated_lufs"], abs=0.01)

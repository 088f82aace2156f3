"""The reading: beats, bars, key and sections of songs whose truth is known, and honesty where there is nothing to find."""

import sys
from pathlib import Path

import mir_eval
import msgspec
import numpy as np
import pytest
import soxr

from latespin.analysis.reading import read_song
from latespin.analysis.results import READING_VERSION, Reading
from latespin.demo import demo_folder
from latespin.dsp.arrays import Audio
from latespin.errors import Cancelled
from latespin.jobs import Quietly
from latespin.media.storage import analysis_cache as readings
from latespin.media.track import Track, open_track
from tests.conftest import noise, sine

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "bench"))

import reading_songs

RATE = 44_100


@pytest.fixture(autouse=True)
def _own_cache(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))


def read(sound: Audio, rate: int = RATE) -> Reading:
    return read_song(sound, rate, Quietly())


def agreement(known: object, found: object) -> float:
    """F-measure within ±70 ms up to the last known place."""
    known, found = np.array(known), np.array(found)
    return float(mir_eval.beat.f_measure(known, found[found < known[-1] + 0.1]))


@pytest.mark.parametrize("which", [0, 1, 2])
def test_a_demo_song_is_read_right(truth: list[dict], which: int) -> None:
    known = truth[which]
    track = open_track(demo_folder() / known["file"])
    reading = read(track.sound, track.rate)
    beats = reading.beats
    assert beats is not None
    assert beats.steady
    assert beats.bpm == pytest.approx(known["bpm"], rel=1e-4)
    assert agreement(known["beats"], beats.times) > 0.97
    assert beats.beats_per_bar == known["metre"]
    assert agreement(known["downbeats"], beats.downbeats) > 0.97
    ways = [beats, *reading.other_beats]
    assert sum(way.confidence for way in ways) <= 1.001
    assert [way.confidence for way in ways] == sorted((way.confidence for way in ways), reverse=True)
    for other in reading.other_beats:
        assert agreement(beats.times, other.times) < 0.7, "another way to hear the beats is another"
        assert len(other.strong) == len(other.sure) == len(other.times)
    last = np.array(beats.times)
    wrong = min(abs(last - known["beats"][-1]))
    assert wrong < 0.02, "the last beat is as right as the first"
    borders = [part.start for part in reading.sections]
    assert all(part.end > part.start for part in reading.sections)
    assert min(abs(np.array(borders) - known["sections"][1]["start"])) < 12.0
    assert max(part.energy for part in reading.sections) == 1.0
    assert len(beats.strong) == len(beats.sure) == len(beats.times)
    on_bars = np.array(beats.strong)[beats.bar_one % beats.beats_per_bar :: beats.beats_per_bar]
    assert on_bars.mean() > np.mean(beats.strong) + 0.15


PLANS = (
    reading_songs.Plan(900, 112.0, feel="swing", seconds=50.0),
    reading_songs.Plan(901, 96.0, "three", seconds=50.0),
    reading_songs.Plan(902, 84.0, "six", seconds=50.0),
    reading_songs.Plan(903, 104.0, drums=False, seconds=60.0),
    reading_songs.Plan(904, 128.0, drift=0.012, slowing=0.4, seconds=60.0),
    reading_songs.Plan(905, 140.0, noise_db=-8.0, mono=True, pick_up=2, seconds=50.0),
)


@pytest.fixture(scope="module")
def pieces() -> list[tuple[reading_songs.Segment, Reading]]:
    return [(piece, read(piece.sound)) for piece in map(reading_songs.Segment, PLANS)]


def test_composed_pieces_are_read_right_in_the_mean(pieces: list[tuple[reading_songs.Segment, Reading]]) -> None:
    beats = [agreement(piece.beats, reading.beats.times) if reading.beats else 0.0 for piece, reading in pieces]
    bars = [agreement(piece.downbeats, reading.beats.downbeats) if reading.beats else 0.0 for piece, reading in pieces]
    assert np.mean(beats) > 0.93, beats
    assert np.mean(bars) > 0.80, bars


@pytest.mark.parametrize(("metre", "accents"), [(5, (0, 3)), (7, (0, 4)), (3, (0,))])
def test_odd_metres_are_read(metre: int, accents: tuple[int, ...]) -> None:
    """A kick on the accents, a snare between, and a chord that changes with the bar."""
    beat, bars = 0.42, 20
    draw = np.random.default_rng(metre)
    sound = 1e-4 * draw.standard_normal(round((bars * metre + 2) * beat * RATE))
    t = np.arange(round(beat * RATE)) / RATE
    for number in range(bars * metre):
        bar, place = divmod(number, metre)
        part = sound[round((0.3 + number * beat) * RATE) :][: len(t)]
        root = 110.0 * 2.0 ** ((0, 5, 7, 3)[bar % 4] / 12.0)
        part += 0.1 * sum(np.sin(2 * np.pi * root * k * t) for k in (1, 2, 3, 4)) * np.exp(-3.0 * t)
        if place in accents:
            part += 0.6 * np.sin(2 * np.pi * 55.0 * t) * np.exp(-18.0 * t)
        else:
            part += 0.15 * draw.standard_normal(len(t)) * np.exp(-25.0 * t)
    beats = read(np.tile(sound, (2, 1)).astype(np.float32)).beats
    assert beats is not None
    assert beats.bpm == pytest.approx(60.0 / beat, rel=1e-3)
    assert beats.beats_per_bar == metre
    known = 0.3 + metre * beat * np.arange(bars)
    assert agreement(known.tolist(), beats.downbeats) > 0.95


def test_a_moving_tempo_is_followed_and_said_to_move(pieces: list[tuple[reading_songs.Segment, Reading]]) -> None:
    piece, reading = pieces[4]
    assert reading.beats is not None
    assert not reading.beats.steady
    found = np.array(reading.beats.times)
    away = [np.min(np.abs(found - beat)) for beat in piece.beats]
    assert np.median(away) < 0.012
    assert all(np.diff(found) > 0.0)


def test_the_same_song_at_another_rate_and_level_is_read_alike(lantern: Track) -> None:
    part = lantern.sound[:, : 45 * RATE]
    whole = read(part).beats
    quiet = read(part * np.float32(0.02)).beats
    other = read(np.ascontiguousarray(soxr.resample(part.T, RATE, 96_000).T), 96_000).beats
    assert whole is not None
    for beats in (quiet, other):
        assert beats is not None
        count = min(len(whole.times), len(beats.times))
        assert np.abs(np.array(whole.times[:count]) - np.array(beats.times[:count])).max() < 0.005
        assert beats.downbeats[:8] == pytest.approx(whole.downbeats[:8], abs=0.005)


def test_a_song_tuned_high_says_so(lantern: Track) -> None:
    part = lantern.sound[:, : 40 * RATE]
    plain = read(part)
    turned = read(np.ascontiguousarray(soxr.resample(part.T, RATE, RATE / 2 ** (30 / 1200)).T))
    assert turned.tuning_cents - plain.tuning_cents == pytest.approx(30.0, abs=3.0)
    assert turned.keys[0].tonic == plain.keys[0].tonic


@pytest.mark.parametrize(
    "sound",
    [
        np.zeros((2, 20 * RATE), np.float32), noise(30.0), noise(30.0, seed=5)[:1], sine(220.0, 20.0), sine(440.0, 5.0),
        np.zeros((2, 1), np.float32), noise(0.02),
    ],
    ids=["silence", "noise", "noise, one channel", "a tone", "five seconds", "one frame", "a moment"],
)  # fmt: skip
def test_nothing_is_invented(sound: Audio) -> None:
    reading = read(sound)
    assert reading.beats is None
    assert reading.seconds == pytest.approx(sound.shape[1] / RATE)


def knocks(seed: int) -> Audio:
    """A Poisson process of hits, seldom and often, soft and loud."""
    draw = np.random.default_rng(seed)
    sound = np.zeros((2, 40 * RATE), np.float32)
    for at in np.cumsum(draw.exponential(draw.choice([0.25, 0.45, 0.7]), 200)):
        size = 2000
        if at < 39.0:
            knock = draw.standard_normal(size) * np.exp(-np.arange(size) / 300) * draw.uniform(0.1, 0.4)
            sound[:, int(at * RATE) : int(at * RATE) + size] += knock.astype(np.float32)
    return sound


def test_irregular_knocks_are_no_beat() -> None:
    """Though beats that follow can find some order anywhere."""
    assert all(read(knocks(seed)).beats is None for seed in range(6))


def test_a_reading_is_kept_and_a_broken_one_is_made_anew(lantern: Track, monkeypatch: pytest.MonkeyPatch) -> None:
    short = Track(lantern.path, lantern.sound[:, : 15 * RATE], RATE, 2, "ab" * 32)
    first = readings.read_track(short, Quietly())
    with monkeypatch.context() as kept:
        kept.setattr("latespin.analysis.reading.read_song", lambda *_: pytest.fail("it was kept"))
        assert readings.read_track(short, Quietly()) == first
    place = readings._place(short.sha256)
    for broken in (
        b"{",
        b'{"seconds": "x"}',
        msgspec.json.encode(msgspec.structs.replace(first, version=READING_VERSION + 1)),
    ):
        place.write_bytes(broken)
        assert readings.read_track(short, Quietly()) == first
    assert readings.kept_reading(short.sha256) == first


def test_reading_stops_when_asked(lantern: Track) -> None:
    class Impatient:
        fraction = 0.0

        def report(self, fraction: float) -> None:
            assert fraction >= self.fraction
            self.fraction = fraction

        def cancelled(self) -> bool:
            return self.fraction > 0.3

    with pytest.raises(Cancelled):
        read_song(lantern.sound, lantern.rate, Impatient())

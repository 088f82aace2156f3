"""Peaks that a lossy format adds, found on passages before the file is made."""

from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.arrays import amplitude
from latespin.errors import Cancelled
from latespin.jobs import Quietly
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import BEST, Encoding
from latespin.media.tags import Tags
from latespin.media.track import Track, open_track
from latespin.model.version import Level, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export import codec_trial, export
from latespin.render.export.codec_headroom import lowered_where_over, over_by_place, spare_for
from latespin.render.export.codec_trial import Passage, _common, _Trial, passages_around, settled
from latespin.render.mastering.measure import LevelSolution, solve
from tests.conftest import track_of

RATE = 44_100
LOUDNESS = -8.0
LOUD = Stages(level=Level(target_lufs=LOUDNESS, allowance_db=8.0))


@pytest.fixture(scope="module")
def excerpt(lantern: Track) -> Track:
    """Sixteen seconds of a song."""
    return track_of(lantern.sound[:, 30 * RATE : 46 * RATE].copy())


@pytest.fixture(scope="module")
def loud(excerpt: Track) -> LevelSolution:
    """Them 3 dB louder, the limiter at work, without any headroom for the format."""
    return solve(TrackRenderer(excerpt), LOUD, Quietly())


def whole_over(solved: LevelSolution, file: Path) -> np.ndarray:
    """How far each place of the whole file is over the ceiling."""
    encode(file, solved.blocks(), rate=RATE, channels=2, tags=Tags(), overwrite=True, sources=())
    decoded = open_track(file, Quietly(), fold=False)
    return over_by_place(decoded.sound, decoded.rate, amplitude(-1.0))


def test_a_passage_of_mp3_has_the_peaks_that_the_whole_file_has(loud: LevelSolution, tmp_path: Path) -> None:
    """Cut into the same frames: all but a few hundredths of the peaks over the ceiling are found where they will be, equally high."""
    whole = whole_over(loud, tmp_path / "whole.mp3")
    found = _Trial(loud, loud.plan, ".mp3", BEST, tmp_path, Quietly()).of(Passage(600, 1200))
    there = whole[600:1200]
    over = (there > 1.002) | (found > 1.002)
    assert np.count_nonzero(over) > 10, "a trial of nothing shows nothing"
    assert np.mean(np.abs(there[over] - found[over]) < 0.005) > 0.9


def test_a_settled_version_holds_the_ceiling_with_one_encoding(loud: LevelSolution, tmp_path: Path) -> None:
    before = whole_over(loud, tmp_path / "before.mp3")
    made = settled(loud, tmp_path / "a.mp3", BEST, Quietly())
    after = whole_over(made, tmp_path / "after.mp3")
    assert np.count_nonzero(after > amplitude(0.05)) <= 0.05 * np.count_nonzero(before > amplitude(0.05))
    lowered = np.array(made.plan.lowered)
    assert lowered.min() < 1.0
    assert np.mean(lowered == 1.0) > 0.3, "the rest of the song keeps its ceiling"
    assert made.plan.gain_db == loud.plan.gain_db


def test_a_loud_mp3_is_encoded_twice_at_most(excerpt: Track, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    whole_files = []
    real = export.encode

    def counted(target: Path, *rest: object, **more: object) -> int:
        whole_files.append(target)
        return real(target, *rest, **more)

    monkeypatch.setattr(export, "encode", counted)
    made = export.export(TrackRenderer(excerpt), LOUD, tmp_path / "loud.mp3", Quietly())
    assert len(whole_files) <= 2
    assert made.facts.true_peak_dbtp <= -1.0 + 0.05
    assert made.facts.loudness.integrated_lufs == pytest.approx(LOUDNESS, abs=0.1)


@pytest.mark.parametrize(
    ("name", "kbps", "room_db"),
    [("a.mp3", None, 0.5), ("a.mp3", 320, 0.5), ("a.mp3", 192, 0.5 - 20 * np.log10(0.97)), ("a.mp3", 128, 0.5 - 20 * np.log10(0.95)),
     ("a.opus", 128, 0.5), ("a.ogg", None, 0.2), ("a.flac", None, 0.0), ("a.m4a", None, 0.4)],
)  # fmt: skip
def test_an_mp3_begins_with_the_room_that_its_encoder_would_leave(name: str, kbps: int | None, room_db: float) -> None:
    assert spare_for(Path(name), Encoding(kbps=kbps), RATE).headroom_db == pytest.approx(room_db)


def test_a_loud_mp3_of_a_low_bitrate_has_its_loudness_and_holds_the_ceiling(excerpt: Track, tmp_path: Path) -> None:
    loud = Stages(level=Level(target_lufs=-10.0, allowance_db=8.0))
    made = export.export(TrackRenderer(excerpt), loud, tmp_path / "loud.mp3", Quietly(), encoding=Encoding(kbps=128))
    assert made.facts.true_peak_dbtp <= -1.0 + 0.05
    assert made.facts.loudness.integrated_lufs == pytest.approx(-10.0, abs=0.1)


def test_cancelling_a_trial_leaves_no_file(
    loud: LevelSolution, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    class Stopping(Quietly):
        asked = 0

        def cancelled(self) -> bool:
            self.asked += 1
            return self.asked > 3

    folders = []
    real = codec_trial.tempfile.TemporaryDirectory
    monkeypatch.setattr(
        codec_trial.tempfile, "TemporaryDirectory", lambda **_: folders.append(real(dir=tmp_path)) or folders[-1]
    )
    with pytest.raises(Cancelled):
        settled(loud, tmp_path / "a.mp3", BEST, Stopping())
    assert folders
    assert list(tmp_path.iterdir()) == []


def test_where_passages_cannot_be_written_the_version_stays_as_it_is(
    loud: LevelSolution, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The whole file is checked in any case: a full folder for temporary files stops no export."""

    def refused(**_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(codec_trial.tempfile, "TemporaryDirectory", refused)
    assert settled(loud, tmp_path / "a.mp3", BEST, Quietly()) is loud


@given(st.sets(st.integers(0, 999), max_size=12))
def test_passages_cover_all_that_is_over_and_do_not_overlap(places: set[int]) -> None:
    over = np.ones(1000)
    over[list(places)] = 1.1
    passages = passages_around(over, 1000)
    covered = [place for passage in passages for place in range(passage.start, passage.stop)]
    assert len(covered) == len(set(covered))
    for place in places:
        assert {max(0, place - 20), place, min(999, place + 20)} <= set(covered)
    assert len(covered) <= 61 * max(0, len(places))


@given(st.integers(1, 400), st.integers(0, 3))
def test_a_ceiling_is_lowered_at_peaks_and_beside_them_only(at: int, turn: int) -> None:
    over = np.ones(401)
    over[at] = amplitude(0.6)
    lowered = lowered_where_over(over, min(turn, 2))
    assert set(np.flatnonzero(lowered < 1.0)) == {n for n in range(at - 2, at + 3) if 0 <= n <= 400}
    assert lowered[at] < amplitude(-0.6), "by more than the peak is over"


@pytest.mark.parametrize(
    ("suffix", "rate", "unit"), [(".mp3", 44_100, 1152), (".mp3", 48_000, 1152), (".opus", 44_100, 960)]
)
def test_passages_begin_where_frames_of_the_format_and_places_of_the_limiter_do(
    loud: LevelSolution, suffix: str, rate: int, unit: int, tmp_path: Path
) -> None:
    written = 48_000 if suffix == ".opus" else rate
    grid = _common(Fraction(unit, written), Fraction(1, 100), Fraction(1, rate))
    for part in (Fraction(unit, written), Fraction(1, 100), Fraction(1, rate)):
        assert (grid / part).denominator == 1
    start = _Trial(loud, loud.plan, suffix, BEST, tmp_path, Quietly())._grid_start(9.87)
    if rate == RATE:
        assert 9.87 - grid < start / RATE <= 9.87
        assert (Fraction(start, RATE) / Fraction(unit, written)).denominator == 1


@given(st.lists(st.floats(0.0, 1.0), min_size=3, max_size=60), st.sampled_from([8_000, 22_050, 44_100]))
def test_peaks_are_counted_to_their_places(heights: list[float], rate: int) -> None:
    """A sample for each of some hundredths of a second, far enough from its edges: the place says how far it is over a ceiling of 0.5."""
    span = 0.01 * rate
    sound = np.zeros((1, int(len(heights) * 2 * span)), np.float32)
    for number, height in enumerate(heights):
        sound[0, int((2 * number + 0.5) * span)] = height
    over = over_by_place(sound, rate, 0.5)
    for number, height in enumerate(heights):
        assert over[2 * number] == pytest.approx(max(1.0, height / 0.5), abs=1e-3)

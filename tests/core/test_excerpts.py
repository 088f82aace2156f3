"""Parts of versions: where they begin and end, how they fade, and how loud they are."""

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.analysis.facts import facts_of
from latespin.errors import Unusable
from latespin.jobs import Quietly
from latespin.media.track import open_track
from latespin.model.arranging.arrangement import arrange
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout
from latespin.model.version import Level, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.excerpt import Excerpt, ExcerptSearch
from tests.conftest import level_db, noise, track_of

RATE = 8000
GRID = Grid(bpm=120.0, first_beat_seconds=0.0)  # bars of two seconds
LENGTH = 60.0


def stepped(*levels: tuple[float, float, float]) -> np.ndarray:
    """Noise of a minute at −40 dB, but for stretches (from, to, dB above that)."""
    sound = noise(LENGTH, RATE, level=0.01)
    for start, stop, gain in levels:
        sound[:, round(start * RATE) : round(stop * RATE)] *= 10.0 ** (gain / 20.0)
    return sound.astype(np.float32)


def layout(grid: Grid | None = GRID, sections: tuple = ()) -> Layout:  # type: ignore[type-arg]
    """A minute."""
    return Layout(round(LENGTH * RATE), RATE, grid, (), sections)


@given(
    frames=st.integers(RATE, 4 * RATE),
    fade_in=st.floats(0.0, 3.0),
    fade_out=st.floats(0.0, 3.0),
    block=st.integers(100, 9000),
)
def test_fades_are_the_same_however_it_is_cut_and_symmetric(
    frames: int, fade_in: float, fade_out: float, block: int
) -> None:
    part = Excerpt(0.0, frames / RATE, fade_in, fade_out)
    whole, pieces = np.ones((1, frames), np.float32), np.ones((1, frames), np.float32)
    part.fade(whole, 0, frames, RATE)
    for start in range(0, frames, block):
        part.fade(pieces[:, start : start + block], start, frames, RATE)
    assert np.array_equal(whole, pieces)
    turned = np.ones((1, frames), np.float32)
    Excerpt(0.0, frames / RATE, fade_out, fade_in).fade(turned, 0, frames, RATE)
    assert np.allclose(turned[:, ::-1], whole, atol=1e-6)
    assert (whole[0, 0] == 0.0) == (round(fade_in * RATE) > 0)
    assert whole.max() <= 1.0


@pytest.mark.parametrize(("speed", "start"), [(1.0, 20.0), (0.8, 25.0), (1.25, 16.0)])
def test_the_loudest_passage_lies_on_bar_lines_of_the_version(speed: float, start: float) -> None:
    """Loud from 20 s to 36 s; beside it, seconds that are louder but short, and do not count as a passage."""
    loudness = facts_of(resampled(stepped((20.0, 36.0, 12.0), (50.0, 50.4, 20.0)), speed), RATE).loudness
    made = arrange(Stages(time=Time(speed=speed)), layout())
    found = ExcerptSearch("loudest", 16.0 / speed, 0.1, 0.2).found(loudness, made, layout())
    assert (found.start, found.stop) == (pytest.approx(start, abs=0.01), pytest.approx(36.0 / speed, abs=0.01))
    assert (found.fade_in, found.fade_out) == (0.1, 0.2)
    shorter = ExcerptSearch("loudest", 15.0 / speed).found(loudness, made, layout())
    assert shorter.stop - shorter.start == pytest.approx(14.0 / speed, abs=0.01), "whole bars, not longer than asked"


def resampled(sound: np.ndarray, speed: float) -> np.ndarray:
    """The same loudnesses at other times."""
    places = (np.arange(round(sound.shape[1] / speed)) * speed).astype(int)
    return np.ascontiguousarray(sound[:, np.minimum(places, sound.shape[1] - 1)])


def test_the_most_typical_passage_begins_with_a_chorus_and_without_one_with_the_most_frequent_section() -> None:
    sound = stepped((10.0, 18.0, 12.0), (32.0, 40.0, 6.0))
    loudness, made = facts_of(sound, RATE).loudness, arrange(Stages(), layout())
    sections = ((0.0, "intro"), (8.0, "verse"), (32.0, "chorus"), (48.0, "outro"))
    search = ExcerptSearch("typical", 8.0)
    assert search.found(loudness, made, layout(sections=sections)).start == pytest.approx(32.0, abs=0.01)
    verses = ((0.0, "intro"), (16.0, "verse"), (40.0, "bridge"), (44.0, "verse"))
    assert search.found(loudness, made, layout(sections=verses)).start in (16.0, 44.0)
    assert search.found(loudness, made, layout()).start == pytest.approx(10.0, abs=0.01), (
        "without sections, the loudest"
    )


def test_a_song_without_bars_has_excerpts_too_and_impossible_ones_are_refused() -> None:
    loudness, made = facts_of(stepped((20.3, 30.3, 12.0)), RATE).loudness, arrange(Stages(), layout(None))
    found = ExcerptSearch("loudest", 10.0).found(loudness, made, layout(None))
    assert found.start == pytest.approx(20.3, abs=0.5)
    assert found.stop - found.start == pytest.approx(10.0)
    with pytest.raises(Unusable, match="only 1:00"):
        ExcerptSearch("loudest", 61.0).found(loudness, made, layout(None))
    with pytest.raises(Unusable, match="too short, or beyond"):
        Excerpt(59.8, 65.0).frames(RATE, round(LENGTH * RATE))


def test_an_exported_excerpt_is_its_part_of_the_version_at_its_own_loudness(tmp_path: Path) -> None:
    """Frame for frame; its level is worked out for what is in the file."""
    rate = 44_100
    sound = noise(12.0, rate, level=0.02)
    sound[:, 6 * rate :] *= 4.0
    readers, stages = TrackRenderer(track_of(sound, rate)), Stages(time=Time(speed=0.9), level=Level(on=False))
    whole = export(readers, stages, tmp_path / "whole.wav", Quietly())
    part = export(readers, stages, tmp_path / "part.wav", Quietly(), excerpt=Excerpt(2.0, 5.0))
    assert part.facts.frames == 3 * rate
    assert part.excerpt == Excerpt(2.0, 5.0)
    expected = open_track(whole.target).sound[:, 2 * rate : 5 * rate]
    assert level_db(open_track(part.target).sound - expected) < -100.0
    levelled = Stages(time=Time(speed=0.9), level=Level(target_lufs=-20.0))
    for search in (Excerpt(2.0, 5.0, 0.5, 0.5), ExcerptSearch("loudest", 4.0)):
        made = export(readers, levelled, tmp_path / "levelled.flac", Quietly(), excerpt=search, overwrite=True)
        assert made.facts.loudness.integrated_lufs == pytest.approx(-20.0, abs=0.05)
    assert made.excerpt is not None
    assert made.excerpt.start >= 6.0 / 0.9 - 0.5, "the loud half"

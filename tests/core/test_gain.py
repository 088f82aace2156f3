"""Gains that come and go: exact in decibels, at their beats, without a click, and not taken back by anything."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.arrays import Audio
from latespin.model.arranging.arrangement import arrange
from latespin.model.moments.moments import DropIn, GainChange, Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Position
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.timeline.timed_gain import gains_of
from tests.conftest import level_db, noise, sine, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)  # a beat is half a second
SOUND = noise(8.0, level=0.1)


def gain(start: float, end: float, **values: object) -> GainChange:
    """A gain between two beats."""
    return GainChange(id=f"g{start}", start=Position(beat=start), end=Position(beat=end), **values)  # type: ignore[arg-type]


def version(*moments: GainChange | DropIn, time: Time | None = None) -> Stages:
    """A version with moments alone."""
    return Stages(moments=Moments(placed=moments), time=time or Time())


def rendered(sound: Audio, stages: Stages) -> Audio:
    """The whole version before Level."""
    return TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9)


def gains_db(out: Audio, sound: Audio, seconds: np.ndarray) -> np.ndarray:
    """Gain around places, dB."""
    around = (RATE * seconds).astype(int)[:, None] + np.arange(-32, 32)
    return 10.0 * np.log10((out[:, around] ** 2).sum(axis=(0, 2)) / (sound[:, around] ** 2).sum(axis=(0, 2)))


def test_five_decibels_less_between_two_bars_and_the_song_itself_elsewhere() -> None:
    """Bars 2 and 3, an eighth in and a quarter out: 2 s to 6 s, full from 2.25 s to 5.5 s."""
    out = rendered(SOUND, version(gain(4, 12, gain_db=-5.0, fade_in_value="1/8", fade_out_value="1/4")))
    assert np.array_equal(out[:, : 2 * RATE], SOUND[:, : 2 * RATE])
    assert np.array_equal(out[:, 6 * RATE :], SOUND[:, 6 * RATE :])
    places = np.linspace(2.01, 5.99, 300)
    expected = -5.0 * np.interp(places, [2.0, 2.25, 5.5, 6.0], [0.0, 1.0, 1.0, 0.0])
    assert gains_db(out, SOUND, places) == pytest.approx(expected, abs=0.06)


def test_fades_in_milliseconds_go_by_the_version_and_those_on_beats_by_the_song() -> None:
    """At half speed a fade of 100 ms lasts as long as it did, one of an eighth twice as long."""
    layout, slow = Layout(SOUND.shape[1], RATE, GRID), Time(speed=0.5)
    (timed,) = arrange(version(gain(4, 12, free=True, fade_in_ms=100.0, fade_out_ms=40.0), time=slow), layout).gains
    (beats,) = arrange(version(gain(4, 12, fade_in_value="1/8", fade_out_value="1/4"), time=slow), layout).gains
    assert timed.fades == (4410, 1764)
    assert beats.fades == (RATE // 2, RATE)
    assert (timed.start, timed.stop) == (4 * RATE, 12 * RATE)


def test_silence_is_silence_and_fades_longer_than_the_range_share_it() -> None:
    out = rendered(SOUND, version(gain(4, 8, gain_db=-60.0, free=True, fade_in_ms=500.0, fade_out_ms=500.0)))
    assert not out[:, round(2.51 * RATE) : round(3.49 * RATE)].any()
    (short,) = arrange(
        version(gain(4, 5, free=True, fade_in_ms=1500.0, fade_out_ms=500.0)), Layout(SOUND.shape[1], RATE, GRID)
    ).gains
    assert short.fades == pytest.approx((RATE * 3 / 8, RATE / 8), abs=1)


@given(gain_db=st.floats(-60.0, 24.0), fade_ms=st.floats(2.0, 400.0), place=st.integers(0, 6 * RATE))
def test_no_gain_is_a_step(gain_db: float, fade_ms: float, place: int) -> None:
    (during,) = arrange(
        version(gain(4, 8, gain_db=gain_db, free=True, fade_in_ms=fade_ms, fade_out_ms=fade_ms)),
        Layout(8 * RATE, RATE, GRID),
    ).gains
    around = gains_of(during, np.arange(place, place + 64, dtype=np.float64), RATE)
    inside = around[(np.arange(place, place + 64) >= during.start) & (np.arange(place, place + 64) < during.stop)]
    assert np.abs(np.diff(inside)).max(initial=0.0) <= abs(gain_db) / (0.001 * fade_ms * RATE) * 1.01 + 1e-9
    if during.start in range(place, place + 64):
        assert abs(gains_of(during, np.array([float(during.start)]), RATE)[0]) < 1e-9


def test_the_song_gives_way_beneath_a_dropped_in_sound_whose_level_stays(tmp_path) -> None:  # type: ignore[no-untyped-def]
    """Gains act on the song, not on what is laid over it; two of them at one place add up."""
    import soundfile

    soundfile.write(tmp_path / "bell.wav", sine(1000.0, 2.0, level=0.5).T, RATE)
    silence = np.zeros_like(SOUND)
    bell = DropIn(
        id="bell", start=Position(beat=4.0), end=Position(beat=8.0), path=str(tmp_path / "bell.wav"), gain_db=0.0
    )
    alone = rendered(silence, version(bell))
    ducked = rendered(SOUND, version(bell, gain(4, 8, gain_db=-20.0)))
    middle = slice(round(2.6 * RATE), round(3.4 * RATE))
    assert level_db((ducked - alone)[:, middle]) == pytest.approx(level_db(SOUND[:, middle]) - 20.0, abs=0.01)
    twice = rendered(SOUND, version(gain(2, 10, gain_db=-3.0), gain(4, 8, gain_db=-4.0)))
    assert level_db(twice[:, middle]) == pytest.approx(level_db(SOUND[:, middle]) - 7.0, abs=0.01)

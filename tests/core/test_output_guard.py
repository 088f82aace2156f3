"""What reaches a device hurts no one: whatever is rendered, however it is edited."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.dynamics.output_guard import LEAP, LEAP_SECONDS, QUIETEST, THRESHOLD, OutputGuard
from latespin.model.effects.effects import Eq
from latespin.model.version import Colour, Level, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest
from tests.conftest import noise, sine, track_of

RATE = 44_100


def test_below_its_threshold_not_a_bit_changes() -> None:
    sound = noise(2.0)
    sound *= THRESHOLD / np.abs(sound).max()
    assert (OutputGuard(RATE).process(sound) == sound).all()


@given(st.floats(0.0, 40.0), st.integers(0, 9), st.integers(1, 5000))
def test_nothing_leaves_full_scale_however_blocks_are_cut(louder_db: float, seed: int, cut: int) -> None:
    sound = noise(0.3, level=0.5, seed=seed) * np.float32(10.0 ** (louder_db / 20.0))
    guard, whole = OutputGuard(RATE), OutputGuard(RATE).process(sound)
    assert np.abs(whole).max() <= 1.0
    parts = [guard.process(sound[:, start : start + cut]) for start in range(0, sound.shape[1], cut)]
    assert (np.concatenate(parts, axis=1) == whole).all()
    loudest = np.abs(sound).max()
    assert guard.take_reduction() == pytest.approx(max(0.0, 20 * np.log10(loudest)), abs=0.3)
    assert guard.take_reduction() == 0.0


def test_a_peak_is_let_go_of_within_a_second() -> None:
    sound = sine(200, 1.5, level=0.5)
    sound[:, 100] = 4.0
    made = OutputGuard(RATE).process(sound)
    assert np.abs(made[:, 100]).max() <= 1.0
    assert (made[:, RATE:] == sound[:, RATE:]).all()


@pytest.mark.parametrize("before", [0.0, 0.004, 0.05, 0.2])
def test_an_edit_makes_no_leap(before: float) -> None:
    """From what was heard to full scale it takes 50 ms for every 6 dB."""
    guard = OutputGuard(RATE)
    quiet, loud = sine(440, 1.0, level=before), sine(440, 2.0, level=0.95)
    made = guard.process(np.concatenate((quiet, loud), axis=1), edited_at=RATE)[:, RATE:]
    reference = max(before, QUIETEST)
    step = round(LEAP_SECONDS * RATE)
    for n in range(8):
        heard = np.abs(made[:, n * step : (n + 1) * step]).max()
        assert heard <= min(1.0, reference * LEAP ** (n + 1)) * 1.01
    assert (made[:, -RATE // 4 :] == loud[:, -RATE // 4 :]).all(), "and then it is left alone"


def test_without_an_edit_a_hit_after_silence_is_the_songs_own() -> None:
    hit = np.concatenate((np.zeros((2, RATE), np.float32), sine(60, 0.2, level=0.9)), axis=1)
    assert (OutputGuard(RATE).process(hit) == hit).all()
    fresh = OutputGuard(RATE)
    fresh.forget()
    assert (fresh.process(hit[:, RATE:], edited_at=0) == hit[:, RATE:]).all(), "nothing was heard before it"


def played(player: Player, seconds: float) -> np.ndarray:
    """What a device is given from now on, taken as quickly as it is ready."""
    parts, have = [], 0
    while have < seconds * RATE:
        block = player.pull(441, only_ready=True)
        parts.append(block)
        have += block.shape[1]
    return np.concatenate(parts, axis=1)


def test_what_a_player_gives_is_safe_through_edits_of_40_db() -> None:
    sound = sine(300, 8.0, level=0.1)
    readers = TrackRenderer(track_of(sound))
    still = Stages(level=Level(on=False))
    boosted = Stages(
        colour=Colour(
            effects=(Eq(id="e", keep_level=False, bell_hz=300.0, bell_db=18.0, bell2_hz=300.0, bell2_db=18.0),)
        ),
        level=Level(on=False),
    )
    player = Player(RATE)
    try:
        player.change(PlaybackRequest(readers, "after", still, LevelPlan()))
        player.play()
        assert np.abs(played(player, 1.0)).max() == pytest.approx(0.1, abs=0.001)
        player.change(PlaybackRequest(readers, "after", boosted, LevelPlan()))
        heard = played(player, 3.0)
        assert np.abs(heard).max() <= 1.0
        level = np.abs(heard).max(axis=0)
        began = int(np.argmax(level > 0.11))
        step = round(LEAP_SECONDS * RATE)
        assert level[began : began + step].max() <= 0.1 * LEAP * 1.02
        assert level[-RATE // 2 :].max() > 0.95, "it is loud in the end, as was asked"
        assert player.guard.take_reduction() > 12.0
    finally:
        player.close()


def test_what_is_no_number_is_silence_and_counted() -> None:
    sound = sine(300, 2.0, level=0.3)
    sound[0, 5000], sound[1, 6000] = np.nan, np.inf
    player = Player(RATE)
    try:
        player.change(PlaybackRequest(TrackRenderer(track_of(sound)), "before", Stages(), LevelPlan()))
        player.play()
        heard = played(player, 1.0)
        assert np.isfinite(heard).all()
        assert player.guard.silenced == 2
        heard = played(player, 0.5)
        assert np.abs(heard).max() == pytest.approx(0.3, abs=0.001), "it goes on as before"
    finally:
        player.close()

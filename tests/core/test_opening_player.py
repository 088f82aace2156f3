"""A song played while it is being opened: what is heard is what has been decoded, and nothing that is no sound."""

import numpy as np
import pytest

from latespin.memory import Growing
from latespin.render.playback.opening_player import OpeningPlayer
from tests.conftest import noise

RATE = 44_100


def growing(*blocks: np.ndarray) -> Growing:
    """Sound of which so much has been decoded."""
    sound = Growing()
    for block in blocks:
        sound.append(block)
    return sound


def test_it_plays_what_there_is_and_goes_on_when_there_is_more() -> None:
    song = noise(2.0, level=0.2)
    sound = growing(song[:, :30_000])
    player = OpeningPlayer(sound, RATE)
    assert not player.pull(500).any(), "paused"
    assert player.pull(500, only_ready=True).shape == (2, 0)
    player.playing = True
    first = player.pull(40_000)
    assert np.array_equal(first[:, :30_000], song[:, :30_000])
    assert not first[:, 30_000:].any()
    assert player.frame == 30_000, "silence while it waits is not the song"
    sound.append(song[:, 30_000:])
    rest = [player.pull(7000, only_ready=True) for _ in range(9)]
    assert np.array_equal(np.concatenate(rest, axis=1), song[:, 30_000:])
    sound.sound()
    player.seek(1234)
    assert np.array_equal(player.pull(800), song[:, 1234:2034]), "all of it is there, and still played"


def test_a_place_that_is_not_there_yet_is_the_last_that_is() -> None:
    player = OpeningPlayer(growing(noise(0.5)), RATE)
    player.seek(10 * RATE)
    assert player.frame == round(0.5 * RATE) - 1
    player.seek(-5)
    assert player.frame == 0


@pytest.mark.parametrize("channels", [1, 6])
def test_any_number_of_channels_is_heard_in_stereo_and_what_is_no_number_not_at_all(channels: int) -> None:
    song = np.tile(noise(0.2, level=0.05)[:1], (channels, 1))
    song[:, 100] = np.nan
    song[:, 200] = 50.0
    player = OpeningPlayer(growing(song), RATE)
    player.playing, player.gain = True, 0.5
    heard = player.pull(song.shape[1])
    assert heard.shape == (2, song.shape[1])
    assert np.all(np.isfinite(heard))
    assert np.abs(heard).max() <= 1.0
    assert np.array_equal(heard[0], heard[1])
    assert heard[0, 50] == pytest.approx(0.5 * song[0, 50] * (1.0 if channels == 1 else 1.0 + 2**0.5), rel=1e-5)

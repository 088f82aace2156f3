"""Playback on the silent device: what was played is listened to."""

import time
from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np
import pytest

from latespin.media.track import Track
from latespin.model.effects.effects import Hall
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.chain import Chain, Solo
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest
from tests.conftest import frequency, level_db, sine, track_of

RATE = 44_100
Listening = Callable[[float], SilentDevice]
TONE = track_of(sine(1000, 30.0, level=0.25))


@pytest.fixture
def player() -> Iterator[Player]:
    """A player that is closed afterwards."""
    made = Player(RATE)
    yield made
    made.close()


@pytest.fixture
def listening(player: Player) -> Iterator[Listening]:
    """Connects a silent device of some pace to the player; it is closed afterwards, whatever the test finds."""
    made: list[SilentDevice] = []

    def connect(pace: float) -> SilentDevice:
        made.append(SilentDevice(player, pace=pace))
        return made[-1]

    yield connect
    for device in made:
        device.close()


def until(condition: Callable[[], bool], seconds: float = 60.0) -> None:
    """Wait for a state."""
    end = time.monotonic() + seconds
    while not condition():
        assert time.monotonic() < end, "it never came to that"
        time.sleep(0.005)


def programme(track: Track = TONE, side: str = "after", speed: float = 1.0, **more: object) -> PlaybackRequest:
    """A plain programme at some speed."""
    stages = Stages(time=Time(speed=speed), colour=more.pop("colour", Colour()))  # type: ignore[arg-type]
    return PlaybackRequest(TrackRenderer(track), side, stages, LevelPlan(), **more)  # type: ignore[arg-type]


def listen(device: SilentDevice, seconds: float) -> np.ndarray:
    """Wait until so much has been played anew; returns it."""
    device.forget()
    until(lambda: device.played().shape[1] >= seconds * RATE)
    return device.played()


def test_what_is_played_is_the_version(player: Player, listening: Listening) -> None:
    device = listening(4.0)
    player.change(programme(speed=0.8))
    player.play()
    assert frequency(listen(device, 1.0), RATE, 800) == pytest.approx(800, abs=0.05)


def test_a_change_is_heard_at_the_same_musical_place_without_a_click(player: Player, listening: Listening) -> None:
    device = listening(2.0)
    player.change(programme(speed=0.8))
    player.play()
    listen(device, 0.5)
    device.forget()
    before_place = programme(speed=0.8).to_before(player.place()[1])
    player.change(programme(speed=1.25))
    until(lambda: player.place()[0] is not None and player.place()[0].stages.time.speed == 1.25)
    until(lambda: len(player.change_latencies) >= 2)
    now, frame = player.place()
    assert now is not None
    moved = (now.to_before(frame) - before_place) / RATE
    assert 0.0 <= moved < 2.0
    until(lambda: device.played().shape[1] > 2 * RATE)
    played = device.played()
    assert frequency(played[:, -RATE:], RATE, 1250) == pytest.approx(1250, abs=0.1)
    assert np.abs(np.diff(played)).max() < 1.05 * 0.25 * 2 * np.pi * 1250 / RATE + 0.01, "no step beyond the tone's own"


def test_before_and_after_swap_at_the_same_place(player: Player, listening: Listening) -> None:
    device = listening(2.0)
    player.change(programme(speed=0.5))
    player.seek(10 * RATE)
    player.play()
    assert frequency(listen(device, 0.5), RATE, 500) == pytest.approx(500, abs=0.1)
    player.change(programme(side="before", speed=0.5, trim_db=-6.0))
    until(lambda: player.place()[0] is not None and player.place()[0].side == "before")
    _, frame = player.place()
    assert 4.9 * RATE < frame < 8 * RATE
    heard = listen(device, 1.0)[:, -RATE // 2 :]
    assert frequency(heard, RATE, 1000) == pytest.approx(1000, abs=0.1)
    assert level_db(heard) == pytest.approx(level_db(TONE.sound) - 6.0, abs=0.1)


def test_a_loop_goes_round_without_clicks(player: Player, listening: Listening) -> None:
    device = listening(0)
    player.change(programme(loop=(RATE, RATE + 13_000)))
    player.play()
    played = listen(device, 2.0)
    assert RATE <= player.place()[1] < RATE + 13_000 + 1024
    assert np.abs(np.diff(played)).max() < 0.25 * 2 * np.pi * 1000 / RATE * 1.3


def test_the_end_stops_playback_and_play_begins_again(player: Player, listening: Listening) -> None:
    short = track_of(sine(500, 0.6))
    device = listening(0)
    player.change(programme(short))
    player.play()
    until(lambda: not player.playing)
    assert device.played().shape[1] == short.frames
    device.forget()
    player.play()
    until(lambda: device.played().shape[1] > 4000)
    assert np.abs(device.played()[:, :4000] - short.sound[:, :4000]).max() < 1e-6


def test_pausing_is_silent_and_keeps_the_place(player: Player) -> None:
    player.change(programme())
    player.play()
    until(lambda: np.abs(player.pull(512)).max() > 0.1)
    player.pause()
    place = player.place()
    assert not player.pull(512).any()
    assert player.place() == place
    assert player.pull(100, only_ready=True).shape == (2, 0)


def test_a_draft_change_becomes_the_exact_one(player: Player, listening: Listening, lantern: Track) -> None:
    colour = Colour(effects=(Hall(on=True, decay_seconds=4.0, amount_percent=60.0),))
    wanted = replace(programme(lantern, speed=0.9, colour=colour), plan=LevelPlan(gain_db=-9.0))  # the guard stays idle
    device = listening(1.0)
    player.change(wanted)
    player.seek(20 * RATE)
    player.play()
    until(lambda: player.exact)
    listen(device, 3.0)  # what was rendered ahead before it, and, on a busy machine, prepared twice as far ahead
    device.close()
    _, frame = player.place()
    heard = device.played()[:, -8192:]
    stream = wanted.open()
    stream.seek(frame - 8192)
    assert level_db(heard - stream.read(8192)) < -75.0


def test_meters_follow_what_is_heard(player: Player, listening: Listening) -> None:
    device = listening(4.0)
    player.change(programme())
    player.play()
    listen(device, 5.0)
    until(lambda: player.meters.integrated > -60)
    assert player.meters.integrated == pytest.approx(-12.04, abs=0.1)
    assert player.meters.true_peak == pytest.approx(-12.04, abs=0.1)
    player.change(replace(programme(), trim_db=-10.0))
    until(lambda: player.meters.integrated == pytest.approx(-22.04, abs=0.1))
    assert player.meters.true_peak == pytest.approx(-22.04, abs=0.1), "what was louder is not heard any more"


def test_far_into_a_stretch_a_loop_never_waits_and_becomes_exact(
    player: Player, listening: Listening, lantern: Track
) -> None:
    """Quiet enough that the guard before the device passes every peak of the loop."""
    stages = Stages(time=Time(speed=0.9, pitch="held"))
    plan = LevelPlan(gain_db=-6.0)
    wanted = PlaybackRequest(TrackRenderer(lantern), "after", stages, plan, loop=(60 * RATE, 62 * RATE))
    device = listening(1.0)
    player.change(wanted)
    player.seek(60 * RATE)
    player.play()
    until(lambda: device.played().shape[1] > 0)
    reader = wanted.readers.reader(stages.time)
    assert not reader.has(60 * RATE, 2 * RATE), "heard before what comes first has been stretched"
    until(lambda: device.played().shape[1] > 1.5 * RATE)
    assert np.abs(device.played()).max() > 0.05
    until(lambda: reader.has(60 * RATE, 2 * RATE) and player.exact)
    device.forget()
    until(lambda: device.played().shape[1] > 2 * RATE and 60.5 * RATE < player.place()[1] < 61.5 * RATE)
    device.close()
    _, frame = player.place()
    stream = wanted.open()
    stream.seek(frame - 8192)
    assert level_db(device.played()[:, -8192:] - stream.read(8192)) < -75.0


class Cracked(TrackRenderer):
    """A renderer whose chain cannot be built."""

    def chain(self, stages: Stages, solo: Solo | None = None) -> Chain:
        raise RuntimeError("the bell is cracked")


CRACKED = PlaybackRequest(Cracked(TONE), "after", Stages(), LevelPlan())


def test_what_cannot_be_rendered_stops_says_so_and_is_tried_again_on_play(
    player: Player, listening: Listening, caplog: pytest.LogCaptureFixture
) -> None:
    device = listening(4.0)
    player.change(CRACKED)
    for _ in range(3):
        until(lambda: bool(player.failure) and not player.playing)
        assert player.failure == "Playback stopped: the bell is cracked"
        player.failure = ""
        player.play()
    assert "cracked" in caplog.text
    until(lambda: not player.playing)
    assert not device.played().size
    player.change(programme(speed=0.8))
    player.play()
    assert frequency(listen(device, 0.5), RATE, 800) == pytest.approx(800, abs=0.1)


def test_after_a_failure_the_version_heard_before_plays_on_from_its_place(player: Player, listening: Listening) -> None:
    device = listening(4.0)
    player.change(programme(speed=0.8))
    player.seek(5 * RATE)
    player.play()
    listen(device, 0.5)
    player.change(CRACKED)
    until(lambda: bool(player.failure) and not player.playing)
    stopped_at = player.place()[1]
    player.change(programme(speed=0.8))
    player.play()
    assert frequency(listen(device, 2.0), RATE, 800) == pytest.approx(800, abs=0.1)
    assert player.failure == "Playback stopped: the bell is cracked"
    assert 5.5 * RATE <= stopped_at <= player.place()[1] < stopped_at + 10 * RATE


def test_without_a_song_a_jump_waits_and_costs_nothing(player: Player, monkeypatch: pytest.MonkeyPatch) -> None:
    looked: list[float] = []
    work = player._work
    monkeypatch.setattr(player, "_work", lambda: (looked.append(time.monotonic()), work()))
    player.seek(3 * RATE)
    player.play()
    time.sleep(0.5)
    assert len(looked) <= 3, "the render thread sleeps until there is something to play"
    player.change(programme())
    until(lambda: player.pull(512, only_ready=True).size > 0)
    assert player.place()[1] == pytest.approx(3 * RATE, abs=4096)

"""From a press of a pad, or a turn of a knob, to the device; gaps; the processor's time while pads are held; and what was played against what is exported."""

import os
import time
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from latency import SIX
from latespin.demo import demo_folder
from latespin.dsp.arrays import Audio
from latespin.media.track import Track, open_track
from latespin.model.effects.effects import Gain
from latespin.model.moments.held import HeldEffect, HeldSilence
from latespin.model.moments.moments import Moments
from latespin.model.playing.surface_map import nowhere, practice_map
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playing.held_sound import prepare
from latespin.render.playing.live_controls import LiveControls
from latespin.render.playing.takes import moment_of
from latespin.render.recipes import find_recipe

PRESSES, TURNS, HELD_SECONDS, RATE = 200, 100, 5.0, 44_100
GAIN = "gain", "gain_db"


class TimedDevice(SilentDevice):
    """Notes when the first block came whose level a test waits for."""

    def __init__(self, player: Player) -> None:
        self.wanted = lambda _: False
        self.came = 0.0
        super().__init__(player)
        pull = player.pull

        def noted(frames: int, *, only_ready: bool = False) -> Audio:
            block = pull(frames, only_ready=only_ready)
            if not self.came and block.shape[1] and self.wanted(block):
                self.came = time.perf_counter()
            return block

        player.pull = noted  # type: ignore[method-assign]


def waited(device: TimedDevice, act: object, wanted: object) -> float:
    """Milliseconds from an act to the first block of that kind."""
    device.came, device.wanted = 0.0, wanted  # type: ignore[assignment]
    begun = time.perf_counter()
    act()  # type: ignore[operator]
    while not device.came and time.perf_counter() - begun < 1.0:
        time.sleep(0.0005)
    return 1000.0 * ((device.came or time.perf_counter()) - begun)


def presses(player: Player, device: TimedDevice) -> None:
    """A pad that mutes, at any time within a block."""
    hand, rng, found = player.live.hand, np.random.default_rng(0), []
    for _ in range(PRESSES):
        found.append(waited(device, lambda: hand.press("a", nowhere(HeldSilence)), lambda b: not b[:, -64:].any()))
        time.sleep(0.05)
        hand.release("a")
        time.sleep(0.1 + 0.02 * rng.random())
    print(f"pad to device, six effects         median {np.median(found):5.1f}  worst of {PRESSES} {max(found):5.1f} ms")


def turns(device: TimedDevice, controls: LiveControls) -> None:
    """A gain after six effects, up or down by 24 dB, over noise."""
    found, level = [], 0.0
    time.sleep(1.0)
    for _ in range(TURNS):
        level = -24.0 if level == 0.0 else 0.0
        quiet = level < 0.0
        loud = float(np.sqrt(np.mean(device.played()[:, -4410:] ** 2)))

        def changed(block: Audio, loud: float = loud, quiet: bool = quiet) -> bool:
            now = float(np.sqrt(np.mean(block[:, -200:] ** 2)))
            return now < 0.6 * loud if quiet else now > 1.6 * loud

        found.append(waited(device, lambda value=level: controls.turn(GAIN, value), changed))
        time.sleep(0.35)
    print(f"knob to a change of 4 dB           median {np.median(found):5.1f}  worst of {TURNS} {max(found):5.1f} ms")


def cpu(player: Player) -> None:
    """The share of one processor while nothing is held, and while eight pads are."""
    hand = player.live.hand
    shares = []
    for count in (0, 8):
        for number, pad in enumerate(practice_map().pads[8 : 8 + count]):
            hand.press(f"pad {number}", pad.move)
        time.sleep(0.3)
        before, begun = sum(os.times()[:2]), time.perf_counter()
        time.sleep(HELD_SECONDS)
        shares.append((sum(os.times()[:2]) - before) / (time.perf_counter() - begun))
        for ident in hand.held:
            hand.release(ident)
    print(f"processor: nothing held {100 * shares[0]:.0f} %, eight pads held {100 * shares[1]:.0f} % of one core")


def agreement(readers: TrackRenderer, stages: Stages) -> None:
    """A take of all sixteen pads of the practice surface against the version that has it."""
    player = Player(RATE)
    player.live.separates_drums = True
    programme = PlaybackRequest(readers, "after", stages, LevelPlan(gain_db=-9.0))
    device = SilentDevice(player, remember_seconds=60.0)
    player.change(programme)
    player.seek(30 * RATE)
    player.play()
    while not player.exact:
        time.sleep(0.05)
    time.sleep(3.0)
    first, already = player.place()[1], device.played().shape[1]
    for number, pad in enumerate(practice_map().pads):
        time.sleep(0.3)
        player.live.hand.press(f"pad {number}", pad.move)
        time.sleep(0.45)
        player.live.hand.release(f"pad {number}")
        time.sleep(0.35)
    time.sleep(0.5)
    moves = player.live.hand.take_played()
    heard = device.played()[:, already + 4410 :]
    device.close()
    player.close()
    made = replace(stages, moments=Moments(placed=tuple(moment_of(m, f"m{i}", "") for i, m in enumerate(moves))))
    whole = readers.chain(made).read(first + heard.shape[1] + RATE) * np.float32(10 ** (-9.0 / 20.0))
    starts = range(first, first + 8820)
    error = min(((heard[:, :441] - whole[:, s : s + 441]) ** 2).sum() for s in starts)
    start = next(s for s in starts if ((heard[:, :441] - whole[:, s : s + 441]) ** 2).sum() <= error)
    exported = whole[:, start : start + heard.shape[1]]
    print("played against exported, by pad (dB below the music, 10 ms at the edges apart):")
    for move in moves:
        inner = slice(move.start - start + 441, move.stop - start - 441)
        off, music = (float(np.mean(x[:, inner] ** 2)) for x in (heard - exported, exported))
        print(
            f"  {practice_map().pads[int(move.ident[4:])].name:20} {10 * np.log10((off + 1e-20) / (music + 1e-12)):7.1f}"
        )


def main() -> None:
    readers = TrackRenderer(open_track(demo_folder() / "lantern-light.ogg"), Grid(bpm=92.0, first_beat_seconds=0.25))
    base = find_recipe("slowed-reverb").stages
    six = replace(base, colour=Colour(effects=(*SIX, Gain(id="gain"))))
    player = Player(RATE)
    player.live.separates_drums = True
    device = TimedDevice(player)
    player.change(PlaybackRequest(readers, "after", six, LevelPlan(-6.0)))
    player.seek(20 * RATE)
    for pad in practice_map().pads:
        if isinstance(pad.move, HeldEffect):
            prepare(pad.move, readers.context(six))
    player.play()
    time.sleep(3.0)
    gaps = player.underruns
    presses(player, device)
    cpu(player)
    gaps = player.underruns - gaps
    device.close()
    player.close()
    player, controls = Player(RATE), LiveControls(frozenset({GAIN}))
    device = TimedDevice(player)
    sound = (0.2 * np.random.default_rng(1).standard_normal((2, 90 * RATE))).astype(np.float32)
    noise = TrackRenderer(Track(Path("noise"), sound, RATE, sound.shape[1], ""))
    player.set_live(controls)
    player.change(PlaybackRequest(noise, "after", six, LevelPlan(-6.0)))
    player.play()
    time.sleep(3.0)
    before = player.underruns
    turns(device, controls)
    gaps += player.underruns - before
    device.close()
    player.close()
    print(f"gaps: {gaps}")
    agreement(readers, replace(base, colour=Colour(effects=base.colour.effects)))


if __name__ == "__main__":
    main()

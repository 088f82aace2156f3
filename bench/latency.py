"""From a change of a value while playing to the first changed frame handed to the device (50 changes each)."""

import time

import numpy as np
from msgspec.structs import replace

from latespin.demo import demo_folder
from latespin.media.track import open_track
from latespin.model.effects.effects import Echo, Eq, Hall, Spin, Underwater, Vinyl
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.null_device import SilentDevice
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.recipes import find_recipe

CHANGES = 50
SIX = (
    Eq(id="eq", high_shelf_db=-3.0), Vinyl(id="vinyl"), Underwater(id="water"), Spin(id="spin"), Echo(id="echo"), Hall(id="hall"),
)  # fmt: skip


def main() -> None:
    readers = TrackRenderer(open_track(demo_folder() / "lantern-light.ogg"))
    base = find_recipe("slowed-reverb").stages
    held = replace(base, time=replace(base.time, pitch="held"))
    six = replace(base, colour=Colour(effects=SIX))
    long = with_hall(base, decay_seconds=10.0)

    def hall(stages: Stages, n: int) -> Stages:
        return with_hall(stages, amount_percent=20.0 + n % 40)

    def worn(stages: Stages, n: int) -> Stages:
        return replace(stages, colour=stages.colour.with_changed(Vinyl(id="vinyl", wear_percent=20.0 + n % 40)))

    def speed(stages: Stages, n: int) -> Stages:
        return replace(stages, time=replace(stages.time, speed=0.7 + 0.005 * (n % 50)))

    print(f"{'what is changed':44} {'median ms':>10} {'worst ms':>9} {'gaps':>5}")
    for name, start, change in (
        ("hall amount", base, hall),
        ("hall amount, decay 10 s", long, hall),
        ("speed, linked", base, speed),
        ("hall amount, pitch held", held, hall),
        ("speed, pitch held", held, speed),
        ("wear of one of six effects", six, worn),
    ):
        player = Player(44_100)
        device = SilentDevice(player)
        plan = LevelPlan(-4.0, 0.89)
        player.change(PlaybackRequest(readers, "after", start, plan))
        player.seek(30 * 44_100)
        player.play()
        time.sleep(2.0)
        player.change_latencies.clear()
        gaps = player.underruns
        for n in range(CHANGES):
            player.change(PlaybackRequest(readers, "after", change(start, n), plan))
            time.sleep(0.35)
        latencies = 1000 * np.array(player.change_latencies)
        print(f"{name:44} {np.median(latencies):10.0f} {latencies.max():9.0f} {player.underruns - gaps:5}")
        device.close()
        player.close()


def with_hall(stages: Stages, **changes: float) -> Stages:
    """A version whose hall has other values."""
    hall = stages.colour.hall
    assert hall is not None
    return replace(stages, colour=stages.colour.with_changed(replace(hall, **changes)))


if __name__ == "__main__":
    main()

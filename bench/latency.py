"""From a change of a value while playing to the first changed frame handed to the device (50 changes each)."""

import time

import numpy as np
from msgspec.structs import replace

from latespin.demo import demo_folder
from latespin.media.track import open_track
from latespin.model.version import Stages
from latespin.render.level import LevelPlan
from latespin.render.player import Player
from latespin.render.programme import Programme
from latespin.render.readers import Readers
from latespin.render.recipes import find_recipe
from latespin.render.silent import SilentDevice

CHANGES = 50


def main() -> None:
    readers = Readers(open_track(demo_folder() / "lantern-light.ogg"))
    base = find_recipe("slowed-reverb").stages
    held = replace(base, time=replace(base.time, pitch="held"))
    long = replace(base, colour=replace(base.colour, hall=replace(base.colour.hall, decay_seconds=10.0)))

    def hall(stages: Stages, n: int) -> Stages:
        return replace(
            stages, colour=replace(stages.colour, hall=replace(stages.colour.hall, amount_percent=20.0 + n % 40))
        )

    def speed(stages: Stages, n: int) -> Stages:
        return replace(stages, time=replace(stages.time, speed=0.7 + 0.005 * (n % 50)))

    print(f"{'what is changed':44} {'median ms':>10} {'worst ms':>9} {'gaps':>5}")
    for name, start, change in (
        ("hall amount", base, hall),
        ("hall amount, decay 10 s", long, hall),
        ("speed, linked", base, speed),
        ("hall amount, pitch held", held, hall),
        ("speed, pitch held", held, speed),
    ):
        player = Player(44_100)
        device = SilentDevice(player)
        plan = LevelPlan(-4.0, 0.89)
        player.change(Programme(readers, "after", start, plan))
        player.seek(30 * 44_100)
        player.play()
        time.sleep(2.0)
        player.change_latencies.clear()
        gaps = player.underruns
        for n in range(CHANGES):
            player.change(Programme(readers, "after", change(start, n), plan))
            time.sleep(0.35)
        latencies = 1000 * np.array(player.change_latencies)
        print(f"{name:44} {np.median(latencies):10.0f} {latencies.max():9.0f} {player.underruns - gaps:5}")
        device.close()
        player.close()


if __name__ == "__main__":
    main()

"""How true moments and endings are: clicks, curves, decays, on signals with a known right answer and on the demo song.

Run ``PYTHONPATH=bench .venv/bin/python bench/moments.py``.
"""

import time
from pathlib import Path

import numpy as np
from scipy.signal import get_window

from latespin.demo import demo_folder, demo_session
from latespin.dsp.arrays import Audio
from latespin.dsp.timing.speed_by_time import SpeedByTime, knots, slowing
from latespin.media.track import Track, open_track
from latespin.model.documents.documents import read_session
from latespin.model.moments.endings import Ending, RingOut
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.moments import (
    AnyMoment,
    Cover,
    Dip,
    Moments,
    PitchGlide,
    Ramp,
    Reverse,
    SpinUp,
    Stutter,
    TapeStop,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer

RATE = 44_100
GRID = Grid(bpm=120.0)
BEAT = RATE // 2


def main() -> None:
    """Print all figures."""
    steps()
    curves()
    ring_outs()
    whole_song()


def track_of(sound: Audio) -> Track:
    """A track without a file."""
    return Track(Path("bench"), sound, RATE, len(sound), "")


def tone(hz: float, seconds: float) -> Audio:
    """A steady tone in two channels."""
    wave = 0.5 * np.sin(2 * np.pi * hz * np.arange(round(seconds * RATE)) / RATE)
    return np.tile(wave, (2, 1)).astype(np.float32)


def at(kind: type[AnyMoment], start: float, end: float, **values: object) -> AnyMoment:
    """A moment between two beats."""
    return kind(id="m", start=Position(beat=start), end=Position(beat=end), **values)  # type: ignore[arg-type]


def steps() -> None:
    """The largest step between two samples of a rendered 1 kHz tone over the tone's own, worst of three Time stages."""
    sound = tone(1000.0, 12.0)
    moments = [at(kind, 8, 12) for kind in (TapeStop, SpinUp, Dip, Ramp, PitchGlide, Reverse, ColourDip)]
    moments += [at(Stutter, 8, 12, values=("1/8", "1/32")), at(Stutter, 8, 12, free=True, slice_ms=7.0, turning=True)]
    moments += [at(Cover, 8, 9, way=way) for way in ("silence", "repeat", "reverse", "tape-stop", "muffle")]
    for moment in moments:
        worst = 0.0
        for stage in (Time(), Time(speed=0.85), Time(speed=0.85, pitch="held")):
            stages = Stages(time=stage, moments=Moments(placed=(moment,)))
            out = TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9)[:, 4096:-4096]
            fastest = stage.pitch_ratios[1] * max(1.0, getattr(moment, "speed", 1.0))
            worst = max(worst, float(np.max(np.abs(np.diff(out)))) / (np.sin(np.pi * 1000.0 * fastest / RATE)))
        name = type(moment).__name__ + (f" {moment.way}" if isinstance(moment, Cover) else "")
        print(f"largest step, {name:18} {worst:.2f} of the tone's own")


def curves() -> None:
    """Tape stops of a 1 kHz tone against the asked curve down to 60 Hz, and what appears above the tone."""
    sound = tone(1000.0, 12.0)
    for tension, two in ((0.0, False), (0.25, True), (1.0, False), (-0.6, False)):
        stages = Stages(moments=Moments(placed=(at(TapeStop, 8, 12, tension=tension, two_stages=two),)))
        out = TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9)[0].astype(float)
        start, frames = 8 * BEAT, 4 * BEAT
        length = frames - round(0.005 * RATE) - round(0.0025 * RATE)
        x = np.arange(frames) / length
        share = 0.33 if two else 0.0
        low = np.flatnonzero(1000.0 * slowing(x, tension, 1.0, share)[: frames - round(0.02 * RATE)] > 60.0)
        read = SpeedByTime.through(slowing(knots(), tension, 1.0, share), length, whole=True).before_at(
            np.arange(frames)
        )
        wanted = 0.5 * np.sin(2 * np.pi * 1000.0 * (start + read) / RATE)
        away = np.max(np.abs(out[start : start + frames][low] - wanted[low]))
        window = get_window("blackmanharris", frames + RATE - 600)
        spectrum = np.abs(np.fft.rfft(out[start - RATE : start + frames - 600] * window))
        above = np.fft.rfftfreq(len(window), 1 / RATE) > 1200.0
        alias = 20 * np.log10(spectrum[above].max() / spectrum.max())
        print(
            f"tape stop, bend {tension:+.2f}{', two stages' if two else '':12}: {away:.1e} from the asked wave, above the tone {alias:.0f} dB"
        )


def ring_outs() -> None:
    """Asked and measured decay of noise that rings out."""
    sound = (0.2 * np.random.default_rng(1).standard_normal((2, 20 * RATE))).astype(np.float32)
    for decay in (1.0, 2.5, 4.5, 8.0, 12.0):
        stages = Stages(ending=Ending(way=RingOut(at=Position(beat=32.0), decay_seconds=decay)))
        out = TrackRenderer(track_of(sound), GRID).chain(stages).read(10**9).astype(float)
        tail = out[:, 32 * BEAT :]
        energy = np.cumsum(np.sum(tail[:, ::-1] ** 2, axis=0))[::-1]
        level = 10 * np.log10(energy / energy[0] + 1e-30)
        measured = 2.0 * (np.flatnonzero(level <= -35)[0] - np.flatnonzero(level <= -5)[0]) / RATE
        louder = loudest(tail, 0.05) - loudest(out[:, : 32 * BEAT], 0.4)
        last = 20 * np.log10(np.max(np.abs(out[:, -1])) + 1e-12)
        print(
            f"ring-out {decay:4.1f} s: measured {measured:5.2f} s ({100 * (measured / decay - 1):+.1f} %), tail {louder:+.1f} dB against the song, last frame {last:.0f} dBFS"
        )


def loudest(sound: np.ndarray, seconds: float) -> float:
    """The highest level of a window, dB."""
    n = round(seconds * RATE)
    energy = np.concatenate(([0.0], np.cumsum(np.mean(sound**2, axis=0))))
    return float(10 * np.log10(np.max(energy[n:] - energy[:-n]) / n + 1e-20))


def whole_song() -> None:
    """The demo's version with every kind of moment, rendered, against the same without them."""
    lantern = open_track(demo_folder() / "lantern-light.ogg")
    session = read_session(demo_session().read_bytes(), "demo").with_sounds(lambda path: str(demo_folder() / path))
    version = session.version("closing")
    assert version is not None
    for name, stages in (
        ("without moments", Stages(time=version.stages.time)),
        ("every kind of moment", version.stages),
    ):
        took = []
        for _ in range(5):
            chain = TrackRenderer(lantern, session.grid).chain(stages)
            began = time.perf_counter()
            chain.read(10**9)
            took.append(time.perf_counter() - began)
        print(f"demo song of {chain.frames / RATE:.0f} s, {name}: {np.median(took):.2f} s")


if __name__ == "__main__":
    main()

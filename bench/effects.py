"""Every effect, or those named: how fast it is alone on one core, and what it does to the demo songs: loudness, sides, spectrum, noise; and every recipe."""

import sys
import tempfile
import time
from pathlib import Path

import numpy as np
import soundfile
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.demo import demo_folder
from latespin.dsp.control.automation import Automation
from latespin.jobs import Quietly
from latespin.media.storage.analysis_cache import read_track
from latespin.media.track import open_track
from latespin.model.documents.documents import Recipe
from latespin.model.effects.declaration import EFFECTS, effect_info
from latespin.model.effects.effects import AnyEffect
from latespin.model.timing.beat_grid import grid_of
from latespin.model.timing.positions import layout_of
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.factory import factory_of
from latespin.render.export.export import export
from latespin.render.recipes import shipped_recipes

SONGS = ("lantern-light", "eight-wheels-turning", "slow-door-blue-floor")
RATE = 44_100
BANDS = ((60.0, 250.0), (250.0, 2_000.0), (2_000.0, 6_000.0), (6_000.0, 16_000.0))


def main() -> None:
    """Colours first, then recipes."""
    readers = []
    for track in [open_track(demo_folder() / f"{name}.ogg") for name in SONGS]:
        reading = read_track(track, Quietly())
        readers.append(TrackRenderer(track, layout=layout_of(track.frames, track.rate, grid_of(reading), reading)))
    print(
        "colour          speed  default: loudness LU   sides dB   bands dB (60-250, -2k, -6k, -16k)   full: loudness LU"
    )
    for name, kind in ((n, k) for n, k in EFFECTS.items() if not sys.argv[1:] or n in sys.argv[1:]):
        effect: AnyEffect = kind(id=name)  # type: ignore[assignment]
        usual = [effect_of(r, effect) for r in readers]
        full = [effect_of(r, replace(effect, amount_percent=100.0))[0] for r in readers]
        loud, sides, bands = (np.array([row[i] for row in usual]) for i in range(3))
        print(
            f"{effect_info(name).title:15} {speed(readers[0], effect):5.0f}  {loud.min():+6.2f} to {loud.max():+5.2f}      {sides.mean():+5.1f}    "
            f"{' '.join(f'{value:+5.1f}' for value in bands.mean(axis=0))}        {min(full):+6.2f} to {max(full):+5.2f}"
        )
    print()
    print("recipe             export   length   LUFS before Level  sides dB   bands dB")
    with tempfile.TemporaryDirectory() as folder:
        for recipe in shipped_recipes():
            print(exported(readers[0], recipe, Path(folder) / f"{recipe.name}.flac"))


def exported(readers: TrackRenderer, recipe: Recipe, target: Path) -> str:
    """A recipe written to FLAC as from the window: times real time, and what it did apart from Level."""
    before = readers.track.sound
    fresh = TrackRenderer(readers.track, layout=readers.layout)
    began = time.perf_counter()
    result = export(fresh, recipe.stages, target, Quietly())
    took = time.perf_counter() - began
    sound = soundfile.read(target, dtype="float32")[0].T * np.float32(10.0 ** (-result.plan.gain_db / 20.0))
    bands = " ".join(f"{a - b:+5.1f}" for a, b in zip(levels(sound), levels(before), strict=True))
    loudness = result.facts.loudness.integrated_lufs - result.plan.gain_db
    sides = sides_db(sound) - sides_db(before)
    return f"{recipe.name:17} {sound.shape[1] / RATE / took:6.0f}  {sound.shape[1] / RATE:7.1f}   {loudness:+6.1f}             {sides:+5.1f}    {bands}"


def effect_of(readers: TrackRenderer, effect: AnyEffect) -> tuple[float, float, list[float]]:
    """What a colour does to a song: loudness, sides against middle, four bands, each in dB."""
    before = readers.track.sound
    after = readers.chain(Stages(colour=Colour(effects=(effect,)))).read(10**9)
    loud = [facts_of(sound, RATE).loudness.integrated_lufs for sound in (before, after)]
    bands = [a - b for a, b in zip(levels(after), levels(before), strict=True)]
    return loud[1] - loud[0], sides_db(after) - sides_db(before), bands


def speed(readers: TrackRenderer, effect: AnyEffect) -> float:
    """Times real time, the processor alone."""
    context = readers.context(Stages())
    processor = factory_of(effect).build(effect, context)
    amount, sound = Automation(effect.amount_percent / 100.0), readers.track.sound[:, : 40 * RATE]
    processor.process(np.ascontiguousarray(sound[:, :RATE]), 0, amount)
    began = time.perf_counter()
    for at in range(RATE, sound.shape[1], 1 << 15):
        processor.process(np.ascontiguousarray(sound[:, at : at + (1 << 15)]), at, amount)
    return (sound.shape[1] / RATE - 1.0) / (time.perf_counter() - began)


def sides_db(sound: np.ndarray) -> float:
    """The sides against the middle."""
    mid, side = sound[0] + sound[-1], sound[0] - sound[-1]
    return 10.0 * float(np.log10(np.mean(side**2) / np.mean(mid**2) + 1e-12))


def levels(sound: np.ndarray) -> list[float]:
    """Power in four bands, dB."""
    power = np.sum(np.abs(np.fft.rfft(sound[:, : 1 << 22], axis=1)) ** 2, axis=0) / sound.shape[1]
    hz = np.linspace(0.0, RATE / 2, len(power))
    return [10.0 * float(np.log10(np.sum(power[(hz >= low) & (hz < high)]) + 1e-12)) for low, high in BANDS]


if __name__ == "__main__":
    main()

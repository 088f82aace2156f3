"""A click on every beat, to hear where the grid lies. Only for listening: no export has it."""

from functools import lru_cache

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.time_map import TimeMap

CLICK_SECONDS = 0.03
DECAY_SECONDS = 0.006
BEAT_HZ, BAR_HZ = 1_200.0, 1_800.0
LEVEL = 0.35


@lru_cache(maxsize=8)
def click_places(grid: Grid, rate: int, before_frames: int, time_map: TimeMap | None) -> tuple[Floats, np.ndarray]:
    """Frames at which beats sound in Before, or through a time map in After, ascending; and whether each begins a bar."""
    numbers = grid.numbers_between(0.0, before_frames / rate)
    places = grid.seconds_of(numbers) * rate
    bars = numbers % grid.beats_per_bar == 0
    if time_map is not None and len(places):
        places = time_map.after_of_all(places)
        heard = (np.diff(places, prepend=-2.0) > 1.0) & (places < time_map.after_frames - 1.0)  # not what is cut off
        places, bars = places[heard], bars[heard]
    return places, bars


def with_clicks(block: Audio, start: int, places: tuple[Floats, np.ndarray], rate: int) -> Audio:
    """A block ``[2, frames]`` that begins at frame ``start``, with the clicks that sound in it."""
    at, bars = places
    size = round(CLICK_SECONDS * rate)
    first, last = np.searchsorted(at, (start - size, start + block.shape[1]))
    if first == last:
        return block
    out = block.copy()
    for place, bar in zip(np.round(at[first:last]).astype(int), bars[first:last], strict=True):
        sound = _click(rate, bool(bar))
        low, high = max(place, start), min(place + size, start + block.shape[1])
        if high > low:
            out[:, low - start : high - start] += sound[low - place : high - place]
    return out


@lru_cache(maxsize=8)
def _click(rate: int, bar: bool) -> np.ndarray:
    t = np.arange(round(CLICK_SECONDS * rate)) / rate
    wave = np.sin(2.0 * np.pi * (BAR_HZ if bar else BEAT_HZ) * t) * np.exp(-t / DECAY_SECONDS)
    return np.asarray(LEVEL * wave, dtype=np.float32)

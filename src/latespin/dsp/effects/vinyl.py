"""A worn record: wow at its revolutions, a limited band, mono bass, dust, crackle, pops and rumble.

Wow and flutter grow evenly in octaves with the wear, from those of a good deck (0.03 %, unweighted peak; IEC 60098 and DIN 45539 allow 0.15 to
0.3 %) to those of a record whose hole is a millimetre off its centre: 1 mm of a radius of 60 to 146 mm is 0.7 to 1.7 % of the speed, once per turn.
Events after Godsill and Rayner (see ``random_sources.py``); those of a scratch come back with every turn.
Levels of noises are relative to the song's loudness, so that every song is worn alike.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from latespin.dsp.arrays import amplitude
from latespin.dsp.effects.random_sources import EventStatistics, NoiseSource, RandomEvents, RecurringEvents, ShapedNoise
from latespin.dsp.effects.worn_playback import ReplaySettings, Wave, opened, phases, unevenness
from latespin.dsp.filters.cascade import Section, high_pass, low_pass

SURFACE = (("high-pass", 400.0, 1.0), ("low-pass", 6_000.0, 1.0))
RUMBLE = (("high-pass", 18.0, 2.0), ("low-pass", 45.0, 3.0))
SCRATCHES, SCRATCHED_FROM = 3, 0.3  # ticks in a turn, and the wear they begin with
REVOLUTIONS = {"33": 100.0 / 3.0 / 60.0, "45": 45.0 / 60.0, "78": 78.0 / 60.0}


@dataclass(frozen=True)
class VinylWear:
    """wear : 0 (new) to 1 (worn out). All others multiply what the wear brings, 0 to 2. rpm : 33, 45 or 78."""

    wear: float
    rpm: str = "33"
    crackle: float = 1.0
    pops: float = 1.0
    scratch: float = 1.0
    rumble: float = 1.0
    wow: float = 1.0
    flutter: float = 1.0
    dullness: float = 1.0
    drive: float = 1.0
    mono_bass_hz: float = 140.0
    seed: int = 1


def vinyl(rate: int, wear: VinylWear, song_level: float) -> ReplaySettings:
    """The settings of a worn record; ``song_level`` is the song's loudness as an amplitude, which noises go by."""
    w = wear.wear

    def band(amount: float) -> Sequence[Section]:
        low, high = opened(22.0 + 30.0 * w, 17_000.0 * (5_500.0 / 17_000.0) ** min(1.3, w * wear.dullness), amount)
        return [*high_pass(low, rate, 12), *low_pass(high, rate, 12)]

    return ReplaySettings(
        band=band, waves=vinyl_waves(wear), drive=0.9 * w * wear.drive, side=1.0 - 0.35 * w, bass_hz=wear.mono_bass_hz,
        noises=record_noises(rate, wear, song_level),
    )  # fmt: skip


def vinyl_waves(wear: VinylWear) -> tuple[Wave, ...]:
    """How unevenly the record turns: in every turn, twice in every turn, slowly, and as flutter."""
    share, turn = unevenness(wear.wear), REVOLUTIONS[wear.rpm]
    begins = phases(wear.seed, 33)
    return (
        Wave(turn, 0.62 * share * wear.wow, begins[0]),
        Wave(2.0 * turn, 0.14 * share * wear.wow, begins[1]),
        Wave(0.31 * turn, 0.10 * share * wear.wow, begins[2]),
        Wave(5.7, 0.08 * share * wear.flutter, begins[3]),
        Wave(9.3, 0.06 * share * wear.flutter, begins[4]),
    )


def record_noises(rate: int, wear: VinylWear, song_level: float) -> tuple[tuple[NoiseSource, float], ...]:
    """What a record adds: surface, dust, crackle, pops, rumble, a scratch; with their gains."""
    w, seed = wear.wear, wear.seed * 16
    scratched = min(1.0, max(0.0, (w - SCRATCHED_FROM) / 0.2)) * song_level * wear.scratch
    ticks = EventStatistics(SCRATCHES * REVOLUTIONS[wear.rpm], (1_200.0, 3_200.0), (0.25, 0.8), 2.0, width=0.4)
    crackle, pops = song_level * wear.crackle, song_level * wear.pops
    noises: list[tuple[NoiseSource, float]] = [
        (ShapedNoise(rate, seed, SURFACE, 0.2), crackle * amplitude(-52.0 + 12.0 * w)),
        (RandomEvents(rate, seed + 1, EventStatistics(14.0 + 60.0 * w, (1_800.0, 7_000.0), (0.08, 0.3), 5.0)), crackle * amplitude(-30.0 + 12.0 * w)),
        (RandomEvents(rate, seed + 2, EventStatistics(1.2 + 9.0 * w, (900.0, 3_500.0), (0.2, 0.7), 5.0)), crackle * amplitude(-20.0 + 10.0 * w)),
        (RandomEvents(rate, seed + 3, EventStatistics(0.08 + 0.7 * w, (220.0, 900.0), (1.0, 4.0), 4.0, width=0.5)), pops * amplitude(-14.0 + 10.0 * w)),
        (ShapedNoise(rate, seed + 4, RUMBLE, 0.6), song_level * wear.rumble * amplitude(-46.0 + 16.0 * w)),
        (RecurringEvents(rate, seed + 5, ticks, 1.0 / REVOLUTIONS[wear.rpm]), scratched * amplitude(-24.0 + 14.0 * w)),
    ]  # fmt: skip
    return tuple(noises)

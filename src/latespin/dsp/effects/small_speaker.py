"""Small loudspeakers: telephone, pocket radio, loud-hailer, newsreel, headphones left on a table.

Telephone band: ITU-T G.712 (300 to 3400 Hz). The rest are plain models of small drivers: a band, a resonance or two where the box or the horn
rings, one channel, peaks rounded by a small amplifier, and, beneath, a little of the low-passed song so that it does not sound empty.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from latespin.dsp.arrays import amplitude
from latespin.dsp.effects.random_sources import EventStatistics, NoiseSource, RandomEvents, ShapedNoise
from latespin.dsp.effects.worn_playback import ReplaySettings, Wave, opened
from latespin.dsp.filters.cascade import Section, bell, high_pass, high_shelf, low_pass


@dataclass(frozen=True)
class Kind:
    """A loudspeaker: its band, the slopes beyond it, bells as (Hz, dB, Q), what is left of the sides, drive, noise in dB, flutter."""

    low_hz: float
    high_hz: float
    slopes: tuple[int, int]
    bells: tuple[tuple[float, float, float], ...]
    side: float
    drive: float
    shape: str = "soft"
    noise_db: float | None = None
    flutter: float = 0.0


KINDS = {
    "telephone": Kind(300.0, 3_400.0, (24, 36), ((1_100.0, 2.0, 1.2), (2_600.0, 3.0, 2.0)), 0.0, 0.8),
    "radio": Kind(240.0, 5_200.0, (12, 24), ((420.0, 2.5, 1.5), (1_900.0, 3.0, 1.2)), 0.0, 1.0, "tube", -44.0),
    "hailer": Kind(480.0, 4_600.0, (24, 24), ((1_300.0, 6.0, 3.0), (2_400.0, 5.0, 4.0)), 0.0, 3.0),
    "newsreel": Kind(170.0, 4_300.0, (12, 24), ((900.0, 2.0, 0.8),), 0.0, 1.4, "tube", -34.0, 0.0022),
    "headphones": Kind(700.0, 11_000.0, (12, 12), ((3_200.0, 4.0, 1.5), (6_500.0, 3.0, 2.5)), 0.35, 0.2),
}


@dataclass(frozen=True)
class SpeakerSettings:
    """kind : see KINDS.  treble_db : a shelf at the band's upper end, −12 to 12.  resonance, drive, noise : times the kind's own, 0 to 2.

    under_db : of the low-passed song beneath, below −59 none.  under_hz : where that ends.
    """

    kind: str
    treble_db: float = 0.0
    resonance: float = 1.0
    drive: float = 1.0
    noise: float = 1.0
    under_db: float = -24.0
    under_hz: float = 220.0
    seed: int = 1


def speaker_band(settings: SpeakerSettings, rate: int, amount: float) -> Sequence[Section]:
    """The filter of a small loudspeaker on its way from a full one (amount 0)."""
    kind = KINDS[settings.kind]
    low, high = opened(kind.low_hz, kind.high_hz, amount)
    rings = [bell(hz, amount * gain * settings.resonance, q, rate) for hz, gain, q in kind.bells]
    treble = high_shelf(0.6 * kind.high_hz, amount * settings.treble_db, rate)
    return [*high_pass(low, rate, kind.slopes[0]), *rings, treble, *low_pass(high, rate, kind.slopes[1])]


def small_speaker(rate: int, settings: SpeakerSettings, song_level: float) -> ReplaySettings:
    """The settings of a small loudspeaker; ``song_level`` as for vinyl."""
    kind, seed = KINDS[settings.kind], settings.seed * 16 + 11
    noises: list[tuple[NoiseSource, float]] = []
    if kind.noise_db is not None:
        gain = song_level * settings.noise * amplitude(kind.noise_db)
        hiss = (("high-pass", kind.low_hz, 1.0), ("low-pass", kind.high_hz, 2.0))
        noises.append((ShapedNoise(rate, seed, hiss, 0.999), gain))
        if settings.kind == "newsreel":
            dust = EventStatistics(16.0, (900.0, 3_500.0), (0.2, 0.9), 6.0, width=0.0)
            noises.append((RandomEvents(rate, seed + 1, dust), gain * amplitude(14.0)))
    waves = (Wave(1.1, kind.flutter), Wave(8.3, 0.4 * kind.flutter)) if kind.flutter else ()
    return ReplaySettings(
        band=lambda amount: speaker_band(settings, rate, amount), waves=waves, drive=kind.drive * settings.drive, shape=kind.shape,
        side=kind.side, noises=tuple(noises), under_hz=settings.under_hz,
        under_gain=amplitude(settings.under_db) if settings.under_db > -59.0 else 0.0,
    )  # fmt: skip

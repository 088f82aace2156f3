"""Effects of dynamics: compressors, dynamic high shelf."""

import numpy as np

from latespin.analysis.profile import CENTRES, HIGHS_HZ, Profile
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.control.automation import Automation
from latespin.dsp.dynamics.band_splitter import BandSplitter, MidSideSplitter
from latespin.dsp.dynamics.compressor import Compressor, PartSettings, Splitter
from latespin.dsp.dynamics.dynamic_shelf import DynamicShelf, DynamicShelfSettings
from latespin.dsp.dynamics.gain_follower import Curve
from latespin.dsp.filters.cascade import high_pass, response
from latespin.model.effects import effects as m
from latespin.render.effects.channel_part import ByChannelFactory
from latespin.render.effects.context import EffectContext
from latespin.render.effects.factory import EffectFactory, processor_for
from latespin.render.effects.processors.tone import EqStream, eq_sections

AnyCompressor = m.Compressor | m.MidSideCompressor | m.MultibandCompressor
ALL = np.ones(len(CENTRES))


@processor_for(m.Compressor, m.MidSideCompressor, m.MultibandCompressor)
class CompressorFactory(EffectFactory):
    """See docs/effects.md, Compressors."""

    def build(self, effect: AnyCompressor, context: EffectContext) -> Compressor:
        return Compressor(context.rate, self._settings(effect, context), _splitter(effect, context.rate))

    def set_target(self, processor: Compressor, effect: AnyCompressor, context: EffectContext) -> None:
        processor.set_target(self._settings(effect, context))

    def predict_profile(self, effect: AnyCompressor, context: EffectContext, before: Profile, amount: float) -> Profile:
        mid_gain, side_gain = np.zeros(len(CENTRES)), np.zeros(len(CENTRES))
        whole = _power_in(before, (ALL, ALL))
        for settings, (mid, side) in zip(self._settings(effect, context), _shares(effect), strict=True):
            below = 10.0 * np.log10(_power_in(before, (mid, side)) / whole)
            reduced = before.reduced(settings.curve, offset_db=below) * amplitude(settings.makeup_db) ** 2
            gain = reduced ** (amount * settings.share)
            mid_gain, side_gain = mid_gain + mid * gain, side_gain + side * gain
        return before.through(mid_gain, side_gain)

    def _settings(self, effect: AnyCompressor, context: EffectContext) -> list[PartSettings]:
        """Of each part, with thresholds in full-scale decibels."""
        if isinstance(effect, m.Compressor):
            return [_part_settings(effect, "", context.profile.level**2)]
        return [
            _part_settings(effect, f"{part.lower()}_", _power_in(context.profile, shares))
            for part, shares in zip(effect.parts, _shares(effect), strict=True)
        ]


def _part_settings(effect: AnyCompressor, prefix: str, power: float) -> PartSettings:
    """Settings from the fields that begin with a prefix; the threshold is relative to a power. A compressor of the whole has no amount but the effect's."""
    threshold, ratio, attack, release, makeup = (
        getattr(effect, prefix + field) for field in ("threshold_db", "ratio", "attack_ms", "release_ms", "makeup_db")
    )
    curve = Curve(
        10.0 * np.log10(power) + threshold, ratio, attack / 1000.0, release / 1000.0, knee_db=effect.knee_db,
        adaptive=effect.adaptive_release,
    )  # fmt: skip
    share = getattr(effect, f"{prefix}amount_percent") / 100.0 if prefix else 1.0
    return PartSettings(curve, makeup, share)


def _splitter(effect: AnyCompressor, rate: int) -> Splitter | None:
    """What takes the song apart as the effect wants it."""
    if isinstance(effect, m.MultibandCompressor):
        return BandSplitter(rate, (effect.low_crossover_hz, effect.high_crossover_hz))
    return MidSideSplitter() if isinstance(effect, m.MidSideCompressor) else None


def _shares(effect: AnyCompressor) -> list[tuple[Floats, Floats]]:
    """Which third octaves of mid and of side belong to each part, 0 or 1."""
    if isinstance(effect, m.Compressor):
        return [(ALL, ALL)]
    if isinstance(effect, m.MidSideCompressor):
        return [(ALL, 0.0 * ALL), (0.0 * ALL, ALL)]
    low, high = (effect.low_crossover_hz > CENTRES), (effect.high_crossover_hz <= CENTRES)
    return [(band.astype(np.float64), band.astype(np.float64)) for band in (low, ~(low | high), high)]


def _power_in(profile: Profile, shares: tuple[Floats, Floats]) -> float:
    return float(np.sum(profile.mid * shares[0]) + np.sum(profile.side * shares[1])) + 1e-12


class ShelfAndCut:
    """A dynamic shelf, and a low-pass after it."""

    latency = 0

    def __init__(self, shelf: DynamicShelf, cut: EqStream) -> None:
        self.shelf, self.cut = shelf, cut
        self.warm_up_frames = shelf.warm_up_frames + cut.warm_up_frames

    @property
    def gain_history(self) -> Floats:
        """Of the shelf."""
        return self.shelf.gain_history

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        return self.cut.process(self.shelf.process(block, at, amount), at, amount)


def _gentle_cut(effect: m.DynamicHighShelf) -> m.Eq:
    """The low-pass beside a shelf, with its automation."""
    lanes = tuple(lane for lane in effect.lanes if lane.field == "high_cut_hz")
    return m.Eq(high_cut_hz=effect.high_cut_hz, high_slope="6", lanes=lanes)


@processor_for(m.DynamicHighShelf, around=ByChannelFactory)
class DynamicShelfFactory(EffectFactory):
    """See docs/effects.md, Dynamic high shelf."""

    def build(self, effect: m.DynamicHighShelf, context: EffectContext) -> ShelfAndCut:
        shelf = DynamicShelf(context.rate, self._settings(effect, context))
        return ShelfAndCut(shelf, EqStream(context.rate, _gentle_cut(effect)))

    def set_target(self, processor: ShelfAndCut, effect: m.DynamicHighShelf, context: EffectContext) -> None:
        processor.shelf.set_target(self._settings(effect, context))
        processor.cut.effect = _gentle_cut(effect)

    def _settings(self, effect: m.DynamicHighShelf, context: EffectContext) -> DynamicShelfSettings:
        return DynamicShelfSettings(effect.from_hz, self.curve(effect, context, context.profile))

    def curve(self, effect: m.DynamicHighShelf, context: EffectContext, profile: Profile) -> Curve:  # noqa: ARG002
        """With its threshold in full-scale decibels: it goes by how loud the highs usually are."""
        high = np.abs(response(high_pass(effect.from_hz, 96_000, 12), CENTRES, 96_000)) ** 2
        usual = 10.0 * np.log10(float(np.sum((profile.mid + profile.side) * high)) + 1e-12)
        attack, release = effect.attack_ms / 1000.0, effect.release_ms / 1000.0
        return Curve(usual + effect.threshold_db, effect.ratio, attack, release, effect.most_db)

    def predict_profile(
        self, effect: m.DynamicHighShelf, context: EffectContext, before: Profile, amount: float
    ) -> Profile:
        at_five = float(np.sum((before.mid + before.side)[CENTRES >= HIGHS_HZ])) + 1e-12
        above = float(np.sum((before.mid + before.side)[effect.from_hz <= CENTRES])) + 1e-12
        offset = 10.0 * np.log10(above / at_five)
        gain = before.reduced(self.curve(effect, context, context.profile), highs=True, offset_db=offset) ** amount
        cut = np.abs(response(eq_sections(_gentle_cut(effect), amount, context.rate), CENTRES, context.rate)) ** 2
        return before.through(np.where(effect.from_hz <= CENTRES, gain, 1.0) * cut)

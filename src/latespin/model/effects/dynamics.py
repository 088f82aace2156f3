"""Effects of dynamics: compressors and the dynamic high shelf. What they do is written in docs/effects.md."""

from typing import Annotated, ClassVar

from latespin.model.effects import parameters as e
from latespin.model.effects.channels import ChannelEffect
from latespin.model.effects.declaration import Effect, effect
from latespin.model.values.words import Words

ADAPTIVE = Words("Adaptive release", "Recovers sooner after short peaks; sustained sound keeps the release as set.")
DETAILS = ("attack_ms", "release_ms", "amount_percent")


def _each(parts: tuple[str, ...], fields: tuple[str, ...]) -> tuple[str, ...]:
    """The fields of parts, side by side."""
    return tuple(f"{part}_{field}" for field in fields for part in parts)


class _Compression(Effect, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Settings of a compressor as a whole."""

    amount_percent: Annotated[float, e.amount(70.0, "How much of the gain change you hear.")] = 70.0
    knee_db: Annotated[float, e.KNEE_DB] = e.KNEE_DB.default
    adaptive_release: Annotated[bool, ADAPTIVE] = False


@effect(
    "Compressor", "Tone", "Turns loud parts down, so that quiet ones come forward.", main=("threshold_db", "ratio", "makeup_db"),
    more=("attack_ms", "release_ms", "knee_db", "adaptive_release"),
)  # fmt: skip
class Compressor(_Compression, frozen=True, kw_only=True, tag="compressor"):
    """A compressor with one gain for both channels. Its threshold is relative to the song's loudness."""

    threshold_db: Annotated[float, e.THRESHOLD] = e.THRESHOLD.default
    ratio: Annotated[float, e.RATIO] = e.RATIO.default
    attack_ms: Annotated[float, e.ATTACK_MS] = e.ATTACK_MS.default
    release_ms: Annotated[float, e.RELEASE_MS] = e.RELEASE_MS.default
    makeup_db: Annotated[float, e.MAKEUP_DB] = e.MAKEUP_DB.default

    def active_fields(self) -> dict[str, bool]:
        return {"makeup_db": not self.keep_level}


@effect(
    "Mid/side compressor", "Tone", "Compresses what is in the middle and what is at the sides, each by itself.",
    main=("knee_db", *_each(("mid", "side"), ("threshold_db", "ratio", "makeup_db"))), more=(*_each(("mid", "side"), DETAILS), "adaptive_release"),
    columns=2,
)  # fmt: skip
class MidSideCompressor(_Compression, frozen=True, kw_only=True, tag="mid-side-compressor"):
    """A compressor each for mid and side. Thresholds are relative to the usual level of each in the song."""

    parts: ClassVar[tuple[str, ...]] = ("Mid", "Side")
    mid_threshold_db: Annotated[float, e.of_part("Mid", e.THRESHOLD)] = e.THRESHOLD.default
    mid_ratio: Annotated[float, e.of_part("Mid", e.RATIO)] = e.RATIO.default
    mid_attack_ms: Annotated[float, e.of_part("Mid", e.ATTACK_MS)] = e.ATTACK_MS.default
    mid_release_ms: Annotated[float, e.of_part("Mid", e.RELEASE_MS)] = e.RELEASE_MS.default
    mid_makeup_db: Annotated[float, e.of_part("Mid", e.MAKEUP_DB)] = e.MAKEUP_DB.default
    mid_amount_percent: Annotated[float, e.of_part("Mid", e.PART_AMOUNT)] = e.PART_AMOUNT.default
    side_threshold_db: Annotated[float, e.of_part("Side", e.THRESHOLD)] = e.THRESHOLD.default
    side_ratio: Annotated[float, e.of_part("Side", e.RATIO)] = e.RATIO.default
    side_attack_ms: Annotated[float, e.of_part("Side", e.ATTACK_MS)] = e.ATTACK_MS.default
    side_release_ms: Annotated[float, e.of_part("Side", e.RELEASE_MS)] = e.RELEASE_MS.default
    side_makeup_db: Annotated[float, e.of_part("Side", e.MAKEUP_DB)] = e.MAKEUP_DB.default
    side_amount_percent: Annotated[float, e.of_part("Side", e.PART_AMOUNT)] = e.PART_AMOUNT.default


@effect(
    "Multiband compressor", "Tone", "Compresses lows, mids and highs, each by itself.",
    main=("low_crossover_hz", "high_crossover_hz", *_each(("low", "mid", "high"), ("threshold_db", "ratio", "makeup_db"))),
    more=(*_each(("low", "mid", "high"), DETAILS), "knee_db", "adaptive_release"),
)  # fmt: skip
class MultibandCompressor(_Compression, frozen=True, kw_only=True, tag="multiband-compressor"):
    """A compressor for each of three bands. Thresholds are relative to the usual level of each in the song."""

    parts: ClassVar[tuple[str, ...]] = ("Low", "Mid", "High")
    low_crossover_hz: Annotated[float, e.LOW_CROSSOVER] = e.LOW_CROSSOVER.default
    high_crossover_hz: Annotated[float, e.HIGH_CROSSOVER] = e.HIGH_CROSSOVER.default
    low_threshold_db: Annotated[float, e.of_part("Low", e.THRESHOLD)] = e.THRESHOLD.default
    low_ratio: Annotated[float, e.of_part("Low", e.RATIO)] = e.RATIO.default
    low_attack_ms: Annotated[float, e.of_part("Low", e.ATTACK_MS)] = e.ATTACK_MS.default
    low_release_ms: Annotated[float, e.of_part("Low", e.RELEASE_MS)] = e.RELEASE_MS.default
    low_makeup_db: Annotated[float, e.of_part("Low", e.MAKEUP_DB)] = e.MAKEUP_DB.default
    low_amount_percent: Annotated[float, e.of_part("Low", e.PART_AMOUNT)] = e.PART_AMOUNT.default
    mid_threshold_db: Annotated[float, e.of_part("Mid", e.THRESHOLD)] = e.THRESHOLD.default
    mid_ratio: Annotated[float, e.of_part("Mid", e.RATIO)] = e.RATIO.default
    mid_attack_ms: Annotated[float, e.of_part("Mid", e.ATTACK_MS)] = e.ATTACK_MS.default
    mid_release_ms: Annotated[float, e.of_part("Mid", e.RELEASE_MS)] = e.RELEASE_MS.default
    mid_makeup_db: Annotated[float, e.of_part("Mid", e.MAKEUP_DB)] = e.MAKEUP_DB.default
    mid_amount_percent: Annotated[float, e.of_part("Mid", e.PART_AMOUNT)] = e.PART_AMOUNT.default
    high_threshold_db: Annotated[float, e.of_part("High", e.THRESHOLD)] = e.THRESHOLD.default
    high_ratio: Annotated[float, e.of_part("High", e.RATIO)] = e.RATIO.default
    high_attack_ms: Annotated[float, e.of_part("High", e.ATTACK_MS)] = e.ATTACK_MS.default
    high_release_ms: Annotated[float, e.of_part("High", e.RELEASE_MS)] = e.RELEASE_MS.default
    high_makeup_db: Annotated[float, e.of_part("High", e.MAKEUP_DB)] = e.MAKEUP_DB.default
    high_amount_percent: Annotated[float, e.of_part("High", e.PART_AMOUNT)] = e.PART_AMOUNT.default


@effect(
    "Dynamic high shelf", "Tone", "Turns the highs down only while they are loud.", main=("from_hz", "threshold_db", "most_db", "high_cut_hz"),
    more=("ratio", "attack_ms", "release_ms", "channels"),
)  # fmt: skip
class DynamicHighShelf(ChannelEffect, frozen=True, kw_only=True, tag="deharsh"):
    """A high shelf that goes down while the highs are loud. high_cut_hz : of a gentle low-pass of 6 dB an octave beside it."""

    amount_percent: Annotated[float, e.amount(80.0, "How much of the gain reduction you hear.")] = 80.0
    from_hz: Annotated[float, e.HARSH_HZ] = e.HARSH_HZ.default
    threshold_db: Annotated[float, e.HARSH_OVER] = e.HARSH_OVER.default
    ratio: Annotated[float, e.RATIO] = 3.0
    most_db: Annotated[float, e.MOST] = e.MOST.default
    attack_ms: Annotated[float, e.ATTACK_MS] = 2.0
    release_ms: Annotated[float, e.RELEASE_MS] = 70.0
    high_cut_hz: Annotated[float, e.GENTLE_CUT] = e.GENTLE_CUT.default

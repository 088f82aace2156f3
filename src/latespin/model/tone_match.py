"""Settings of the tone match."""

from collections.abc import Sequence
from typing import Annotated, Literal

import msgspec
import numpy as np

from latespin.analysis.tone import CENTRES, TONE_BANDS, Spectrum, decibels_of, edges_of
from latespin.dsp.arrays import Floats
from latespin.language import tr
from latespin.model.values.parameters import Parameter, ValidatedStruct

MONO_DB = -24.0  # of the sides against the middle, below which a song is practically mono
LOWEST_TOP_HZ, HIGHEST_BOTTOM_HZ = 12_000.0, 70.0
Sides = Literal["match", "leave", "limit"]
Phase = Literal["linear", "minimum"]

MATCH_AMOUNT = Parameter(
    "Amount", "%", 0.0, 100.0, 60.0, 1.0, 0, "How far the version’s tone goes towards the reference’s."
)
SMOOTHING = Parameter(
    "Smoothing", "oct", 1 / 12, 1.0, 1 / 3, 1.1, 2,
    "Over how much of an octave the curve is evened out: less follows the reference more closely, more is safer.", logarithmic=True,
)  # fmt: skip
MATCH_LOW = Parameter(
    "From", "Hz", 20.0, 1000.0, 40.0, 1.05, 0, "Below it the tone is left as it is.", logarithmic=True
)
MATCH_HIGH = Parameter(
    "To", "Hz", 1000.0, 20_000.0, 16_000.0, 1.05, 0, "Above it the tone is left as it is.", logarithmic=True
)
MOST_BOOST = Parameter("Boost at most", "dB", 0.0, 18.0, 6.0, 0.5, 1, "No frequency is raised by more.")
MOST_CUT = Parameter("Cut at most", "dB", 0.0, 18.0, 9.0, 0.5, 1, "No frequency is lowered by more.")
NARROWING = Parameter(
    "Narrower at most", "dB", 0.0, 12.0, 2.0, 0.5, 1,
    "By how much more than the middle the sides may be lowered, where narrowing is limited.",
)  # fmt: skip


class Tone(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The tone of a song's fullest passages: power in twelfths of an octave from 20 Hz, dB, of mid and sides.

    title : whose.  path : where the song was, empty for none.  passages : from when to when it was measured, seconds.
    """

    title: str
    path: str = ""
    mid_db: tuple[float, ...]
    side_db: tuple[float, ...]
    passages: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        if len(self.mid_db) != TONE_BANDS or len(self.side_db) != TONE_BANDS:
            raise ValueError(f"a tone has {TONE_BANDS} bands for the middle and the same number for the sides")
        if not all(-400.0 <= value <= 400.0 for value in (*self.mid_db, *self.side_db)):
            raise ValueError("a tone’s bands lie between −400 and 400 dB")


class Match(ValidatedStruct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A filter from the version's tone towards a reference's. reference : its tone; None where none has been chosen.

    sides : *match* (their own curve), *leave* (the width stays as it is), *limit* (their own curve, but hardly narrower).
    phase : *linear* (nothing is shifted) or *minimum* (nothing sounds before its time).
    """

    on: bool = True
    reference: Tone | None = None
    amount_percent: Annotated[float, MATCH_AMOUNT] = MATCH_AMOUNT.default
    smoothing_octaves: Annotated[float, SMOOTHING] = SMOOTHING.default
    low_hz: Annotated[float, MATCH_LOW] = MATCH_LOW.default
    high_hz: Annotated[float, MATCH_HIGH] = MATCH_HIGH.default
    boost_db: Annotated[float, MOST_BOOST] = MOST_BOOST.default
    cut_db: Annotated[float, MOST_CUT] = MOST_CUT.default
    sides: Sides = "limit"
    narrowing_db: Annotated[float, NARROWING] = NARROWING.default
    phase: Phase = "linear"

    @property
    def heard(self) -> bool:
        """Whether it changes anything."""
        return self.on and self.reference is not None and self.amount_percent > 0.0


def tone_of(spectrum: Spectrum, title: str, path: str = "") -> Tone:
    """A spectrum as it is kept in a session."""
    mid, side = (tuple(np.round(decibels_of(power), 2).tolist()) for power in (spectrum.mid, spectrum.side))
    return Tone(title=title, path=path, mid_db=mid, side_db=side, passages=spectrum.passages)


def powers_of(tone: Tone) -> tuple[Floats, Floats]:
    """Powers of a tone's mid and side."""
    mid, side = (10.0 ** (np.array(values) / 10.0) for values in (tone.mid_db, tone.side_db))
    return mid, side


def averaged(tones: Sequence[Tone]) -> Tone:
    """One tone of several songs, each at the same loudness: the mean in decibels of what each has in a band.

    A song has no say where it has nothing: beyond its edges. Raises ValueError for fewer than two.
    """
    if len(tones) < 2:
        raise ValueError("an average needs two tones or more")
    mids, sides, says = [], [], []
    for tone in tones:
        mid, side = powers_of(tone)
        low, high = edges_of(mid + side)
        whole = 10.0 * np.log10(np.sum(mid + side) + 1e-30)
        mids.append(np.array(tone.mid_db) - whole)
        sides.append(np.array(tone.side_db) - whole)
        says.append(((low <= CENTRES) & (high >= CENTRES)).astype(np.float64))
    weights = np.array(says)
    weights[:, weights.sum(axis=0) == 0.0] = 1.0
    mid_db, side_db = (np.round(np.average(each, axis=0, weights=weights), 2).tolist() for each in (mids, sides))
    return Tone(title=tr("Average of {0} songs").format(len(tones)), mid_db=tuple(mid_db), side_db=tuple(side_db))


def tone_warnings(tone: Tone) -> tuple[str, ...]:
    """Warnings about a reference."""
    mid, side = powers_of(tone)
    said = []
    ratio = 10.0 * np.log10(max(side.sum(), 1e-30) / max(mid.sum(), 1e-30))
    if ratio < MONO_DB:
        said.append(
            tr(
                "It is practically mono: matching its sides would take the width away. Leave them, or limit the narrowing."
            )
        )
    bottom, top = edges_of(mid + side)
    if top < LOWEST_TOP_HZ:
        said.append(
            tr("It has nothing above {0:.1f} kHz: set the upper end of the match below that.").format(top / 1000.0)
        )
    if bottom > HIGHEST_BOTTOM_HZ:
        said.append(tr("It has nothing below {0:.0f} Hz: set the lower end of the match above that.").format(bottom))
    return tuple(said)

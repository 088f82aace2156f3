"""Finding the gain that brings a version to its target where the limiter has to work."""

import math
from contextlib import closing
from dataclasses import dataclass, replace

from latespin.ahead import made_ahead
from latespin.analysis.facts import Facts, FactsMeter
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.metering.loudness import SILENCE_LUFS
from latespin.jobs import Work, step
from latespin.language import tr
from latespin.model.values.units import number
from latespin.model.version import Level
from latespin.render.mastering.level import NO_SPARE, CodecHeadroom, LevelPlan, LevelProcessor, gain_to, levelled_by
from latespin.render.mastering.limited_loudness import LimitedLoudness

TOLERANCE_LU = 0.03
PEAK_TOLERANCE_DB = 0.005
ROUNDS = 10


@dataclass(frozen=True, eq=False)
class PlannedLevel:
    """A plan and what it makes of a version. facts : of the finished sound, where a limiter works; None where they follow from the gain."""

    plan: LevelPlan
    facts: Facts | None = None


def solve_level(
    sound: Audio,
    facts: Facts,
    level: Level,
    work: Work,
    before_lufs: float = SILENCE_LUFS,
    spare: CodecHeadroom = NO_SPARE,
) -> PlannedLevel:
    """The plan that brings ``sound``, whose facts are known, to a Level stage's target.

    before_lufs : loudness of the track as it came.  spare : for the format it is to be written in.

    The limiter is tried on the whole sound until the loudness is met within 0.03 LU and the true peak holds;
    where that would ask more of it than its allowance, the gain stays at what the allowance permits, and where
    more gain would hardly make it louder, at where that begins.
    """
    if not level.on:
        return PlannedLevel(LevelPlan())
    target = level.target(before_lufs)
    if target is not None and not (math.isfinite(facts.loudness.integrated_lufs) and math.isfinite(target)):
        says = tr("The loudness of this sound is undefined (it is silent or too short), so Level leaves it unchanged.")
        return PlannedLevel(LevelPlan(note=says))
    target = None if target is None else target + spare.more_lu
    gain = 0.0 if target is None else gain_to(target, facts)
    if facts.true_peak_dbtp + gain <= level.ceiling_dbtp and not spare.lowered:
        return PlannedLevel(LevelPlan(gain_db=gain))
    most = level.ceiling_dbtp + level.allowance_db - facts.true_peak_dbtp
    return _solve_limited(sound, facts.rate, level, target, min(gain, most), most, spare, work)


def _solve_limited(
    sound: Audio,
    rate: int,
    level: Level,
    target: float | None,
    gain: float,
    most: float,
    spare: CodecHeadroom,
    work: Work,
) -> PlannedLevel:
    wanted_db = level.ceiling_dbtp - spare.headroom_db
    ceiling_db, model, loudest = wanted_db, LimitedLoudness(sound, rate), False
    for round_number in range(ROUNDS):
        step(work, round_number / ROUNDS)
        plan = LevelPlan(gain, amplitude(ceiling_db), link=level.link_percent / 100.0, lowered=spare.lowered)
        tried = _try(sound, rate, plan, work)
        missed = 0.0 if target is None else target - tried.facts.loudness.integrated_lufs
        excess = tried.facts.true_peak_dbtp - wanted_db
        bound = missed > 0.0 and (loudest or abs(gain - most) < 1e-9)
        if excess <= PEAK_TOLERANCE_DB and (abs(missed) <= TOLERANCE_LU or bound):
            break
        ceiling_db -= excess if excess > PEAK_TOLERANCE_DB else 0.0
        if target is not None and abs(missed) > TOLERANCE_LU and not bound:
            gain, loudest = model.gain_for(target, plan, tried.energies, most)
    wanted = None if target is None else target - spare.more_lu
    plan = replace(plan, reduction_db=tried.reduction_db, loudest=loudest and missed > TOLERANCE_LU)
    return PlannedLevel(replace(plan, note=_note(plan, level, wanted, missed)), tried.facts)


@dataclass(frozen=True, eq=False)
class _Tried:
    """What a plan makes of a sound: its facts, the most its limiter took off, and the weighted energy of every hundredth of a second."""

    facts: Facts
    reduction_db: float
    energies: Floats


def _try(sound: Audio, rate: int, plan: LevelPlan, work: Work) -> _Tried:
    """One round: a plan on the whole sound."""
    leveller = LevelProcessor(plan, rate, sound.shape[0])
    meter = FactsMeter(rate, sound.shape[0])
    done = 0
    with closing(made_ahead(levelled_by(leveller, sound))) as blocks:
        for block in blocks:
            step(work, done / sound.shape[1])
            meter.push(block)
            done += block.shape[1]
    return _Tried(meter.result(), leveller.reduction_db, meter.energies())


def _note(plan: LevelPlan, level: Level, wanted: float | None, missed: float) -> str:
    """What the user should know of a plan; empty where it does what was asked.

    missed : LU short of what was wanted.
    """
    if wanted is None:
        if plan.reduction_db <= level.allowance_db + 0.05:
            return ""
        return tr("Holding the ceiling takes {0} dB of limiting.").format(number(plan.reduction_db, 1))
    if missed <= 0.1:
        return ""
    lufs, reached = number(wanted, 1), number(wanted - missed, 1)
    if plan.loudest:
        return tr(
            "The limiter makes this no louder than {1} LUFS, with {2} dB of limiting; {0} LUFS is out of its reach. "
            "Compress it, or lower the loudness."
        ).format(lufs, reached, number(plan.reduction_db, 1))
    return tr(
        "Reaching {0} LUFS takes more than {1} dB of limiting; the version is at {2} LUFS. "
        "Raise the maximum limiting, or lower the loudness."
    ).format(lufs, number(level.allowance_db, 1), reached)

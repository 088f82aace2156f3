"""Formats that lose something give back other peaks than they were given: these are looked for in the decoded file.

Where one is over the ceiling, the ceiling is lowered just there, so that the loudness of the whole does not suffer, and the file made anew.
What a lower ceiling takes off a format's peak is less than what it is lowered by; a little more is therefore asked for at once. What is still
over after that makes all of it quieter.
"""

from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from latespin.analysis.facts import BLOCK_FRAMES, Facts
from latespin.dsp.arrays import Audio, Floats, amplitude, decibels
from latespin.dsp.dynamics.limiter import PLACE_SECONDS
from latespin.dsp.metering.true_peak import peak_envelope
from latespin.jobs import Quietly
from latespin.language import tr
from latespin.media.audio.formats import Encoding, format_of
from latespin.media.audio.writers import lame_scale
from latespin.media.track import open_track
from latespin.memory import let_go
from latespin.model.values.units import number
from latespin.model.version import Level
from latespin.render.hearing import Hearing
from latespin.render.mastering.level import CodecHeadroom, LevelPlan

PEAK_DB, LOUDNESS_LU = 0.045, 0.08  # beyond which a file is made once more
BELOW_DB = 0.1  # by which a ceiling is lowered beyond what its peak asks for
MORE = (1.3, 2.0, 3.0)  # dB for each dB that a peak is over, the first time and after that
AROUND, LOWEST = 5, 0.5  # places lowered round each of them, and the least a ceiling is multiplied by
HEADROOM_DB = {".ogg": 0.2, ".m4a": 0.4, ".mp3": 0.5, ".opus": 0.5}  # what they make of peaks that a limiter has cut


@dataclass(frozen=True, eq=False)
class Decoded:
    """Levels of an encoded file. over : peaks relative to the ceiling, as a ratio, in each ``PLACE_SECONDS``."""

    facts: Facts
    over: Floats


def decode_and_measure(file: Path, ceiling_dbtp: float) -> Decoded:
    """Decode a file that has been written, and measure it."""
    with Hearing() as hearing:
        track = open_track(file, Quietly(), fold=False, listener=hearing)
        facts, _ = hearing.result(track)
    if facts.true_peak_dbtp <= ceiling_dbtp:
        return Decoded(facts, np.ones(1))
    return Decoded(facts, over_by_place(track.sound, track.rate, amplitude(ceiling_dbtp)))


def over_by_place(sound: Audio, rate: int, ceiling: float) -> Floats:
    """The highest true peak of each place, over the ceiling; 1 where it is below."""
    span = PLACE_SECONDS * rate
    over = np.ones(int(sound.shape[1] / span) + 1)
    for start in range(0, sound.shape[1], BLOCK_FRAMES):
        early = min(start, round(span))
        peaks = peak_envelope(sound[:, start - early : start + BLOCK_FRAMES + round(span)], rate, ceiling)
        first = int((start - early) / span)
        edges = (
            np.ceil(np.arange(first, int((start - early + len(peaks) - 1) / span) + 1) * span).astype(np.int64)
            - start
            + early
        )
        found = np.maximum.reduceat(peaks, np.maximum(0, edges)) / ceiling
        over[first : first + len(found)] = np.maximum(over[first : first + len(found)], found)
        let_go(sound)
    return over


def lowered_where_over(over: Floats, turn: int) -> Floats:
    """What ceilings are multiplied by for peaks that are over them, as ratios by place; around those, too. turn : 0 the first time."""
    from scipy.ndimage import maximum_filter1d  # seldom needed

    asked = np.where(over > 1.0, np.maximum(1.0, over) ** -MORE[turn] * amplitude(-BELOW_DB), 1.0)
    return np.asarray(np.maximum(LOWEST, -maximum_filter1d(-asked, AROUND)))


def is_astray(decoded: Decoded, level: Level, target_lufs: float | None) -> bool:
    """True if a decoded file is over the ceiling or off its target. target_lufs : None without a target."""
    if not level.on:
        return False
    off = 0.0 if target_lufs is None else abs(decoded.facts.loudness.integrated_lufs - target_lufs)
    return decoded.facts.true_peak_dbtp - level.ceiling_dbtp > PEAK_DB or off > LOUDNESS_LU


def spare_for(target: Path, encoding: Encoding, rate: int) -> CodecHeadroom:
    """Initial headroom of a format, for a song of ``rate``. MP3 gets the room that LAME would otherwise leave by itself."""
    kind, suffix = format_of(target), target.suffix.lower()
    if not kind.is_lossy(encoding):
        return CodecHeadroom(0.0)
    room = lame_scale(encoding.kbps, kind.rate_for(rate, encoding)) if suffix == ".mp3" else 1.0
    return CodecHeadroom(HEADROOM_DB[suffix] - decibels(room))


def spared_there(spare: CodecHeadroom, decoded: Decoded, turn: int, target_lufs: float | None = None) -> CodecHeadroom:
    """A ceiling that is lower where decoded peaks are over it, and around that; and a little lower everywhere.

    turn : 0 the first time.  target_lufs : what the decoded file should have; None where it is out of reach or not asked for.
    """
    if target_lufs is not None:
        spare = replace(spare, more_lu=spare.more_lu + target_lufs - decoded.facts.loudness.integrated_lufs)
    if not np.any(decoded.over > 1.0):
        return spare
    asked = lowered_where_over(decoded.over, turn)
    before = np.ones(len(asked))
    before[: len(spare.lowered)] = spare.lowered[: len(asked)]
    lowered = tuple(np.maximum(LOWEST, before * asked).tolist())
    return replace(spare, headroom_db=spare.headroom_db + BELOW_DB, lowered=lowered)


def quieter(plan: LevelPlan, decoded: Decoded, level: Level) -> LevelPlan:
    """The same, all of it as much quieter as the decoded file's highest peak is over the ceiling."""
    down = decoded.facts.true_peak_dbtp - level.ceiling_dbtp + 0.5 * PEAK_DB
    lufs = number(decoded.facts.loudness.integrated_lufs - down, 1)
    note = tr("The peaks that this format adds hold the ceiling only at {0} LUFS.").format(lufs)
    ceiling = plan.ceiling * amplitude(-down) if plan.ceiling is not None else None
    return replace(plan, gain_db=plan.gain_db - down, ceiling=ceiling, note=plan.note or note)

"""Where a lossy format would add peaks, found on passages before the file is made.

A limiter holds the ceiling of what an encoder is given, not of what comes back. All of a version is encoded once in passages, several at a time,
and decoded; where peaks are over, the ceiling is lowered just there and only those passages are tried again. Passages begin where frames of the
format and places of the limiter begin, so that they are cut into the same frames as in the finished file.
"""

import math
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from fractions import Fraction
from pathlib import Path

import numpy as np

from latespin.analysis.facts import BLOCK_FRAMES
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.dynamics.limiter import PLACE_SECONDS
from latespin.errors import LateSpinError
from latespin.jobs import Share, Work, step
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import FORMATS, Encoding
from latespin.media.tags import Tags
from latespin.media.track import open_track
from latespin.memory import let_go
from latespin.render.export.codec_headroom import MORE, PEAK_DB, lowered_where_over, over_by_place
from latespin.render.mastering.level import LevelPlan, LevelProcessor
from latespin.render.mastering.measure import LevelSolution

WARM_UP_SECONDS = 12.0  # of the limiter, whose slow stage remembers for seconds
EDGE_SECONDS = 0.5  # at both ends of a passage that do not count
AROUND_SECONDS = 0.3  # of a peak, that is tried again with it
AT_ONCE = 2
PASSAGES, LONGEST_SECONDS = 2 * AT_ONCE, 120.0  # the first trial: the least number of passages, and the longest one


@dataclass(frozen=True)
class Passage:
    """start, stop : places (hundredths of a second) that are looked at."""

    start: int
    stop: int


def settled(solved: LevelSolution, target: Path, encoding: Encoding, work: Work) -> LevelSolution:
    """The same with a ceiling that is lower where the format of ``target`` would add peaks. Raises Cancelled.

    Where the passages cannot be written, it stays as it is: the whole file is checked in any case.
    """
    plan, rate = solved.plan, solved.matched.rate
    places = math.ceil(solved.sound.shape[1] / (PLACE_SECONDS * rate))
    lowered = np.ones(places)
    lowered[: len(plan.lowered)] = plan.lowered[:places]
    long = min(round(LONGEST_SECONDS / PLACE_SECONDS), math.ceil(places / PASSAGES))
    passages = [Passage(start, min(places, start + long)) for start in range(0, places, long)]
    try:
        with tempfile.TemporaryDirectory(prefix="late-spin-") as folder, ThreadPoolExecutor(AT_ONCE, "trial") as pool:
            for turn in range(len(MORE)):
                now = Share(work, turn / len(MORE), turn / len(MORE))
                tried = replace(plan, lowered=tuple(lowered.tolist()))
                trial = _Trial(solved, tried, target.suffix.lower(), encoding, Path(folder), now)
                over = np.ones(places)
                for passage, found in zip(passages, pool.map(trial.of, passages), strict=True):
                    over[passage.start : passage.stop] = found
                if over.max(initial=1.0) <= amplitude(0.5 * PEAK_DB):
                    break
                lowered *= lowered_where_over(over, turn)
                passages = passages_around(over, places)
    except (LateSpinError, OSError):
        return solved
    return solved.with_plan(replace(plan, lowered=tuple(lowered.tolist())))


def passages_around(over: Floats, places: int) -> list[Passage]:
    """The passages around all places that are over, overlapping ones as one."""
    reach = round(AROUND_SECONDS / PLACE_SECONDS)
    found: list[Passage] = []
    for place in np.flatnonzero(over > 1.0).tolist():
        start, stop = max(0, place - reach), min(places, place + reach + 1)
        if found and start <= found[-1].stop:
            start = found.pop().start
        found.append(Passage(start, stop))
    return found


@dataclass(frozen=True, eq=False)
class _Trial:
    """Passages of a version with a plan, in a format."""

    solved: LevelSolution
    plan: LevelPlan
    suffix: str
    encoding: Encoding
    folder: Path
    work: Work

    def of(self, passage: Passage) -> Floats:
        """How far the decoded peaks of each place of a passage are over the ceiling, as a ratio. Raises Cancelled."""
        rate = self.solved.matched.rate
        first = self._grid_start(passage.start * PLACE_SECONDS - EDGE_SECONDS)
        stop = math.ceil((passage.stop * PLACE_SECONDS + EDGE_SECONDS) * rate)
        file = self.folder / f"{passage.start}{self.suffix}"
        encode(
            file, self._levelled(first, stop), rate=rate, channels=self.solved.matched.channels, encoding=self.encoding, tags=Tags(),
            overwrite=True, sources=(),
        )  # fmt: skip
        step(self.work, 1.0)
        decoded = open_track(file, self.work, fold=False)
        file.unlink()
        over = over_by_place(decoded.sound, decoded.rate, amplitude(self.solved.level.ceiling_dbtp))
        begun = round(first / rate / PLACE_SECONDS)
        out = np.ones(passage.stop - passage.start)
        heard = over[passage.start - begun : passage.stop - begun]
        out[: len(heard)] = heard
        return out

    def _grid_start(self, seconds: float) -> int:
        """The last frame not after a time at which a unit of the format and a place of the limiter begin."""
        rate = self.solved.matched.rate
        kind = FORMATS[self.suffix]
        grid = _common(Fraction(kind.frame, kind.rate_for(rate, self.encoding)), Fraction(1, 100), Fraction(1, rate))
        return int(max(0, math.floor(Fraction(max(0.0, seconds)) / grid)) * grid * rate)

    def _levelled(self, first: int, stop: int) -> Iterator[Audio]:
        """Frames ``first`` to ``stop`` of the finished sound, the limiter warmed up before them."""
        sound, rate = self.solved.sound, self.solved.matched.rate
        early = max(0, first - round(WARM_UP_SECONDS) * rate)
        lowered = self.plan.lowered[round(early / rate / PLACE_SECONDS) :]
        leveller = LevelProcessor(replace(self.plan, match=None, lowered=lowered), rate, sound.shape[0])
        skipped, left = first - early, min(stop, sound.shape[1]) - first
        for at in range(early, sound.shape[1] + BLOCK_FRAMES, BLOCK_FRAMES):
            if self.work.cancelled() or left <= 0:
                break
            part = sound[:, at : at + BLOCK_FRAMES]
            block = leveller.process(part) if part.shape[1] else leveller.finish()
            drop = min(skipped, block.shape[1])
            block = block[:, drop : drop + left]
            skipped, left = skipped - drop, left - block.shape[1]
            yield block
            let_go(sound)


def _common(*parts: Fraction) -> Fraction:
    """The least common multiple of fractions."""
    made = parts[0]
    for part in parts[1:]:
        made = Fraction(math.lcm(made.numerator, part.numerator), math.gcd(made.denominator, part.denominator))
    return made

"""A part of a version, to be exported by itself: chosen by hand, or found: the loudest passage, or the most typical one."""

from collections import defaultdict
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from latespin.analysis.results import SectionKind
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.metering.loudness import GATING_HOP_STEPS, STEPS_PER_SECOND, Loudness
from latespin.errors import Unusable
from latespin.language import localised, tr
from latespin.model.arranging.arrangement import Arrangement
from latespin.model.timing.positions import Layout, downbeats
from latespin.model.values.units import clock

Search = Literal["loudest", "typical"]
HOP_SECONDS = GATING_HOP_STEPS / STEPS_PER_SECOND
SHORTEST_SECONDS, SHORTEST_SHARE = 0.5, 0.75
BARLESS_STEP = 0.5  # seconds between the places tried in a song without bars
NEAR_SECONDS = 0.05


@dataclass(frozen=True)
class Excerpt:
    """Seconds ``start`` to ``stop`` of a version, with fades at both ends, seconds."""

    start: float
    stop: float
    fade_in: float = 0.0
    fade_out: float = 0.0

    def frames(self, rate: int, length: int) -> tuple[int, int]:
        """Its first frame and the one behind its last, in a version of ``length`` frames. Raises Unusable where too little is left."""
        first, last = max(0, round(self.start * rate)), min(length, round(self.stop * rate))
        if last - first < SHORTEST_SECONDS * rate:
            ends = (clock(seconds, 1) for seconds in (self.start, self.stop, length / rate))
            says = tr(
                "The excerpt {0} to {1} is too short, or beyond the version’s end at {2}. Give it at least {3} s."
            )
            raise Unusable(says.format(*ends, localised(f"{SHORTEST_SECONDS:g}")))
        return first, last

    def fade(self, block: Audio, done: int, frames: int, rate: int) -> None:
        """Fade a block in place, ``done`` frames after the excerpt's start, of ``frames`` in all."""
        at = done + np.arange(block.shape[1])
        for length, place in ((self.fade_in, at), (self.fade_out, frames - 1 - at)):
            wanted = min(frames // 2, round(length * rate))
            if wanted > 0 and place.min() < wanted:
                block *= _half_cosine(place / wanted).astype(np.float32)


@dataclass(frozen=True)
class ExcerptSearch:
    """An excerpt of about ``seconds``, to be found once the version is rendered."""

    search: Search
    seconds: float
    fade_in: float = 0.0
    fade_out: float = 0.0

    def found(self, loudness: Loudness, arrangement: Arrangement, layout: Layout) -> Excerpt:
        """The excerpt. Raises Unusable."""
        found = found_excerpt(self.search, self.seconds, loudness, arrangement, layout)
        return replace(found, fade_in=self.fade_in, fade_out=self.fade_out)


def _half_cosine(share: Floats) -> Floats:
    return 0.5 - 0.5 * np.cos(np.pi * np.clip(share, 0.0, 1.0))


def found_excerpt(
    search: Search, seconds: float, loudness: Loudness, arrangement: Arrangement, layout: Layout
) -> Excerpt:
    """The loudest passage of about ``seconds``, or the most typical one: the loudest that begins with a typical section.

    Choruses are typical; in a song without any, the kind of section that lasts longest in all. A song without sections
    gives its loudest passage. It begins and, where bars allow, ends on a bar line, and is not longer than asked.

    loudness : of the version.  Raises Unusable.
    """
    rate, power = layout.rate, np.asarray(loudness.blocks)
    length = arrangement.map.after_frames / rate
    if length < seconds or not len(power):
        raise Unusable(
            tr("The version is only {0} long. Ask for a shorter excerpt, or export all of it.").format(clock(length, 1))
        )
    bars = _bars(arrangement, layout)
    starts = bars if len(bars) else np.arange(0.0, length, BARLESS_STEP)
    if search == "typical":
        sections = _typical_sections(arrangement, layout)
        near = [start for start in starts if len(sections) and np.abs(sections - start).min() < NEAR_SECONDS]
        starts = np.array(near) if any(start + seconds <= length for start in near) else starts
    starts = starts[starts + seconds <= length + NEAR_SECONDS]
    if not len(starts):
        starts = np.array([length - seconds])
    summed = np.append(0.0, np.cumsum(power))
    ends = np.array([_end(start, seconds, bars) for start in starts])
    first, last = ((place / HOP_SECONDS).astype(int).clip(0, len(power) - 1) for place in (starts, ends))
    mean = (summed[last] - summed[first]) / np.maximum(1, last - first)
    best = int(np.argmax(mean))
    return Excerpt(float(starts[best]), float(ends[best]))


def _end(start: float, seconds: float, bars: Floats) -> float:
    fitting = bars[(bars <= start + seconds + NEAR_SECONDS) & (bars >= start + SHORTEST_SHARE * seconds)]
    return float(fitting[-1]) if len(fitting) else start + seconds


def _bars(arrangement: Arrangement, layout: Layout) -> Floats:
    """The seconds of the version at which bars begin."""
    if layout.grid is None:
        return np.zeros(0)
    return _in_version(downbeats(layout, 0.0, layout.seconds)[0], arrangement, layout)


def _typical_sections(arrangement: Arrangement, layout: Layout) -> Floats:
    """The seconds of the version at which choruses begin; without any, sections of the kind that lasts longest."""
    if not layout.sections:
        return np.zeros(0)
    starts = [start for start, _ in layout.sections]
    lasting: dict[SectionKind, float] = defaultdict(float)
    for (start, kind), end in zip(layout.sections, [*starts[1:], layout.seconds], strict=True):
        lasting[kind] += end - start
    kind = "chorus" if "chorus" in lasting else max(lasting, key=lambda name: lasting[name])
    return _in_version(np.array([start for start, own in layout.sections if own == kind]), arrangement, layout)


def _in_version(seconds: Floats, arrangement: Arrangement, layout: Layout) -> Floats:
    if not len(seconds):
        return np.zeros(0)
    return np.unique(arrangement.map.after_of_all(np.maximum(0.0, seconds) * layout.rate) / layout.rate)

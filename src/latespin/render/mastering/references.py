"""A reference opened for listening: at the rate of the song it is compared with, in stereo."""

from dataclasses import replace
from pathlib import Path

import numpy as np

from latespin.analysis.facts import facts_of
from latespin.jobs import Share, Work, step
from latespin.media.track import Track, open_track
from latespin.render.chain.renderer import TrackRenderer


def open_reference(path: Path, rate: int, work: Work) -> tuple[TrackRenderer, float]:
    """Its readers at ``rate``, and how loud it is heard, LUFS. Raises Unreadable, Cancelled."""
    track = open_track(path, Share(work, 0.0, 0.7))
    facts = facts_of(track.sound, track.rate)
    step(work, 0.8)
    return TrackRenderer(at_rate(track, rate)), facts.heard_lufs


def at_rate(track: Track, rate: int) -> Track:
    """The same track resampled."""
    if track.rate == rate:
        return track
    import soxr

    sound = soxr.resample(np.ascontiguousarray(track.sound.T), track.rate, rate, quality="HQ")
    return replace(track, sound=np.ascontiguousarray(sound.T, np.float32), rate=rate)

"""Making a pad of a slice of a song, and writing it with its loop points."""

from pathlib import Path

import numpy as np
import soundfile

from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.stretching.pad_stretch import seamless, smeared
from latespin.dsp.stretching.varispeed import read_at
from latespin.errors import Unusable
from latespin.jobs import Work, step
from latespin.media.audio.riff import append, sample_loop
from latespin.media.files.atomic import written_whole
from latespin.media.files.guard import Sources
from latespin.media.track import Track
from latespin.model.effects.effects import AnyEffect, Compressor, Echo, Hall, Width
from latespin.model.pad import Pad
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer

SHORTEST_SECONDS, LONGEST_SECONDS, LONGEST_PAD_SECONDS = 0.1, 60.0, 600.0
PEAK = amplitude(-1.0)
BLOCK = 1 << 16


def pad_colours(pad: Pad) -> tuple[AnyEffect, ...]:
    """The effects a pad passes, as those of a version."""
    return (
        Width(id="width", amount_percent=pad.width_percent, sides_percent=140.0, delay_ms=17.0),
        Echo(id="echo", amount_percent=0.6 * pad.echo_percent, value="1/2", feedback_percent=45.0, ping_pong=True),
        Hall(id="hall", amount_percent=pad.hall_percent, decay_seconds=5.5, size_percent=85.0, tone_hz=5_000.0),
        Compressor(
            id="even",
            amount_percent=pad.evenness_percent,
            threshold_db=-6.0,
            ratio=4.0,
            attack_ms=60.0,
            release_ms=600.0,
        ),
    )


def make_pad(slice_: Audio, rate: int, pad: Pad, work: Work, grid: Grid | None = None) -> Audio:
    """A pad ``[2, frames]`` of a slice of a song ``[channels, frames]``: goes round without a seam, peak −1 dB.

    Raises Unusable for slices that are too short, too long or silent; Cancelled.
    """
    seconds = slice_.shape[1] / rate
    if not SHORTEST_SECONDS <= seconds <= LONGEST_SECONDS:
        raise Unusable(
            f"A pad is made of a slice of {SHORTEST_SECONDS:g} to {LONGEST_SECONDS:g} s, not of {seconds:.2f} s. Mark another range."
        )
    if seconds * pad.smear > LONGEST_PAD_SECONDS:
        raise Unusable(
            f"That would last {seconds * pad.smear / 60.0:.1f} minutes; a pad lasts 10 at most. Smear it less, or mark a shorter range."
        )
    if not np.any(np.abs(slice_) > 1e-6):
        raise Unusable("There is nothing to be heard in the marked range. Mark another one.")
    ratio = 2.0 ** (pad.semitones / 12.0)
    moved = slice_ if ratio == 1.0 else read_at(slice_, 0.0, ratio, max(2, int(slice_.shape[1] / ratio)))
    moved = np.ascontiguousarray(moved[:, ::-1]) if pad.backwards else moved
    step(work, 0.05)
    cloud = smeared(moved, rate, pad.smear) if pad.smear > 1.0 else moved
    step(work, 0.4)
    return _finished(seamless(_with_effects(cloud, rate, pad, work, grid), rate, pad.fade_seconds))


def _with_effects(cloud: Audio, rate: int, pad: Pad, work: Work, grid: Grid | None) -> Audio:
    """The cloud twice through its effects; the second time round they are filled, so that the loop rings into itself."""
    both = cloud if cloud.shape[0] == 2 else np.repeat(cloud, 2, axis=0)
    track = Track(Path("pad"), np.concatenate((both, both), axis=1), rate, 2, "")
    chain = TrackRenderer(track, grid).chain(Stages(colour=Colour(effects=pad_colours(pad))))
    length, parts = both.shape[1], []
    while chain.position < 2 * length:
        step(work, 0.4 + 0.55 * chain.position / (2 * length))
        parts.append(chain.read(min(BLOCK, 2 * length - chain.position)))
    return np.ascontiguousarray(np.concatenate(parts, axis=1)[:, length:])


def _finished(loop: Audio) -> Audio:
    peak = float(np.abs(loop).max())
    return np.asarray(loop * np.float32(PEAK / peak)) if peak > 0.0 else loop


def write_pad(pad: Audio, rate: int, target: Path, *, overwrite: bool, sources: Sources) -> None:
    """Write a pad as WAV with its loop points, 24 bit.  sources : the files that are not to be touched. Raises Unwritable."""
    with written_whole(target, overwrite=overwrite, sources=sources) as part:
        soundfile.write(str(part), pad.T, rate, subtype="PCM_24", format="WAV")
        with part.open("r+b") as file:
            append(file, sample_loop(rate, 0, pad.shape[1] - 1))

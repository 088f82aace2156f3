"""Making a pad of a slice of a song, and writing it with its loop points."""

from pathlib import Path

import numpy as np
import soundfile
from msgspec.structs import replace

from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.stretching.pad_stretch import seamless, smeared
from latespin.dsp.stretching.varispeed import read_at
from latespin.errors import Unusable
from latespin.jobs import Work, step
from latespin.language import localised, tr
from latespin.media.audio.riff import append, sample_loop
from latespin.media.files.atomic import written_whole
from latespin.media.files.guard import Sources
from latespin.media.track import Track
from latespin.model.effects.effects import AnyEffect, Echo, Eq, Hall, MultibandCompressor, Width
from latespin.model.pad import Pad
from latespin.model.timing.beat_grid import Grid
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.context import AutomatedEffect, EffectContext, amount_of

SHORTEST_SECONDS, LONGEST_SECONDS, LONGEST_PAD_SECONDS = 0.1, 60.0, 600.0
PEAK = amplitude(-1.0)
BLOCK = 1 << 16


def pad_effects(pad: Pad) -> tuple[AnyEffect, ...]:
    """The effects a pad passes, as those of a version."""
    return (
        Eq(
            id="eq",
            low_cut_hz=pad.low_cut_hz,
            high_cut_hz=pad.high_cut_hz,
            low_shelf_db=pad.low_shelf_db,
            high_shelf_db=pad.high_shelf_db,
        ),
        Width(id="width", amount_percent=pad.width_percent, sides_percent=140.0, delay_ms=17.0),
        Echo(
            id="echo",
            amount_percent=0.6 * pad.echo_percent,
            value=pad.echo_value,
            feedback_percent=45.0,
            ping_pong=True,
        ),
        Hall(id="hall", amount_percent=pad.hall_percent, decay_seconds=5.5, size_percent=85.0, tone_hz=5_000.0),
        replace(MultibandCompressor(id="even", amount_percent=pad.evenness_percent), **_evened(pad)),
    )


def _evened(pad: Pad) -> dict[str, float]:
    """The settings of each band of the compressor."""
    settings = {"threshold_db": -6.0, "ratio": 4.0, "attack_ms": 60.0, "release_ms": 600.0}
    bands = ("low", "mid", "high")
    same = {f"{band}_{field}": value for band in bands for field, value in settings.items()}
    return same | {f"{band}_amount_percent": getattr(pad, f"{band}_even_percent") for band in bands}


def effects_at(stages: Stages, context: EffectContext, before_seconds: float) -> tuple[AnyEffect, ...]:
    """The effects of a version as they are set at a place of the song, without automation."""
    frame = round(float(context.clock.map.after_at(before_seconds * context.rate)))
    found = []
    for effect in stages.colour.heard:
        amount = amount_of(effect, context.clock).point(frame)
        here = AutomatedEffect(effect, context.clock).at(frame)
        found.append(replace(here, id=f"here {effect.id}", amount_percent=100.0 * min(1.0, max(0.0, amount)), lanes=()))
    return tuple(found)


def make_pad(
    slice_: Audio, rate: int, pad: Pad, work: Work, grid: Grid | None = None, here: tuple[AnyEffect, ...] = ()
) -> Audio:
    """A pad ``[2, frames]`` of a slice of a song ``[channels, frames]``: goes round without a seam, peak −1 dB.

    here : the version's effects, used where the pad asks for them.

    Raises Unusable for slices that are too short, too long or silent; Cancelled.
    """
    seconds = slice_.shape[1] / rate
    if not SHORTEST_SECONDS <= seconds <= LONGEST_SECONDS:
        raise Unusable(
            tr("A pad is made of a slice of {0} to {1} s, not of {2} s. Mark another range.").format(
                localised(f"{SHORTEST_SECONDS:g}"), localised(f"{LONGEST_SECONDS:g}"), localised(f"{seconds:.2f}")
            )
        )
    if seconds * pad.smear > LONGEST_PAD_SECONDS:
        raise Unusable(
            tr("That would last {0} minutes; a pad lasts 10 at most. Smear it less, or mark a shorter range.").format(
                localised(f"{seconds * pad.smear / 60.0:.1f}")
            )
        )
    if not np.any(np.abs(slice_) > 1e-6):
        raise Unusable(tr("There is nothing to be heard in the marked range. Mark another one."))
    ratio = 2.0 ** (pad.semitones / 12.0)
    moved = slice_ if ratio == 1.0 else read_at(slice_, 0.0, ratio, max(2, int(slice_.shape[1] / ratio)))
    moved = np.ascontiguousarray(moved[:, ::-1]) if pad.backwards else moved
    step(work, 0.05)
    effects = (*pad_effects(pad), *(here if pad.effects_here else ()))
    cloud = smeared(moved, rate, pad.smear) if pad.smear > 1.0 else moved
    step(work, 0.4)
    return _finished(seamless(_with_effects(cloud, rate, effects, work, grid), rate, pad.fade_seconds))


def _with_effects(cloud: Audio, rate: int, effects: tuple[AnyEffect, ...], work: Work, grid: Grid | None) -> Audio:
    """The cloud twice through its effects; the second time round they are filled, so that the loop rings into itself."""
    both = cloud if cloud.shape[0] == 2 else np.repeat(cloud, 2, axis=0)
    track = Track(Path("pad"), np.concatenate((both, both), axis=1), rate, 2, "")
    chain = TrackRenderer(track, grid).chain(Stages(colour=Colour(effects=effects)))
    length, parts = both.shape[1], []
    while chain.position < 2 * length:
        step(work, 0.4 + 0.55 * chain.position / (2 * length))
        parts.append(chain.read(min(BLOCK, 2 * length - chain.position)))
    return np.ascontiguousarray(np.concatenate(parts, axis=1)[:, length:])


def _finished(loop: Audio) -> Audio:
    peak = float(np.abs(loop).max())
    return np.asarray(loop * np.float32(PEAK / peak)) if peak > 0.0 else loop


def write_pad(pad: Audio, rate: int, target: Path, *, overwrite: bool, sources: Sources, note: float = 60.0) -> None:
    """Write a pad as WAV with its loop points and the note it sounds at (as MIDI counts), 24 bit.  sources : the files that are not to be touched. Raises Unwritable."""
    with written_whole(target, overwrite=overwrite, sources=sources) as part:
        soundfile.write(str(part), pad.T, rate, subtype="PCM_24", format="WAV")
        with part.open("r+b") as file:
            append(file, sample_loop(rate, 0, pad.shape[1] - 1, min(127, max(0, round(note)))))

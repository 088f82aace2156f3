"""Runs every kernel once, so that its compiled form is in the cache."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np

from latespin.analysis.reading import read_song
from latespin.dsp.dither import Quantiser
from latespin.dsp.dynamics.output_guard import OutputGuard
from latespin.jobs import Quietly, Work, step
from latespin.media.track import Track
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS
from latespin.model.effects.effects import Hall
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.held import HeldRepeat, HeldStop
from latespin.model.moments.moments import Moments, TapeStop
from latespin.model.timing.positions import Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.compiled_stamp import mark_compiled
from latespin.render.mastering.measure import measure

_MOVING = Lane(
    field="amount_percent", points=tuple(LanePoint(at=Position(seconds=at), value=50.0 + at) for at in (0.1, 0.4))
)
_MOVING_DECAY = Lane(
    field="decay_seconds", points=tuple(LanePoint(at=Position(seconds=at), value=0.2 + at) for at in (0.1, 0.4))
)
_EFFECTS: tuple[Any, ...] = (
    Hall(id="hall", decay_seconds=0.2, duck_db=6.0),
    Hall(id="moving hall", decay_seconds=0.2, lanes=(_MOVING_DECAY,)),
    *(kind(id=name) for name, kind in EFFECTS.items() if name != "hall"),
    *(EFFECTS[name](id=f"moving {name}", lanes=(_MOVING,)) for name in ("eq", "orbit", "underwater", "vinyl")),
)

_STAGES = Stages(
    time=Time(speed=0.9, pitch="held", semitones=1.0),
    colour=Colour(effects=_EFFECTS),
    level=Level(target_lufs=-6.0, allowance_db=12.0),
)


_CURVED = Time(curve=(CurvePoint(place=0.0, speed=0.9), CurvePoint(place=1.0, speed=1.2)))

_SMEARED = Time(speed=0.5, pitch="held", character="smear", formants="kept", formant_semitones=1.0)


_PLACED = Stages(
    moments=Moments(
        placed=(
            TapeStop(id="stop", start=Position(seconds=0.1), end=Position(seconds=0.4)),
            ColourDip(id="dip", start=Position(seconds=0.5), end=Position(seconds=0.8), colour="phone"),
            HeldRepeat(id="held", start=Position(seconds=0.85), end=Position(seconds=0.9), material="drums"),
            HeldStop(id="slow", start=Position(seconds=0.92), end=Position(seconds=0.95)),
        )
    )
)


def compile_kernels(work: Work | None = None) -> None:
    """Render half a second of noise through every stage, in one channel and in two. Raises Cancelled."""
    work, rate = work or Quietly(), 44_100
    random = np.random.default_rng(0)
    noise = random.standard_normal((2, rate)).astype(np.float32)
    steps: list[Callable[[], object]] = [
        lambda: OutputGuard(rate).process(noise),
        lambda: Quantiser(24).process(noise),
    ]
    for sound in (noise, noise[:1].copy()):
        readers = TrackRenderer(Track(Path("warm-up"), sound, rate, sound.shape[0], ""))
        versions = Stages(time=_CURVED), _STAGES, Stages(time=_SMEARED), _PLACED
        steps += [partial(measure, readers, stages, Quietly()) for stages in versions]
    steps.append(lambda: read_song(random.standard_normal((1, 12 * rate)).astype(np.float32), rate, Quietly()))
    for number, make in enumerate(steps):
        step(work, number / len(steps))
        make()
    mark_compiled()

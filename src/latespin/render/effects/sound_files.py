"""Sounds from other files: loaded once, at the song's rate, in stereo, with data derived from them and notes on failures."""

import threading
from collections.abc import Callable
from pathlib import Path
from typing import Any, TypeVar

import numpy as np

from latespin.caches import MEGABYTE, Cache
from latespin.dsp.arrays import Audio
from latespin.dsp.stretching.varispeed import read_at
from latespin.errors import LateSpinError
from latespin.language import tr
from latespin.media.audio.downmix import fold_to_stereo
from latespin.media.exchange.sofa import Ears, read_ears
from latespin.media.track import open_track
from latespin.model.arranging.placement import Problem
from latespin.model.effects.declaration import effect_title
from latespin.model.effects.effects import effect_path, needs_file
from latespin.model.moments.declaration import moment_info
from latespin.model.moments.moments import DropIn
from latespin.model.values.units import clock
from latespin.model.version import Stages
from latespin.paths import is_file

KEPT, KEPT_MADE = 8, 24
Made = TypeVar("Made")


class SoundLibrary:
    """The sounds used last, each at one rate. Those that cannot be opened are silent; ``faults`` has a sentence why, by their path.

    shortened : the paths of those of which only a part is used.
    """

    def __init__(self, rate: int) -> None:
        self._rate = rate
        self._kept: Cache[tuple[str, bool], Audio] = Cache("sounds of other files", 256 * MEGABYTE, KEPT)
        self._made: Cache[Any, tuple[Any]] = Cache("made of sounds", 192 * MEGABYTE, KEPT_MADE)
        self.faults: dict[str, str] = {}
        self.shortened: set[str] = set()
        self._lock = threading.RLock()

    def load(self, path: str, *, true_stereo: bool = False) -> Audio | None:
        """``[2, frames]``, or None. true_stereo : files with four channels keep them, ``[4, frames]``; any other layout is folded to stereo."""
        key = (path, true_stereo)
        with self._lock:
            found = self._kept.get(key)
            if found is None:
                try:
                    track = open_track(Path(path), fold=not true_stereo)
                except LateSpinError as error:
                    self.faults[path] = str(error)
                    return None
                self.faults.pop(path, None)
                ratio = track.rate / self._rate
                sound = track.sound if ratio == 1.0 else read_at(track.sound, 0.0, ratio, int(track.frames / ratio))
                if true_stereo and sound.shape[0] != 4:
                    sound = fold_to_stereo(sound)
                found = np.ascontiguousarray(sound if sound.shape[0] > 1 else np.repeat(sound, 2, axis=0))
                self._kept.put(key, found)
            return found

    def load_at_most(self, path: str, longest_seconds: float, *, true_stereo: bool = False) -> Audio | None:
        """Like :meth:`load`; a sound that is too long is cut, with a warning."""
        sound = self.load(path, true_stereo=true_stereo)
        most = round(longest_seconds * self._rate)
        if sound is not None and sound.shape[1] > most:
            lasts = clock(sound.shape[1] / self._rate, 1)
            self.shortened.add(path)
            says = tr("{0} lasts {1}; only its first {2} are used.")
            self.faults[path] = says.format(Path(path).name, lasts, clock(longest_seconds))
            return sound[:, :most]
        return sound

    def refuse_silent(self, path: str) -> None:
        """Note that a file has nothing to be heard."""
        self.faults[path] = tr("{0} is silent. Choose another sound.").format(Path(path).name)

    def kept(self, key: object, make: Callable[[], Made]) -> Made:
        """The value of a key: an earlier one, without waiting, or a new one."""
        known = self._made.get(key)
        if known is None:
            with self._lock:
                known = self._made.get_or_make(key, lambda: (make(),))
        found: Made = known[0]
        return found

    def has(self, key: object) -> bool:
        """Whether something was made under a key."""
        return key in self._made

    def ears(self, path: str) -> Ears | None:
        """A listener's measured ears, or None."""

        def read() -> Ears | None:
            try:
                return read_ears(Path(path))
            except LateSpinError as error:
                self.faults[path] = str(error)
                return None

        return self.kept(("ears file", path), read)


def missing_sounds(stages: Stages) -> tuple[Problem, ...]:
    """Drop-ins and effects whose file is not there; the rest of the version is heard all the same."""
    found = [
        (moment.id, tr(moment_info("drop-in").title), moment.path)
        for moment in stages.moments.heard
        if isinstance(moment, DropIn) and not is_file(moment.path)
    ]
    found += [
        (ident, tr(effect_title(effect)), effect_path(effect))
        for ident, effect in stages.heard_effects
        if needs_file(effect) and not is_file(effect_path(effect))
    ]
    return tuple(
        Problem(
            ident,
            tr("{0}: {1} is not there. Choose its file again.").format(title, path)
            if path
            else tr("{0}: no file is chosen. Choose one.").format(title),
        )
        for ident, title, path in found
    )


def faulty_sounds(stages: Stages, sounds: SoundLibrary) -> tuple[Problem, ...]:
    """Effects whose file was opened and is not what it should be."""
    found = [(ident, effect, effect_path(effect)) for ident, effect in stages.heard_effects if needs_file(effect)]
    return tuple(
        Problem(ident, f"{tr(effect_title(effect))}: {sounds.faults[path]}", path not in sounds.shortened)
        for ident, effect, path in found
        if path in sounds.faults and is_file(path)
    )

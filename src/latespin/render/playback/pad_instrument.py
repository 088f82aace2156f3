"""A pad played on keys: every key a voice that goes round the loop at the pitch of its note."""

import threading
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio

ATTACK_SECONDS, RELEASE_SECONDS = 0.02, 0.3
VOICE_GAIN = np.float32(0.5)
MOST_VOICES = 12


@dataclass
class _Voice:
    """place : frame of the loop.  ratio : frames for each frame played.  gain : 0 to 1, on its way up while it is held, else down."""

    place: float
    ratio: float
    gain: float = 0.0
    held: bool = True


class PadInstrument:
    """``press`` and ``release`` come from the keys, ``pull`` from the device; from any thread.

    loop : ``[2, frames]``, seamless.  note : the note it sounds at, as MIDI counts.
    """

    def __init__(self, loop: Audio, rate: int, note: float) -> None:
        self._loop, self._note = loop, note
        self._up, self._down = 1.0 / (ATTACK_SECONDS * rate), 1.0 / (RELEASE_SECONDS * rate)
        self._voices: dict[int, _Voice] = {}
        self._fading: list[_Voice] = []
        self._lock = threading.Lock()

    def press(self, note: int) -> None:
        """Begin a note; one that sounds already begins again, over its own fade."""
        with self._lock:
            self._let_go(note)
            self._voices[note] = _Voice(0.0, 2.0 ** ((note - self._note) / 12.0))
            del self._fading[: max(0, len(self._voices) + len(self._fading) - MOST_VOICES)]

    def release(self, note: int) -> None:
        """Let a note fade."""
        with self._lock:
            self._let_go(note)

    def release_all(self) -> None:
        """Let all notes fade."""
        with self._lock:
            for note in list(self._voices):
                self._let_go(note)

    @property
    def sounding(self) -> bool:
        """Whether anything is to be heard."""
        return bool(self._voices or self._fading)

    def pull(self, frames: int) -> Audio:
        """The next ``[2, frames]``."""
        out = np.zeros((2, frames), np.float32)
        with self._lock:
            for voice in (*self._voices.values(), *self._fading):
                self._add(voice, out)
            self._fading = [voice for voice in self._fading if voice.gain > 0.0]
        return out

    def _let_go(self, note: int) -> None:
        voice = self._voices.pop(note, None)
        if voice is not None:
            voice.held = False
            self._fading.append(voice)

    def _add(self, voice: _Voice, out: Audio) -> None:
        steps = np.arange(1, out.shape[1] + 1)
        gains = np.clip(voice.gain + steps * (self._up if voice.held else -self._down), 0.0, 1.0)
        at = (voice.place + np.arange(out.shape[1]) * voice.ratio) % self._loop.shape[1]
        out += VOICE_GAIN * gains.astype(np.float32) * _between(self._loop, at)
        voice.place = float((voice.place + out.shape[1] * voice.ratio) % self._loop.shape[1])
        voice.gain = float(gains[-1])


def _between(loop: Audio, at: np.ndarray) -> Audio:
    """The loop between its frames, by cubic Hermite curves through four of them (Catmull and Rom 1974)."""
    first = np.floor(at).astype(np.int64)
    x = (at - first).astype(np.float32)
    a, b, c, d = (loop[:, (first + k) % loop.shape[1]] for k in (-1, 0, 1, 2))
    slope, turn = 0.5 * (c - a), 0.5 * (d - b)
    return np.asarray(
        b + x * (slope + x * (3.0 * (c - b) - 2.0 * slope - turn + x * (2.0 * (b - c) + slope + turn))), np.float32
    )

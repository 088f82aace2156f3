"""The held moves that read other frames of the finished sound, and the crossfades between them."""

from dataclasses import dataclass, field

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.fades import raised_cosine
from latespin.render.playing.legs import Course, Leg, Sound, Straight

FADE_SECONDS = 0.004


@dataclass
class _Voice:
    """A leg that is heard.  began : where it faded in, or None.  ended : where it began to fade out, once for every later leg."""

    leg: Leg
    began: int | None = None
    ended: list[int] = field(default_factory=list)

    def gains(self, first: int, frames: int, fade: int) -> Floats | None:
        """Its gains, or None where it is all that is heard."""
        if (self.began is None or first >= self.began + fade) and not self.ended:
            return None
        at = np.arange(first, first + frames) + 0.5
        gains = np.ones(frames)
        if self.began is not None:
            gains *= raised_cosine(np.clip((at - self.began) / fade, 0.0, 1.0))
        for end in self.ended:
            gains *= 1.0 - raised_cosine(np.clip((at - end) / fade, 0.0, 1.0))
        return gains


class TimeHand:
    """Plays the latest of the moves that are held, or the song. The result does not depend on the blocks.

    sound : the finished sound.  drums : its drums.
    """

    def __init__(self, rate: int, sound: Sound, drums: Sound) -> None:
        self._sound, self._drums = sound, drums
        self._fade = max(2, round(FADE_SECONDS * rate))
        self._held: list[tuple[str, Course]] = []
        self._voices = [_Voice(Leg(0, 0.0))]

    @property
    def held(self) -> bool:
        """Whether any move is."""
        return bool(self._held)

    def idle(self, frame: int) -> bool:
        """Whether nothing but the song is heard from a frame on."""
        voices = self._voices
        return (
            not self._held and len(voices) == 1 and (voices[0].began is None or frame >= voices[0].began + self._fade)
        )

    def press(self, ident: str, course: Course, frame: int) -> None:
        """Begin a move at a frame; one of that name ends."""
        self._held = [held for held in self._held if held[0] != ident]
        self._held.append((ident, course))
        self._turn(frame)

    def release(self, ident: str, frame: int) -> None:
        """End a move at a frame; the one held before it comes back, or the song."""
        top = self._held[-1][0] if self._held else ""
        self._held = [held for held in self._held if held[0] != ident]
        if ident == top:
            self._turn(frame)

    def process(self, first: int, frames: int) -> Audio:
        """The next ``[2, frames]`` from frame ``first`` on."""
        out = np.empty((2, frames), np.float32)
        done = 0
        while done < frames:
            at = first + done
            leg = self._voices[-1].leg
            if leg.stop is not None and at >= leg.stop:
                self._turn(at)
                leg = self._voices[-1].leg
            stop = min(first + frames, leg.stop if leg.stop is not None else first + frames)
            out[:, done : stop - first] = self._mixed(at, stop - at)
            done = stop - first
        return out

    def _course(self) -> Course:
        return self._held[-1][1] if self._held else Straight()

    def _turn(self, frame: int) -> None:
        """Go over to what is to be heard from a frame on."""
        leg, now = self._course().leg_at(frame), self._voices[-1]
        if leg.continues(now.leg):
            now.leg = leg
            return
        for voice in self._voices:
            voice.ended.append(frame)
        self._voices.append(_Voice(leg, frame))

    def _mixed(self, first: int, frames: int) -> Audio:
        """All that is heard of a piece without a turn."""
        self._voices = [v for v in self._voices if not v.ended or first < v.ended[0] + self._fade]
        mixed: Audio | None = None
        for voice in self._voices:
            heard = self._heard(voice.leg, first, frames)
            gains = voice.gains(first, frames, self._fade)
            if gains is not None:
                heard = heard * gains.astype(np.float32)
            mixed = heard if mixed is None else mixed + heard
        assert mixed is not None
        return mixed

    def _heard(self, leg: Leg, first: int, frames: int) -> Audio:
        if not leg.drums:
            return leg.read(self._sound, first, frames)
        return self._sound(first, frames) - self._drums(first, frames) + leg.read(self._drums, first, frames)

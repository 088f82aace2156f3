"""Stutter of the drums alone, as something laid over the music."""

from collections.abc import Callable

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.filters.percussive import CONTEXT_SECONDS, are_drums_clear, drums_of
from latespin.model.arranging.arrangement import DrumStutter, edge_frames
from latespin.render.timeline.overlays import PrecomputedOverlay, Reads, led_in


class DrumStutterOverlay(PrecomputedOverlay):
    """Difference signal that turns the drums of a passage into their stutter: stuttered drums minus drums.

    unclear : called if there are hardly any drums.
    """

    def __init__(
        self, music: Reads, stutter: DrumStutter, rate: int, channels: int, unclear: Callable[[], object]
    ) -> None:
        self._edge = min(edge_frames(rate), stutter.after)
        super().__init__(stutter.after - self._edge, stutter.stop - stutter.start + self._edge, channels)
        self._read_music, self._stutter, self._rate, self._tell_unclear = music, stutter, rate, unclear

    def _all(self) -> Audio:
        s, edge = self._stutter, self._edge
        margin = round(CONTEXT_SECONDS * self._rate)
        first = min(s.start, *(place for _, _, place, _ in s.repeats)) - margin
        music = self._read_music(first, s.stop + margin - first)
        drums = drums_of(music, self._rate)
        if not are_drums_clear(music, drums, self._rate):
            self._tell_unclear()
        made = np.zeros((drums.shape[0], self.frames), np.float32)
        for start, stop, place, backwards in s.repeats:
            fade = min(edge, (stop - start) // 3)
            heard = drums[:, place - first - fade : place - first + stop - start]
            if backwards:
                heard = drums[:, place - first : place - first + stop - start + fade][:, ::-1]
            made[:, start - s.start + edge - fade : stop - s.start + edge] += heard * led_in(stop - start + fade, fade)
        there = slice(s.start - first - edge, s.stop - first)
        made -= drums[:, there] * led_in(self.frames, edge)
        return made

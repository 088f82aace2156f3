"""A hall: a feedback delay network of sixteen lines with an exact decay time.

* Network with an orthogonal (Hadamard) feedback matrix: J.-M. Jot and A. Chaigne, "Digital delay
  networks for designing artificial reverberators", 90th AES Convention, 1991; M. R. Schroeder, "Natural
  sounding artificial reverberation", JAES 10(3), 1962, for the allpass diffusers in front.
* Decay by frequency: two first-order shelves in each line whose gains in dB are proportional to the line's
  length, so that all lines decay alike at every frequency (Jot and Chaigne 1991, section 3; shelves made by the
  bilinear transform). Corners and gains are fitted to the decays asked for in octaves, by least squares on decay rates
  (after S. J. Schlecht and E. A. P. Habets, "Accurate reverberation time control in feedback delay networks", DAFx-17).
* Lows and highs decay sooner or later than the middle. What is then measured over the whole band is worked out beforehand
  from the integral of all decays, and all of them scaled so that the broadband T30 (ISO 3382-1) is the time asked for.
* Early reflections: sparse taps of alternating sign on the diffused input, each channel its own, which fill the time until the
  lines answer densely (velvet noise: H. Järveläinen and M. Karjalainen, "Reverberation modeling using velvet noise", AES 30th
  Conference, 2007).
"""

import numpy as np

from latespin.dsp.arrays import Audio, Floats, check_audio
from latespin.dsp.control.smoothing import STEP, SmoothedValue
from latespin.dsp.reverb.hall_design import (
    DELAYS,
    DIFFUSER_MS,
    DUCK,
    INPUT,
    LINES,
    MIX,
    SHELVES,
    SWING,
    TAIL_DB,
    WARM_UP_DB,
    HallSettings,
    early_taps,
    fall_frames,
    line_lengths,
    steered,
)
from latespin.dsp.reverb.hall_kernels import (
    CHUNK,
    absorb_moving,
    diffuse,
    duck,
    feed_back,
    mix_moving,
    read_lines,
    reflect,
    store_early,
)
from latespin.dsp.reverb.hall_network import pass_through

DUCK_ATTACK_SECONDS, DUCK_RELEASE_SECONDS = 0.02, 0.12


class Hall:
    """A streaming hall for stereo blocks of any size; no latency.

    start_frame : the place in the song of the first frame to come, which sets the slow modulation, so that
    a hall begun in the middle (and warmed up for ``warm_up_frames``) sounds as one begun at the start.
    """

    latency = 0

    def __init__(self, rate: int, settings: HallSettings, start_frame: int = 0) -> None:
        self._settings, self._rate = settings, rate
        self._values = SmoothedValue(steered(settings, rate))
        delays = line_lengths(rate, settings.size)
        pre_delay = round(settings.pre_delay_seconds * rate)
        self._lines = np.zeros((LINES, _power_of_two(int(delays.max()) + 4096)), np.float32)
        self._shelf_state = np.zeros((LINES, 4), np.float32)
        self._input = np.zeros((2, _power_of_two(pre_delay + 4096)), np.float32)
        self._filter_state = np.zeros((2, 6))
        lengths = np.array([max(2, round(ms * rate / 1000)) for ms in DIFFUSER_MS])
        self._diffuser_lengths = np.stack((lengths, np.round(lengths * 1.07).astype(np.int64)))
        self._diffusers = np.zeros((2, len(DIFFUSER_MS), int(self._diffuser_lengths.max()) + 1), np.float32)
        self._speeds = 2.0 * np.pi * np.linspace(0.31, 0.83, LINES) / rate
        self._frame = start_frame
        self._size, self._earlier_size = settings.size, settings.size
        self._duck_speeds = 1.0 - np.exp(-1.0 / (np.array([DUCK_ATTACK_SECONDS, DUCK_RELEASE_SECONDS]) * rate))
        self._heard = np.array([0.0, 1.0, 1.0])
        early = _power_of_two(int(early_taps(rate, settings.size)[0].max()) + 4096)
        self._early = np.zeros((2, early + CHUNK), np.float32)
        self.tail_frames = fall_frames(rate, settings, TAIL_DB)
        self.warm_up_frames = fall_frames(rate, settings, WARM_UP_DB)

    def set_target(self, settings: HallSettings) -> None:
        """Go to other settings, of a size and a pre-delay no larger than those it was made with."""
        if settings != self._settings:
            self._values.to(steered(settings, self._rate))
            self._settings, self._earlier_size, self._size = settings, self._size, settings.size
            if self._values.steady:
                self._earlier_size = self._size

    def process(self, block: Audio) -> Audio:
        """Process one more stereo block ``[2, frames]``; returns the same number of frames."""
        check_audio(block)
        if self._settings.amount == 0.0:
            return block.copy()
        out, start = np.empty_like(block), 0
        while start < block.shape[1]:
            if self._values.steady:
                out[:, start:] = self._pass_through(np.ascontiguousarray(block[:, start:]))
                break
            now, then, count = self._values.pass_by(min(block.shape[1] - start, self._longest_step()))
            part = slice(start, start + count)
            out[:, part] = self._step(np.ascontiguousarray(block[:, part]), now, then)
            start += count
            if self._values.left == 0:
                self._earlier_size = self._size
        return out

    def _pass_through(self, block: Audio) -> Audio:
        """What is heard of a whole block, while nothing moves."""
        out = np.empty_like(block)
        values, _, frames = self._values.pass_by(block.shape[1])
        state = _by_four(self._shelf_state)
        pass_through(
            block, self._frame, self._input, values[INPUT], self._filter_state, self._diffuser_lengths, self._diffusers,
            self._lines, values[DELAYS].astype(np.int64), self._speeds, values[SWING],
            _by_four(_shelves_in(values)), state, self._early,
            *early_taps(self._rate, self._size), values[DUCK], self._duck_speeds, self._heard, values[MIX].astype(np.float32), out,
        )  # fmt: skip
        self._shelf_state = state.transpose(0, 2, 1).reshape(LINES, 4)
        self._frame += frames
        return out

    def _longest_step(self) -> int:
        """How many frames may be worked on at once while lengths move: none of them may come round within them."""
        values = self._values.now
        return int(values[DELAYS].min()) - int(np.ceil(values[SWING])) - 6 - STEP

    def _step(self, block: Audio, now: Floats, then: Floats) -> Audio:
        """What is heard of a few frames while the values go from ``now`` to ``then``."""
        frames = block.shape[1]
        diffuse(
            block, self._frame, self._input, now[INPUT], then[INPUT], self._filter_state,
            self._diffuser_lengths, self._diffusers, wet := np.empty((2, frames), np.float32),
        )  # fmt: skip
        taps = np.empty((LINES, frames), np.float32)
        read_lines(self._lines, now[DELAYS], then[DELAYS], self._frame, self._speeds, now[SWING], then[SWING], taps)
        absorb_moving(taps, _shelves_in(now), _shelves_in(then), self._shelf_state)
        early = self._reflected(wet)
        room = np.ones(frames, np.float32)
        if now[DUCK] > 0.0 or then[DUCK] > 0.0:
            duck(block[0], block[1], self._frame, self._duck_speeds, now[DUCK], then[DUCK], self._heard, room)
        out = block.copy()
        mix_moving(taps, early, room, now[MIX], then[MIX], out)
        feed_back(taps, wet[0], wet[1], frames, self._lines, self._frame)
        self._frame += frames
        return out

    def _reflected(self, wet: Audio) -> Audio:
        """The early reflections; while the size changes, from those of the size before to those of the size now."""
        for channel in range(2):
            store_early(self._early[channel], self._frame, wet[channel])
        early = np.zeros(wet.shape, np.float32)
        reflect(self._early, self._frame, *early_taps(self._rate, self._size), wet.shape[1], early)
        if self._earlier_size != self._size:
            before = np.zeros(wet.shape, np.float32)
            reflect(self._early, self._frame, *early_taps(self._rate, self._earlier_size), wet.shape[1], before)
            gone = 1.0 - self._values.left / STEP
            share = gone - (wet.shape[1] - np.arange(wet.shape[1])) / STEP
            early = (before + share.astype(np.float32) * (early - before)).astype(np.float32)
        return early


def _shelves_in(values: Floats) -> Audio:
    return values[SHELVES].reshape(LINES, 6).astype(np.float32)


def _by_four(values: Audio) -> Audio:
    """``[lines, values]`` as ``[lines / 4, values, 4]``."""
    return np.ascontiguousarray(values.reshape(LINES // 4, 4, -1).transpose(0, 2, 1))


def _power_of_two(length: int) -> int:
    return 1 << (length - 1).bit_length()

"""A hall: a feedback delay network of sixteen lines whose decay time is the one asked for.

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
from numba import njit

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

DUCK_ATTACK_SECONDS, DUCK_RELEASE_SECONDS = 0.02, 0.12
DUCK_FROM_DB, DUCK_TO_DB = -45.0, -15.0  # level of the dry sound between which the wet one gives way
DIFFUSER_GAIN = 0.62
PIECE = 64


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
        self._early = np.zeros((2, _power_of_two(int(early_taps(rate, settings.size)[0].max()) + 4096)), np.float32)
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
        """Hear one more stereo block ``[2, frames]``; returns as many frames."""
        check_audio(block)
        if self._settings.amount == 0.0:
            return block.copy()
        out, start = np.empty_like(block), 0
        while start < block.shape[1]:
            now, then, count = self._values.pass_by(min(block.shape[1] - start, self._longest_step()))
            part = slice(start, start + count)
            out[:, part] = self._step(np.ascontiguousarray(block[:, part]), now, then)
            start += count
            if self._values.steady:
                self._earlier_size = self._size
        return out

    def _longest_step(self) -> int:
        """How many frames may be worked on at once: none of them may come round within them."""
        values = self._values.now
        return int(values[DELAYS].min()) - int(np.ceil(values[SWING])) - 6 - (0 if self._values.steady else STEP)

    def _step(self, block: Audio, now: Floats, then: Floats) -> Audio:
        """What is heard of a few frames, the values going from ``now`` to ``then``."""
        frames = block.shape[1]
        _diffuse(
            block, self._frame, self._input, now[INPUT], then[INPUT], self._filter_state,
            self._diffuser_lengths, self._diffusers, wet := np.empty((2, frames), np.float32),
        )  # fmt: skip
        taps = np.empty((LINES, frames), np.float32)
        _read_lines(self._lines, now[DELAYS], then[DELAYS], self._frame, self._speeds, now[SWING], then[SWING], taps)
        if now is then:
            _absorb(taps, _shelves_in(now), self._shelf_state)
        else:
            _absorb_moving(taps, _shelves_in(now), _shelves_in(then), self._shelf_state)
        early = self._reflected(wet)
        room = np.ones(frames, np.float32)
        if now[DUCK] > 0.0 or then[DUCK] > 0.0:
            _give_way(block, self._frame, self._duck_speeds, now[DUCK], then[DUCK], self._heard, room)
        out = block.copy()
        _mix_lines(taps, wet, early, room, self._lines, self._frame, now[MIX], then[MIX], now is not then, out)
        self._frame += frames
        return out

    def _reflected(self, wet: Audio) -> Audio:
        """The early reflections; while the size changes, from those of the size before to those of the size now."""
        for channel in range(2):
            _store_line(self._early[channel], self._frame, wet[channel])
        early = np.zeros(wet.shape, np.float32)
        _reflect(self._early, self._frame, *early_taps(self._rate, self._size), early)
        if self._earlier_size != self._size:
            before = np.zeros(wet.shape, np.float32)
            _reflect(self._early, self._frame, *early_taps(self._rate, self._earlier_size), before)
            gone = 1.0 - self._values.left / STEP
            share = gone - (wet.shape[1] - np.arange(wet.shape[1])) / STEP
            early = (before + share.astype(np.float32) * (early - before)).astype(np.float32)
        return early


def _shelves_in(values: Floats) -> Audio:
    return values[SHELVES].reshape(LINES, 6).astype(np.float32)


def _power_of_two(length: int) -> int:
    return 1 << (length - 1).bit_length()


@njit(cache=True, nogil=True)
def _diffuse(block, frame, memory, now, then, state, lengths, diffusers, out):  # type: ignore[no-untyped-def]
    """Pre-delay, tone, low cut, and four Schroeder allpasses for each channel. now, then : pre-delay, and eight of the filters."""
    mask = memory.shape[1] - 1
    frames = block.shape[1]
    steady = np.all(now == then)
    late, slope = now[0], (then[0] - now[0]) / frames
    whole, steps = int(now[0]), (then[1:] - now[1:]) / frames
    c = now[1:].copy()
    for channel in range(2):
        s = state[channel]
        c[:] = now[1:]
        for n in range(frames):
            memory[channel, (frame + n) & mask] = block[channel, n]
            if steady:
                x = float(memory[channel, (frame + n - whole) & mask]) + 1e-25
            else:
                back = max(1.0, late + slope * n)
                before = int(back)
                part = back - before
                row = memory[channel]
                x = (
                    (1.0 - part) * row[(frame + n - before) & mask]
                    + part * row[(frame + n - before - 1) & mask]
                    + 1e-25
                )
                for i in range(8):
                    c[i] += steps[i]
            y = c[0] * x + s[0]
            s[0] = c[1] * x - c[3] * y + s[1]
            s[1] = c[2] * x - c[4] * y
            z = c[5] * y + s[2]
            s[2] = c[6] * y - c[7] * z
            out[channel, n] = z
        for i in range(lengths.shape[1]):
            _allpass(out[channel], frame, diffusers[channel, i, : lengths[channel, i]])


@njit(cache=True, nogil=True, fastmath=True)
def _allpass(sound, frame, ring):  # type: ignore[no-untyped-def]
    """Schroeder's allpass, in place, in runs no longer than its delay, so that each is done all at once."""
    gain = np.float32(DIFFUSER_GAIN)
    done = 0
    while done < len(sound):
        at = (frame + done) % len(ring)
        count = min(len(ring) - at, len(sound) - done)
        part, kept = sound[done : done + count], ring[at : at + count]
        for n in range(count):
            fed = part[n] + gain * kept[n]
            part[n] = kept[n] - gain * fed
            kept[n] = fed
        done += count


@njit(cache=True, nogil=True, fastmath=True)
def _read_lines(lines, now, then, frame, speeds, swing, later_swing, taps):  # type: ignore[no-untyped-def]
    """Every other line's length sways a little; read by third-order Lagrange interpolation. All lengths go from ``now`` to ``then``.

    The sway is a chain of straight pieces between places of the song that are multiples of PIECE.
    """
    frames = taps.shape[1]
    heard = np.empty(PIECE + 3, np.float32)
    growth = (later_swing - swing) / frames
    for i in range(lines.shape[0]):
        longer = (then[i] - now[i]) / frames
        if i % 2 and longer == 0.0:
            _copy_line(lines[i], frame - int(now[i]), taps[i])
            continue
        n = 0
        while n < frames:
            piece = (frame + n) // PIECE
            ahead = piece * PIECE - frame
            count = min(ahead + PIECE, frames) - n
            start, slope = 0.0, 0.0
            if i % 2 == 0:
                start = (swing + growth * ahead) * np.sin(speeds[i] * piece * PIECE + 0.7 * i)
                end = (swing + growth * (ahead + PIECE)) * np.sin(speeds[i] * (piece + 1) * PIECE + 0.7 * i)
                slope = (end - start) / PIECE
            if longer == 0.0:
                whole = int(np.floor(start))
                first = np.float32(start - whole + slope * (n - ahead))
                _copy_line(lines[i], frame + n - int(now[i]) + whole - 1, heard[: count + 3])
                _lagrange(heard, first, np.float32(slope), taps[i, n : n + count])
            else:
                place = frame + n + start + slope * (n - ahead) - now[i] - longer * n
                _read_moving(lines[i], place, 1.0 + slope - longer, taps[i, n : n + count])
            n += count


@njit(cache=True, nogil=True)
def _read_moving(line, place, speed, out):  # type: ignore[no-untyped-def]
    """A line read from a place on at a speed, by third-order Lagrange interpolation."""
    mask = len(line) - 1
    for n in range(len(out)):
        whole = int(np.floor(place + n * speed))
        d = np.float32(place + n * speed - whole)
        below, above, far = d + np.float32(1.0), d - np.float32(1.0), d - np.float32(2.0)
        outer = (
            (line[(whole + 2) & mask] * below * above - line[(whole - 1) & mask] * above * far) * d / np.float32(6.0)
        )
        inner = (line[whole & mask] * above - line[(whole + 1) & mask] * d) * below * far / np.float32(2.0)
        out[n] = outer + inner


@njit(cache=True, nogil=True)
def _copy_line(line, start, out):  # type: ignore[no-untyped-def]
    """Copy from a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(out), len(line) - at)
    out[:head] = line[at : at + head]
    out[head:] = line[: len(out) - head]


@njit(cache=True, nogil=True, fastmath=True)
def _lagrange(heard, first, slope, out):  # type: ignore[no-untyped-def]
    """``out[n]`` is read ``first + n · slope`` beyond ``heard[n + 1]``."""
    sixth, half = np.float32(1.0 / 6.0), np.float32(0.5)
    one, two = np.float32(1.0), np.float32(2.0)
    p, q, r, s = heard[: len(out)], heard[1 : len(out) + 1], heard[2 : len(out) + 2], heard[3 : len(out) + 3]
    for n in range(len(out)):
        d = first + np.float32(n) * slope
        below, above, far = d + one, d - one, d - two
        out[n] = (s[n] * below * above - p[n] * above * far) * d * sixth + (
            q[n] * above - r[n] * d
        ) * below * far * half


@njit(cache=True, nogil=True, fastmath=True)
def _absorb(taps, values, state):  # type: ignore[no-untyped-def]
    """The loss of one pass through each line, in place; two lines at once, since each frame waits for the one before it."""
    for i in range(0, taps.shape[0], 2):
        b0, b1, a1, c0, c1, d1 = values[i]
        b2, b3, a2, c2, c3, d2 = values[i + 1]
        x1, y1, u1, v1 = state[i]
        x2, y2, u2, v2 = state[i + 1]
        line, other = taps[i], taps[i + 1]
        for n in range(taps.shape[1]):
            x, z = line[n], other[n]
            y1 = (b0 * x + b1 * x1) - a1 * y1
            y2 = (b2 * z + b3 * x2) - a2 * y2
            x1, x2 = x, z
            v1 = (c0 * y1 + c1 * u1) - d1 * v1
            v2 = (c2 * y2 + c3 * u2) - d2 * v2
            u1, u2 = y1, y2
            line[n], other[n] = v1, v2
        state[i, 0], state[i, 1], state[i, 2], state[i, 3] = x1, y1, u1, v1
        state[i + 1, 0], state[i + 1, 1], state[i + 1, 2], state[i + 1, 3] = x2, y2, u2, v2


@njit(cache=True, nogil=True, error_model="numpy")
def _absorb_moving(taps, now, then, state):  # type: ignore[no-untyped-def]
    """The same while its values go from ``now`` to ``then``."""
    frames = taps.shape[1]
    for i in range(taps.shape[0]):
        x1, y1, u1, v1 = state[i]
        line = taps[i]
        for n in range(frames):
            part = np.float32(n / frames)
            b0, b1 = now[i, 0] + part * (then[i, 0] - now[i, 0]), now[i, 1] + part * (then[i, 1] - now[i, 1])
            a1, c0 = now[i, 2] + part * (then[i, 2] - now[i, 2]), now[i, 3] + part * (then[i, 3] - now[i, 3])
            c1, d1 = now[i, 4] + part * (then[i, 4] - now[i, 4]), now[i, 5] + part * (then[i, 5] - now[i, 5])
            x = line[n]
            y1 = b0 * x + b1 * x1 - a1 * y1
            x1 = x
            v1 = c0 * y1 + c1 * u1 - d1 * v1
            u1 = y1
            line[n] = v1
        state[i, 0], state[i, 1], state[i, 2], state[i, 3] = x1, y1, u1, v1


@njit(cache=True, nogil=True)
def _give_way(dry, frame, speeds, now, then, heard, gains):  # type: ignore[no-untyped-def]
    """Gains of the wet sound below a dry one, by ``now`` to ``then`` dB: its power is followed, quicker up than down.

    The gain is worked out at every eighth frame and reached at the next.
    """
    power, gain, before = heard
    frames = dry.shape[1]
    for n in range(frames):
        sound = 0.5 * (float(dry[0, n]) ** 2 + float(dry[1, n]) ** 2)
        power += (speeds[0] if sound > power else speeds[1]) * (sound - power)
        place = (frame + n) % 8
        if place == 0:
            level = 10.0 * np.log10(power + 1e-12)
            part = min(1.0, max(0.0, (level - DUCK_FROM_DB) / (DUCK_TO_DB - DUCK_FROM_DB)))
            before = gain
            gain = 10.0 ** (-0.05 * (now + (then - now) * n / frames) * part)
        gains[n] = before + (gain - before) * (place + 1) / 8.0
    heard[0], heard[1], heard[2] = power, gain, before


@njit(cache=True, nogil=True, fastmath=True)
def _reflect(memory, frame, delays, gains, out):  # type: ignore[no-untyped-def]
    """Early reflections of the diffused input, which is in ``memory``, a ring whose length is a power of two."""
    frames, size = out.shape[1], memory.shape[1]
    for channel in range(2):
        for k in range(delays.shape[1]):
            at = (frame - delays[channel, k]) & (size - 1)
            head = min(frames, size - at)
            left, right = gains[channel, k]
            _add_both(memory[0, at : at + head], memory[1, at : at + head], left, right, out[channel, :head])
            _add_both(memory[0, : frames - head], memory[1, : frames - head], left, right, out[channel, head:])


@njit(cache=True, nogil=True, fastmath=True)
def _add_both(one, other, gain, other_gain, total):  # type: ignore[no-untyped-def]
    for n in range(len(total)):
        total[n] += gain * one[n] + other_gain * other[n]


@njit(cache=True, nogil=True, fastmath=True)
def _mix_lines(taps, wet, early, room, lines, frame, now, then, moving, out):  # type: ignore[no-untyped-def]
    """Two outputs with uncorrelated signs, the Hadamard feedback, and the new input."""
    count, frames = taps.shape
    left, right = np.zeros(frames, np.float32), np.zeros(frames, np.float32)
    for i in range(count):
        line = taps[i]
        sign_left = np.float32(1.0 if i % 4 < 2 else -1.0)
        sign_right = np.float32(1.0 if (i // 2 + i) % 4 < 2 else -1.0)
        for n in range(frames):
            left[n] += sign_left * line[n]
            right[n] += sign_right * line[n]
    half = np.float32(0.5)
    mix = now.astype(np.float32)
    for n in range(frames):
        if moving:
            for i in range(len(mix)):
                mix[i] = now[i] + (then[i] - now[i]) * (n / frames)
        mid = half * (mix[1] * (left[n] + right[n]) + mix[3] * (early[0, n] + early[1, n]))
        side = half * (mix[2] * (left[n] - right[n]) + mix[4] * (early[0, n] - early[1, n]))
        out[0, n] = mix[0] * out[0, n] + room[n] * (mid + side)
        out[1, n] = mix[0] * out[1, n] + room[n] * (mid - side)
    _hadamard(taps)
    share = np.float32(1.0 / np.sqrt(count / 2))
    scale = np.float32(1.0 / np.sqrt(count))
    for i in range(count):
        source = wet[i % 2]
        sign = share if i % 3 else -share
        line = taps[i]
        for n in range(frames):
            line[n] = scale * line[n] + sign * source[n]
        _store_line(lines[i], frame, line)


@njit(cache=True, nogil=True)
def _store_line(line, start, values):  # type: ignore[no-untyped-def]
    """Copy into a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(values), len(line) - at)
    line[at : at + head] = values[:head]
    line[: len(values) - head] = values[head:]


@njit(cache=True, nogil=True, fastmath=True)
def _hadamard(rows):  # type: ignore[no-untyped-def]
    """Fast Walsh-Hadamard transform across the lines, in place, not normalised."""
    span = 1
    while span < rows.shape[0]:
        for first in range(0, rows.shape[0], 2 * span):
            for i in range(first, first + span):
                a, b = rows[i], rows[i + span]
                for n in range(rows.shape[1]):
                    x, y = a[n], b[n]
                    a[n] = x + y
                    b[n] = x - y
        span *= 2

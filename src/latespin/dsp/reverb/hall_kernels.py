"""The kernels of the hall: diffusers, delay lines, absorption, early reflections and ducking."""

import numpy as np
from numba import njit

DUCK_FROM_DB, DUCK_TO_DB = -45.0, -15.0  # level of the dry sound between which the reverb is ducked
DIFFUSER_GAIN = 0.62
PIECE = 64


@njit(cache=True, nogil=True)
def diffuse(block, frame, memory, now, then, state, lengths, diffusers, out):  # type: ignore[no-untyped-def]
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
def read_lines(lines, now, then, frame, speeds, swing, later_swing, taps):  # type: ignore[no-untyped-def]
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
def absorb(taps, values, state):  # type: ignore[no-untyped-def]
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
def absorb_moving(taps, now, then, state):  # type: ignore[no-untyped-def]
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
def duck(dry, frame, speeds, now, then, heard, gains):  # type: ignore[no-untyped-def]
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
def reflect(memory, frame, delays, gains, out):  # type: ignore[no-untyped-def]
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
def mix_lines(taps, wet, early, room, lines, frame, now, then, moving, out):  # type: ignore[no-untyped-def]
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
        store_line(lines[i], frame, line)


@njit(cache=True, nogil=True)
def store_line(line, start, values):  # type: ignore[no-untyped-def]
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

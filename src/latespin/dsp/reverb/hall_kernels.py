"""The kernels of the hall: diffusers, delay lines, absorption, early reflections and ducking."""

import numpy as np

from latespin.dsp.kernels import kernel

DUCK_FROM_DB, DUCK_TO_DB = -45.0, -15.0  # level of the dry sound between which the reverb is ducked
DIFFUSER_GAIN = 0.62
PIECE = 64
TILE = 128  # frames worked on at once; fewer than the shortest line is long
CHUNK = 8 * TILE  # of what does not come round
RAMP = np.arange(PIECE, dtype=np.float32)


@kernel()
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
            allpass(out[channel], frame, diffusers[channel, i, : lengths[channel, i]])


@kernel(fastmath=True)
def allpass(sound, frame, ring):  # type: ignore[no-untyped-def]
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


@kernel(fastmath=True)
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
            copy_line(lines[i], frame - int(now[i]), taps[i])
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
                copy_line(lines[i], frame + n - int(now[i]) + whole - 1, heard[: count + 3])
                lagrange(heard, first, np.float32(slope), RAMP, taps[i, n : n + count])
            else:
                place = frame + n + start + slope * (n - ahead) - now[i] - longer * n
                _read_moving(lines[i], place, 1.0 + slope - longer, taps[i, n : n + count])
            n += count


@kernel()
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


@kernel()
def copy_line(line, start, out):  # type: ignore[no-untyped-def]
    """Copy from a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(out), len(line) - at)
    _copy(line[at : at + head], out[:head])
    if head < len(out):
        _copy(line[: len(out) - head], out[head:])


@kernel()
def store_line(line, start, values):  # type: ignore[no-untyped-def]
    """Copy into a ring whose length is a power of two."""
    at = start & (len(line) - 1)
    head = min(len(values), len(line) - at)
    _copy(values[:head], line[at : at + head])
    if head < len(values):
        _copy(values[head:], line[: len(values) - head])


@kernel()
def _copy(values, out):  # type: ignore[no-untyped-def]
    """A loop, which costs less than assigning slices where there is little to copy."""
    for n in range(len(out)):
        out[n] = values[n]


@kernel(fastmath=True)
def lagrange(heard, first, slope, ramp, out):  # type: ignore[no-untyped-def]
    """``out[n]`` is read ``first + n · slope`` beyond ``heard[n + 1]``.  ramp : 0, 1, 2 …, since numbers that count up are not vectorised."""
    sixth, half, one, two = np.float32(1.0 / 6.0), np.float32(0.5), np.float32(1.0), np.float32(2.0)
    count = len(out)
    p, q, r, s, steps = heard[:count], heard[1 : count + 1], heard[2 : count + 2], heard[3 : count + 3], ramp[:count]
    for n in range(count):
        d = first + steps[n] * slope
        below, above, far = d + one, d - one, d - two
        out[n] = (s[n] * below * above - p[n] * above * far) * d * sixth + (
            q[n] * above - r[n] * d
        ) * below * far * half


@kernel(error_model="numpy")
def absorb_moving(taps, now, then, state):  # type: ignore[no-untyped-def]
    """The loss of one pass through each line, in place, while its values go from ``now`` to ``then``."""
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


@kernel()
def duck(left, right, frame, speeds, now, then, heard, gains):  # type: ignore[no-untyped-def]
    """Gains of the wet sound below a dry one, by ``now`` to ``then`` dB: its power is followed, quicker up than down.

    The gain is worked out at every eighth frame and reached at the next.
    """
    power, gain, before = heard
    frames = len(left)
    for n in range(frames):
        sound = 0.5 * (float(left[n]) ** 2 + float(right[n]) ** 2)
        power += (speeds[0] if sound > power else speeds[1]) * (sound - power)
        place = (frame + n) % 8
        if place == 0:
            level = 10.0 * np.log10(power + 1e-12)
            part = min(1.0, max(0.0, (level - DUCK_FROM_DB) / (DUCK_TO_DB - DUCK_FROM_DB)))
            before = gain
            gain = 10.0 ** (-0.05 * (now + (then - now) * n / frames) * part)
        gains[n] = before + (gain - before) * (place + 1) / 8.0
    heard[0], heard[1], heard[2] = power, gain, before


@kernel()
def store_early(ring, frame, values):  # type: ignore[no-untyped-def]
    """Copy into a ring whose first CHUNK values are repeated after its end: up to CHUNK values can be read in one go from anywhere."""
    size = len(ring) - CHUNK
    store_line(ring[:size], frame, values)
    at = frame & (size - 1)
    if at < CHUNK:
        count = min(len(values), CHUNK - at)
        _copy(values[:count], ring[size + at : size + at + count])
    elif at + len(values) > size:
        _copy(values[size - at :], ring[size : at + len(values)])


@kernel(fastmath=True)
def reflect(memory, frame, delays, gains, frames, out):  # type: ignore[no-untyped-def]
    """Early reflections, up to CHUNK frames of them, of the diffused input, which is in ``memory``; four taps at once."""
    size = memory.shape[1] - CHUNK
    left, right = memory[0], memory[1]
    for channel in range(2):
        for k in range(0, delays.shape[1], 4):
            a, b = (frame - delays[channel, k]) & (size - 1), (frame - delays[channel, k + 1]) & (size - 1)
            c, d = (frame - delays[channel, k + 2]) & (size - 1), (frame - delays[channel, k + 3]) & (size - 1)
            g = gains[channel]
            _add_four(left[a : a + frames], left[b : b + frames], left[c : c + frames], left[d : d + frames],
                      g[k, 0], g[k + 1, 0], g[k + 2, 0], g[k + 3, 0], out[channel, :frames])  # fmt: skip
            _add_four(right[a : a + frames], right[b : b + frames], right[c : c + frames], right[d : d + frames],
                      g[k, 1], g[k + 1, 1], g[k + 2, 1], g[k + 3, 1], out[channel, :frames])  # fmt: skip


@kernel(fastmath=True)
def _add_four(a, b, c, d, first, second, third, fourth, total):  # type: ignore[no-untyped-def]
    for n in range(len(total)):
        total[n] += first * a[n] + second * b[n] + third * c[n] + fourth * d[n]


@kernel(fastmath=True)
def mix_moving(taps, early, room, now, then, out):  # type: ignore[no-untyped-def]
    """Two outputs with uncorrelated signs, beside the early reflections and the dry sound in ``out``, while gains go from ``now`` to ``then``."""
    frames = taps.shape[1]
    left, right = np.zeros(frames, np.float32), np.zeros(frames, np.float32)
    sum_lines(taps, frames, left, right)
    half = np.float32(0.5)
    mix = now.astype(np.float32)
    for n in range(frames):
        for i in range(len(mix)):
            mix[i] = now[i] + (then[i] - now[i]) * (n / frames)
        mid = half * (mix[1] * (left[n] + right[n]) + mix[3] * (early[0, n] + early[1, n]))
        side = half * (mix[2] * (left[n] - right[n]) + mix[4] * (early[0, n] - early[1, n]))
        out[0, n] = mix[0] * out[0, n] + room[n] * (mid + side)
        out[1, n] = mix[0] * out[1, n] + room[n] * (mid - side)


@kernel(fastmath=True)
def sum_lines(taps, frames, left, right):  # type: ignore[no-untyped-def]
    """All lines added to two outputs, with signs that make these uncorrelated."""
    for i in range(len(taps)):
        line = taps[i]
        sign_left = np.float32(1.0 if i % 4 < 2 else -1.0)
        sign_right = np.float32(1.0 if (i // 2 + i) % 4 < 2 else -1.0)
        for n in range(frames):
            left[n] += sign_left * line[n]
            right[n] += sign_right * line[n]


@kernel(fastmath=True)
def feed_back(taps, wet_left, wet_right, frames, lines, frame):  # type: ignore[no-untyped-def]
    """The Hadamard feedback, and the new input."""
    count = len(taps)
    hadamard(taps)
    share, scale = np.float32(1.0 / np.sqrt(count / 2)), np.float32(1.0 / np.sqrt(count))
    for i in range(count):
        source, line = wet_right if i % 2 else wet_left, taps[i]
        sign = share if i % 3 else -share
        for n in range(frames):
            line[n] = scale * line[n] + sign * source[n]
        store_line(lines[i], frame, line[:frames])


@kernel(fastmath=True)
def hadamard(rows):  # type: ignore[no-untyped-def]
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

"""The hall while nothing of it moves: the whole network in one kernel, a tile of frames at a time, so that what it works on stays near the processor."""

import numpy as np

from latespin.dsp.kernels import kernel
from latespin.dsp.reverb.hall_kernels import (
    CHUNK,
    PIECE,
    RAMP,
    TILE,
    allpass,
    copy_line,
    duck,
    feed_back,
    lagrange,
    reflect,
    store_early,
    store_line,
    sum_lines,
)  # fmt: skip


@kernel()
def pass_through(  # type: ignore[no-untyped-def]
    block, frame, fed, filters, filter_state, diffuser_lengths, diffusers, lines, delays, speeds, swing, shelves, shelf_state,
    early_memory, early_delays, early_gains, duck_db, duck_speeds, heard, mix, out,
):  # fmt: skip
    """A block ``[2, frames]`` of any length through the network; ``out`` holds what is heard of it.

    fed, filter_state, diffusers, lines, shelf_state, early_memory, heard : what it remembers.  filters : pre-delay, and eight of the input.
    shelves : ``[lines / 4, 6, 4]``.  shelf_state : ``[lines / 4, 4, 4]``.  mix : gains of dry, late mid and side, early mid and side.
    """
    count = len(lines)
    taps = np.empty((count, TILE), np.float32)
    wet, early = np.empty((2, CHUNK), np.float32), np.empty((2, CHUNK), np.float32)
    room, read = np.ones(TILE, np.float32), np.empty(PIECE + 3, np.float32)
    for start in range(0, block.shape[1], CHUNK):
        length, at = min(CHUNK, block.shape[1] - start), frame + start
        _feed(block[0, start : start + length], block[1, start : start + length], at, fed, filters, filter_state, wet)
        for channel in range(2):
            for i in range(diffuser_lengths.shape[1]):
                allpass(wet[channel, :length], at, diffusers[channel, i, : diffuser_lengths[channel, i]])
            store_early(early_memory[channel], at, wet[channel, :length])
        early[:] = 0.0
        reflect(early_memory, at, early_delays, early_gains, length, early)
        for first in range(0, length, TILE):
            part, at = slice(first, min(first + TILE, length)), frame + start + first
            frames = part.stop - first
            left, right = block[0, start + first : start + part.stop], block[1, start + first : start + part.stop]
            made = out[0, start + first : start + part.stop], out[1, start + first : start + part.stop]
            _read(lines, delays, at, speeds, swing, frames, read, taps)
            for i in range(0, count, 4):
                _absorb(taps[i], taps[i + 1], taps[i + 2], taps[i + 3], frames, shelves[i // 4], shelf_state[i // 4])
            if duck_db > 0.0:
                duck(left, right, at, duck_speeds, duck_db, duck_db, heard, room)
            _mix(taps, left, right, early[0, part], early[1, part], room, mix, made[0], made[1])
            feed_back(taps, wet[0, part], wet[1, part], frames, lines, at)


@kernel()
def _feed(left, right, frame, fed, filters, state, out):  # type: ignore[no-untyped-def]
    """Pre-delay, tone and low cut of both channels at once, since each frame waits for the one before it."""
    mask, whole = fed.shape[1] - 1, int(filters[0])
    b0, b1, b2, a1, a2, c0, c1, d1 = filters[1], filters[2], filters[3], filters[4], filters[5], filters[6], filters[7], filters[8]  # fmt: skip
    s0, s1, s2 = state[0, 0], state[0, 1], state[0, 2]
    t0, t1, t2 = state[1, 0], state[1, 1], state[1, 2]
    store_line(fed[0], frame, left)
    store_line(fed[1], frame, right)
    for n in range(len(left)):
        place = (frame + n - whole) & mask
        x, u = float(fed[0, place]) + 1e-25, float(fed[1, place]) + 1e-25
        y, v = b0 * x + s0, b0 * u + t0
        s0, t0 = b1 * x - a1 * y + s1, b1 * u - a1 * v + t1
        s1, t1 = b2 * x - a2 * y, b2 * u - a2 * v
        z, w = c0 * y + s2, c0 * v + t2
        s2, t2 = c1 * y - d1 * z, c1 * v - d1 * w
        out[0, n] = z
        out[1, n] = w
    state[0, 0], state[0, 1], state[0, 2] = s0, s1, s2
    state[1, 0], state[1, 1], state[1, 2] = t0, t1, t2


@kernel(fastmath=True)
def _read(lines, delays, frame, speeds, swing, frames, heard, taps):  # type: ignore[no-untyped-def]
    """Every other line's length sways a little; read by third-order Lagrange interpolation.

    The sway is a chain of straight pieces between places of the song that are multiples of PIECE.
    """
    for i in range(1, lines.shape[0], 2):
        copy_line(lines[i], frame - delays[i], taps[i, :frames])
    for i in range(0, lines.shape[0], 2):
        n = 0
        piece = frame // PIECE
        end = swing * np.sin(speeds[i] * piece * PIECE + 0.7 * i)
        while n < frames:
            ahead = piece * PIECE - frame
            count = min(ahead + PIECE, frames) - n
            start, end = end, swing * np.sin(speeds[i] * (piece + 1) * PIECE + 0.7 * i)
            slope, whole = (end - start) / PIECE, int(np.floor(start))
            part = heard[: count + 3]
            copy_line(lines[i], frame + n - delays[i] + whole - 1, part)
            lagrange(
                part, np.float32(start - whole + slope * (n - ahead)), np.float32(slope), RAMP, taps[i, n : n + count]
            )
            n += count
            piece += 1


@kernel(fastmath=True)
def _absorb(one, two, three, four, frames, values, state):  # type: ignore[no-untyped-def]
    """The loss of one pass through four lines, in place; all four at once, since each frame waits for the one before it."""
    a1, a2, a3, a4 = values[0, 0], values[0, 1], values[0, 2], values[0, 3]
    b1, b2, b3, b4 = values[1, 0], values[1, 1], values[1, 2], values[1, 3]
    c1, c2, c3, c4 = values[2, 0], values[2, 1], values[2, 2], values[2, 3]
    d1, d2, d3, d4 = values[3, 0], values[3, 1], values[3, 2], values[3, 3]
    e1, e2, e3, e4 = values[4, 0], values[4, 1], values[4, 2], values[4, 3]
    f1, f2, f3, f4 = values[5, 0], values[5, 1], values[5, 2], values[5, 3]
    x1, x2, x3, x4 = state[0, 0], state[0, 1], state[0, 2], state[0, 3]
    y1, y2, y3, y4 = state[1, 0], state[1, 1], state[1, 2], state[1, 3]
    u1, u2, u3, u4 = state[2, 0], state[2, 1], state[2, 2], state[2, 3]
    v1, v2, v3, v4 = state[3, 0], state[3, 1], state[3, 2], state[3, 3]
    for n in range(frames):
        z1, z2, z3, z4 = one[n], two[n], three[n], four[n]
        y1, y2 = (a1 * z1 + b1 * x1) - c1 * y1, (a2 * z2 + b2 * x2) - c2 * y2
        y3, y4 = (a3 * z3 + b3 * x3) - c3 * y3, (a4 * z4 + b4 * x4) - c4 * y4
        x1, x2, x3, x4 = z1, z2, z3, z4
        v1, v2 = (d1 * y1 + e1 * u1) - f1 * v1, (d2 * y2 + e2 * u2) - f2 * v2
        v3, v4 = (d3 * y3 + e3 * u3) - f3 * v3, (d4 * y4 + e4 * u4) - f4 * v4
        u1, u2, u3, u4 = y1, y2, y3, y4
        one[n], two[n], three[n], four[n] = v1, v2, v3, v4
    state[0, 0], state[0, 1], state[0, 2], state[0, 3] = x1, x2, x3, x4
    state[1, 0], state[1, 1], state[1, 2], state[1, 3] = y1, y2, y3, y4
    state[2, 0], state[2, 1], state[2, 2], state[2, 3] = u1, u2, u3, u4
    state[3, 0], state[3, 1], state[3, 2], state[3, 3] = v1, v2, v3, v4


@kernel(fastmath=True)
def _mix(taps, dry_left, dry_right, early_left, early_right, room, mix, out_left, out_right):  # type: ignore[no-untyped-def]
    """Two outputs with uncorrelated signs, beside the early reflections and the dry sound."""
    frames = len(dry_left)
    left, right = np.zeros(TILE, np.float32), np.zeros(TILE, np.float32)
    sum_lines(taps, frames, left, right)
    half = np.float32(0.5)
    straight, late_mid, late_side, early_mid, early_side = mix[0], mix[1], mix[2], mix[3], mix[4]
    for n in range(frames):
        mid = half * (late_mid * (left[n] + right[n]) + early_mid * (early_left[n] + early_right[n]))
        side = half * (late_side * (left[n] - right[n]) + early_side * (early_left[n] - early_right[n]))
        out_left[n] = straight * dry_left[n] + room[n] * (mid + side)
        out_right[n] = straight * dry_right[n] + room[n] * (mid - side)

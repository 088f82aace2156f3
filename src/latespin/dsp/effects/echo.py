"""An echo: filtered feedback at a note value, ping-pong if wanted, with a gliding delay.

A recirculating delay read between frames by third-order Lagrange interpolation (T. I. Laakso et al., "Splitting the unit delay", 1996); where the delay
changes, the head glides, and the pitch of what is on its way with it, as in a tape echo.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.smoothing import SmoothedValue
from latespin.dsp.kernels import kernel

FALL_DB, LONGEST_SECONDS = 60.0, 30.0
GLIDE_SECONDS, SWAY_HZ = 0.08, 0.7
NOTHING = 1e-20  # numbers as small as float32 counts slowly are never stored
SPAN = 4096  # frames worked on at once


@dataclass(frozen=True)
class EchoSettings:
    """delay : frames between repeats, at frames of the song, 64 to ``longest``.  feedback : 0 to 0.95.

    low_hz, high_hz : the band of each repeat that is fed back.  ping_pong : from side to side.  sway : share of the delay's speed, 0 to 0.02, at 0.7 Hz.
    gain : of what the head reads at frames of the song, where the tape slows down so far that it fades.
    """

    delay: Callable[[Floats], Floats]
    longest: int
    feedback: float
    low_hz: float = 160.0
    high_hz: float = 5_000.0
    ping_pong: bool = False
    sway: float = 0.0
    gain: Callable[[Floats], Floats] | None = None


def echo_rounds(feedback: float) -> int:
    """How many repeats until they are 60 dB down."""
    return 1 if feedback <= 0.001 else 1 + int(np.ceil(FALL_DB / (-20.0 * np.log10(feedback))))


def echo_tail(feedback: float, longest: int, rate: int) -> int:
    """How long repeats go on, frames; at most half a minute."""
    return min(echo_rounds(feedback) * longest, round(LONGEST_SECONDS * rate))


class Echo:
    """A stream of stereo blocks. The amount is the level of the repeats beside the song."""

    latency = 0

    def __init__(self, rate: int, settings: EchoSettings) -> None:
        self._rate, self._settings = rate, settings
        self.warm_up_frames = settings.longest + echo_tail(settings.feedback, settings.longest, rate)
        reach = settings.longest + round(settings.sway * rate) + 16
        self._memory = np.zeros((2, 1 << (reach + SPAN).bit_length()), np.float32)
        self._filters = np.zeros((2, 2))
        self._head, self._glide = np.array([-1.0]), 1.0 - np.exp(-1.0 / (GLIDE_SECONDS * rate))
        self._numbers, self._sway = SmoothedValue(_numbers(settings, rate)), SmoothedValue(settings.sway)

    def set_target(self, settings: EchoSettings) -> None:
        """Go to another feedback, other cuts and another sway; the delay stays the one it began with."""
        self._numbers.to(_numbers(settings, self._rate))
        self._sway.to(settings.sway)

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process a block, whose first frame is frame ``at`` of the song."""
        s, turn = self._settings, 2.0 * np.pi * SWAY_HZ / self._rate
        frames = np.arange(at, at + block.shape[1], dtype=np.float64)
        delays = np.clip(s.delay(frames), 64.0, s.longest)
        delays += self._sway.over(block.shape[1]) / turn * (1.0 + np.sin(turn * frames))
        wet = np.empty_like(block)
        _glide(delays, self._glide, self._head)
        done = 0
        while done < block.shape[1]:
            now, then, count = self._numbers.pass_by(block.shape[1] - done)
            part = slice(done, done + count)
            dry, heard = np.ascontiguousarray(block[:, part]), np.empty((2, count), np.float32)
            _repeat(
                dry, (at + done) & 0x7FFFFFFF, delays[part], now, then, s.ping_pong, self._filters, self._memory, heard
            )
            wet[:, part] = heard
            done += count
        if s.gain is not None:
            wet *= s.gain(frames).astype(np.float32)
        return block + wet * amount.at(at, block.shape[1]).astype(np.float32)


def _numbers(settings: EchoSettings, rate: int) -> Floats:
    """How much of a step the low-pass and the one taken away follow at once, and the feedback."""
    shares = [1.0 - np.exp(-2.0 * np.pi * hz / rate) for hz in (settings.high_hz, settings.low_hz)]
    return np.array([*shares, settings.feedback])


@kernel()
def _glide(delays, share, head):  # type: ignore[no-untyped-def]
    """The head follows the delays asked for, in place; it begins where the first of them is."""
    now = head[0] if head[0] >= 0.0 else delays[0]
    for n in range(len(delays)):
        now += share * (delays[n] - now)
        delays[n] = now
    head[0] = now


@kernel()
def _repeat(block, at, delays, now, then, ping_pong, filters, memory, wet):  # type: ignore[no-untyped-def]
    """Read, filter, and write what is to come again, corners and feedback going from ``now`` to ``then``."""
    mask = memory.shape[1] - 1
    heard = np.zeros(2)
    frames = block.shape[1]
    for n in range(frames):
        x = n / frames
        upper, lower = now[0] + x * (then[0] - now[0]), now[1] + x * (then[1] - now[1])
        feedback = now[2] + x * (then[2] - now[2])
        place = at + n - delays[n]
        whole = int(np.floor(place))
        d = place - whole
        w0, w1 = -d * (d - 1.0) * (d - 2.0) / 6.0, (d + 1.0) * (d - 1.0) * (d - 2.0) / 2.0
        w2, w3 = -(d + 1.0) * d * (d - 2.0) / 2.0, (d + 1.0) * d * (d - 1.0) / 6.0
        for c in range(2):
            row = memory[c]
            value = (
                w0 * row[(whole - 1) & mask]
                + w1 * row[whole & mask]
                + w2 * row[(whole + 1) & mask]
                + w3 * row[(whole + 2) & mask]
            )
            filters[c, 0] += upper * (value - filters[c, 0]) + 1e-25
            filters[c, 1] += lower * (filters[c, 0] - filters[c, 1])
            difference = filters[c, 0] - filters[c, 1]
            heard[c] = difference if abs(difference) > NOTHING else 0.0
            wet[c, n] = heard[c]
        if ping_pong:
            middle = 0.5 * (block[0, n] + block[1, n])
            memory[0, (at + n) & mask] = middle + feedback * heard[1]
            memory[1, (at + n) & mask] = feedback * heard[0]
        else:
            memory[0, (at + n) & mask] = block[0, n] + feedback * heard[0]
            memory[1, (at + n) & mask] = block[1, n] + feedback * heard[1]

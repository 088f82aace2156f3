"""The tempo of MIDI clock: 24 messages to a beat (MIDI 1.0 Detailed Specification, System Real Time)."""

from collections import deque

PER_BEAT = 24
SLOWEST_BPM, FASTEST_BPM = 20.0, 400.0
LONGEST_PAUSE = 60.0 / SLOWEST_BPM / PER_BEAT * 4.0


class MidiClock:
    """Counts clock messages and their times."""

    def __init__(self) -> None:
        self._times: deque[float] = deque(maxlen=2 * PER_BEAT + 1)

    def tick(self, seconds: float) -> None:
        """A clock message came."""
        if self._times and not 0.0 <= seconds - self._times[-1] < LONGEST_PAUSE:
            self._times.clear()
        self._times.append(seconds)

    def bpm(self, now: float) -> float | None:
        """The tempo over the last two beats, to a tenth; None without a beat of messages, or after a pause."""
        times = self._times
        if len(times) <= PER_BEAT or now - times[-1] > LONGEST_PAUSE:
            return None
        length = (times[-1] - times[0]) / (len(times) - 1) * PER_BEAT
        bpm = round(60.0 / length, 1) if length > 0.0 else 0.0
        return bpm if SLOWEST_BPM <= bpm <= FASTEST_BPM else None

"""Which programme plays where in the ring. Not locked: whoever shares it locks."""

from collections import deque
from collections.abc import Iterable

from latespin.render.playback.playback_stream import RingMark, marks_from


class RingMarks:
    """Marks in order of their ring frames. kept : frames before the one being played whose marks are kept."""

    def __init__(self, kept: int) -> None:
        self._marks: deque[RingMark] = deque()
        self._kept = kept

    def __bool__(self) -> bool:
        return bool(self._marks)

    @property
    def last(self) -> RingMark | None:
        """The mark of what was rendered last."""
        return self._marks[-1] if self._marks else None

    def at(self, frame: int) -> RingMark | None:
        """The mark that holds at a frame; the first one before it."""
        found = None
        for mark in self._marks:
            if mark.at <= frame:
                found = mark
        return found or (self._marks[0] if self._marks else None)

    def unbroken_from(self, frame: int) -> int:
        """The earliest frame from which on the song runs to a frame without a jump."""
        before = [mark for mark in self._marks if mark.at <= frame]
        if not before:
            return frame
        found = before[-1]
        for mark in reversed(before[:-1]):
            ends_at = mark.frame + found.at - mark.at
            if abs(ends_at - found.frame) > 1 or mark.programme.side != found.programme.side:
                break
            found = mark
        return found.at

    def add(self, marks: Iterable[RingMark]) -> None:
        """Marks of what was rendered behind the rest."""
        self._marks.extend(marks)

    def replace_from(self, at: int, marks: list[RingMark]) -> None:
        """Other marks from a frame on."""
        self._marks = deque(mark for mark in self._marks if mark.at < at)
        self._marks.extend(marks_from(marks, at))

    def forget_before(self, frame: int) -> None:
        """Forget those that no kept frame needs, ``frame`` being played."""
        while len(self._marks) > 1 and self._marks[1].at <= frame - self._kept:
            self._marks.popleft()

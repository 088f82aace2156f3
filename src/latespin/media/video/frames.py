"""The pictures of a video at any time, forwards, backwards and standing still."""

import bisect
import math
from collections.abc import Iterator
from types import TracebackType
from typing import Any, Self

import numpy as np

from latespin.errors import Unreadable, shortened
from latespin.jobs import Work, step
from latespin.language import tr
from latespin.media.audio.decode import opened_container
from latespin.media.video.clip import Clip, pictures_in
from latespin.media.video.timing import PictureTimes

KEPT_BYTES = 256 << 20  # of decoded pictures


class Frames:
    """Gives the picture of a time. Where time runs backwards, a run of pictures is decoded at once and kept."""

    def __init__(self, clip: Clip) -> None:
        self._clip = clip
        self._opening = opened_container(clip.path)
        self._container = self._opening.__enter__()
        self._stream = pictures_in(self._container)
        self._stream.thread_type = "AUTO"
        self._kept: list[Any] = []  # in the order they are shown in, without gaps
        self._times: list[float] = []
        self._coming: Iterator[Any] = iter(())
        self._broken = False
        self._last = math.inf  # when the last picture is shown, once it has been met
        self._most = max(8, KEPT_BYTES // (self._stream.width * self._stream.height * 3 // 2 or 1))

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._kept.clear()
        self._opening.__exit__(kind, error, trace)

    def at(self, seconds: float) -> Any:
        """The picture that is shown at a time of the file; the first or the last one beyond its ends. Raises Unreadable."""
        seconds = min(seconds, self._last)
        if not self._times or seconds < self._times[0] or seconds > self._times[-1] + 2.0:
            self._seek(seconds)
        while seconds >= self._times[-1] and self._keep_next():
            pass
        return self._kept[max(0, bisect.bisect_right(self._times, seconds + 1e-6) - 1)]

    def _seek(self, seconds: float) -> None:
        """Begin anew at the last picture at or before a time that needs no other one."""
        for early in (0.0, 2.0, 10.0, 1e9):
            self._kept.clear()
            self._times.clear()
            ticks = int(max(0.0, seconds - early) / self._stream.time_base)
            self._container.seek(ticks, stream=self._stream, backward=True, any_frame=False)
            self._coming, self._broken = iter(self._container.decode(self._stream)), False
            if self._keep_next() and (self._times[0] <= seconds or seconds - early <= 0.0):
                return
        if not self._times:
            raise Unreadable(tr("The pictures of {0} cannot be decoded.").format(shortened(self._clip.path.name)))

    def _keep_next(self) -> bool:
        """Decode one more picture. False at the end, and at a broken place, where what came before it stays."""
        import av

        if self._broken:
            return False
        try:
            frame = next(frame for frame in self._coming if frame.pts is not None)
        except StopIteration:
            self._last = self._times[-1] if self._times else self._last
            return False
        except (av.FFmpegError, OSError):
            self._broken = True
            return False
        self._kept.append(frame)
        self._times.append(float(frame.time))
        if len(self._kept) > self._most:
            del self._kept[0], self._times[0]
        return True


def following(clip: Clip, times: PictureTimes, work: Work) -> Iterator[Any]:
    """The pictures of a version of a song, evenly spaced, each the one its sound belongs to. Raises Unreadable, Cancelled."""
    import av

    count = max(1, round(times.end * clip.rate))
    middles = (np.arange(count, dtype=np.float64) + 0.5) / float(clip.rate)
    places = times.before(middles) + clip.sound_starts
    turn = _turner(clip)
    size = even(clip.width, clip.height)
    reformer = av.video.reformatter.VideoReformatter()
    with Frames(clip) as frames:
        before, drawn = None, None
        for number, place in enumerate(places):
            step(work, number / count)
            frame = frames.at(float(place))
            if frame is not before:
                before, drawn = frame, reformer.reformat(turn(frame), *size, "yuv420p")
            yield drawn


def even(width: int, height: int) -> tuple[int, int]:
    """The size with sides that encoders can halve."""
    return max(2, width // 2 * 2), max(2, height // 2 * 2)


def _turner(clip: Clip) -> Any:
    """Turns pictures the way players would."""
    import av

    if not clip.turned:
        return lambda frame: frame
    quarters = -clip.turned // 90

    def turned(frame: Any) -> Any:
        return av.VideoFrame.from_ndarray(
            np.ascontiguousarray(np.rot90(frame.to_ndarray(format="rgb24"), quarters)), "rgb24"
        )

    return turned

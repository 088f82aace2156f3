"""Memory for long sounds: arrays up to a limit, mapped unnamed files beyond it.

The file lies in the user's cache folder, since ``/tmp`` is often memory itself. It has no name, so nothing is left of it
whatever happens.
"""

import contextlib
import ctypes
import mmap
import os
import tempfile
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import IO, Any

import numpy as np
from numpy.typing import NDArray

from latespin.errors import Unwritable
from latespin.language import localised, tr

Audio = NDArray[np.float32]
IN_MEMORY_BYTES = 192 << 20  # about nine minutes of stereo at 44.1 kHz
COPY_FRAMES = 1 << 18
M_TRIM_THRESHOLD, M_MMAP_THRESHOLD, M_ARENA_MAX = -1, -3, -8  # malloc.h
ARENAS = 2
RETURNED_BYTES = 4 << 20


def room_for(channels: int, frames: int) -> Audio:
    """An array ``[channels, frames]`` of no particular content. Raises Unwritable where there is no room on the disk."""
    if channels * frames * 4 <= IN_MEMORY_BYTES:
        return np.empty((channels, frames), np.float32)
    with _unnamed_file() as file, _said_plainly(channels * frames * 4):
        os.posix_fallocate(file.fileno(), 0, channels * frames * 4)  # else a full disk would be a crash later
        return np.memmap(file, np.float32, "w+", shape=(channels, frames)).view(np.ndarray)


def let_go(sound: NDArray[Any]) -> None:
    """Release the memory of a memory-mapped sound. Its samples stay unchanged and readable."""
    holder: Any = sound
    while isinstance(holder, np.ndarray):
        holder = holder.base
    if isinstance(holder, mmap.mmap):
        holder.madvise(mmap.MADV_DONTNEED)


def settle_allocator() -> None:
    """Have the C library keep few pools of memory, and give large blocks back as soon as they are freed.

    By default each thread gets a pool of its own, and the size from which blocks are returned rises to 32 MB: pieces of
    sound, which come and go in many sizes on several threads, then leave holes everywhere (mallopt(3), glibc).
    """
    with contextlib.suppress(OSError, AttributeError):  # another C library may not know this
        library = ctypes.CDLL(None)
        for option, value in (
            (M_ARENA_MAX, ARENAS),
            (M_MMAP_THRESHOLD, RETURNED_BYTES),
            (M_TRIM_THRESHOLD, RETURNED_BYTES),
        ):
            library.mallopt(option, value)


def give_back() -> None:
    """Have the C library give memory that is free back to the system; of its own accord it keeps what lies between what is used."""
    with contextlib.suppress(OSError, AttributeError):  # another C library may not know this
        ctypes.CDLL(None).malloc_trim(0)


class Growing:
    """Blocks of sound ``[channels, frames]`` one after the other. Another thread may read what is there already.

    channels, expected : the shape that all of it will have, if that is known; a long sound is then written only once.
    """

    def __init__(self, channels: int = 1, expected: int = 0) -> None:
        self.frames = 0
        self._lock = threading.RLock()
        self._blocks: list[Audio] = []
        self._file: IO[bytes] | None = None
        self._channels = channels
        self._room = room_for(channels, expected) if channels * expected * 4 > IN_MEMORY_BYTES else None

    def append(self, block: Audio) -> None:
        """Add a block; all have the same number of channels."""
        with self._lock:
            self._append(block)

    def read(self, start: int, count: int) -> Audio:
        """A copy of ``[channels, count]`` from frame ``start``; fewer where there are no more yet."""
        with self._lock:
            stop = max(start, min(self.frames, start + count))
            if self._room is not None:
                return np.array(self._room[:, start:stop])
            if self._file is not None:
                size = self._channels * 4
                read = os.pread(self._file.fileno(), (stop - start) * size, start * size)
                return np.frombuffer(read, np.float32).reshape(-1, self._channels).T.copy()
            parts, first = [np.zeros((self._channels, 0), np.float32)], 0
            for block in self._blocks:
                parts.append(block[:, max(0, start - first) : max(0, stop - first)])
                first += block.shape[1]
            return np.concatenate(parts, axis=1)

    def _append(self, block: Audio) -> None:
        if self._room is not None:
            if self.frames + block.shape[1] <= self._room.shape[1]:
                self._room[:, self.frames : self.frames + block.shape[1]] = block
                self.frames += block.shape[1]
                let_go(self._room)
                return
            self._leave_room()
        self.frames += block.shape[1]
        self._channels = block.shape[0]
        self._blocks.append(np.ascontiguousarray(block))
        size = self._channels * self.frames * 4
        if self._file is None and size > IN_MEMORY_BYTES:
            self._file = _unnamed_file()
        if self._file is not None:
            with _said_plainly(size):
                for kept in self._blocks:
                    self._file.write(kept.T.tobytes())
                self._file.flush()
            self._blocks.clear()

    def _leave_room(self) -> None:
        """There is more, or less, than was expected: go on as if nothing had been."""
        room, frames, self._room, self.frames = self._room, self.frames, None, 0
        assert room is not None
        for start in range(0, frames, COPY_FRAMES):
            self.append(np.ascontiguousarray(room[:, start : min(frames, start + COPY_FRAMES)]))
            let_go(room)

    def sound(self) -> Audio:
        """All of it; nothing may be added afterwards."""
        with self._lock:
            if self._room is not None and self.frames < self._room.shape[1]:
                self._leave_room()
        if self._room is None:
            whole = np.concatenate(self._blocks, axis=1) if self._blocks else np.zeros((1, 0), np.float32)
            if self._file is not None:
                whole = self._from_file()
            with self._lock:
                self._room = whole
                self._blocks.clear()
                if self._file is not None:
                    self._file.close()
                    self._file = None
        return self._room

    def _from_file(self) -> Audio:
        out = room_for(self._channels, self.frames)
        for start in range(0, self.frames, COPY_FRAMES):
            block = self.read(start, COPY_FRAMES)
            out[:, start : start + block.shape[1]] = block
            let_go(out)
        return out


def cache_folder() -> Path:
    """The user's cache folder for Late Spin; it may not exist yet."""
    return Path(os.environ.get("XDG_CACHE_HOME") or Path.home() / ".cache") / "late-spin"


@contextlib.contextmanager
def _said_plainly(size: int) -> Iterator[None]:
    """A disk that is full is the person's to mend: say where, and how much is needed."""
    try:
        yield
    except OSError as error:
        raise Unwritable(
            tr("This song needs {0} GB in {1} while it is open: {2}. Make room there.").format(
                localised(f"{size / 1e9:.1f}"), cache_folder(), error.strerror
            )
        ) from error


def _unnamed_file() -> IO[bytes]:
    folder = cache_folder()
    try:
        folder.mkdir(parents=True, exist_ok=True)
        return tempfile.TemporaryFile(dir=folder)
    except OSError:
        return tempfile.TemporaryFile()

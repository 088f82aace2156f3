"""Caches bounded by bytes. The least recently used values go first.

We do not use a library: cached values grow while they are cached (a stretched song, a tail), many threads use them, and each cache
reports its size to the log.
"""

import logging
import sys
import threading
import weakref
from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, Generic, ParamSpec, TypeVar

import numpy as np

LOG = logging.getLogger(__name__)
Key = TypeVar("Key", bound=Hashable)
Value = TypeVar("Value")
Arguments = ParamSpec("Arguments")
_ALL: "weakref.WeakSet[Cache[Any, Any]]" = weakref.WeakSet()
MEGABYTE = 1 << 20


def bytes_of(value: Any) -> int:
    """The size of a value: of an array, of the arrays in a list or tuple, or what its ``kept_bytes`` method returns."""
    if isinstance(value, np.ndarray):
        return int(value.nbytes)
    if isinstance(value, tuple | list):
        return sum(map(bytes_of, value))
    own = getattr(value, "kept_bytes", None)
    return int(own()) if own is not None else sys.getsizeof(value, 64)


class Cache(Generic[Key, Value]):
    """A thread-safe LRU cache. It always keeps the value used last, however large that is."""

    def __init__(self, name: str, most_bytes: int, most: int = 100_000) -> None:
        self.name, self._most_bytes, self._most = name, most_bytes, most
        self._kept: OrderedDict[Key, Value] = OrderedDict()
        self._lock = threading.RLock()
        _ALL.add(self)

    def __len__(self) -> int:
        return len(self._kept)

    def __contains__(self, key: Key) -> bool:
        return key in self._kept

    @property
    def bytes(self) -> int:
        """Memory used by all kept values, bytes."""
        with self._lock:
            return sum(map(bytes_of, self._kept.values()))

    def get(self, key: Key) -> Value | None:
        """A kept value, which counts as used."""
        with self._lock:
            if key not in self._kept:
                return None
            self._kept.move_to_end(key)
            return self._kept[key]

    def put(self, key: Key, value: Value) -> Value:
        """Keep a value, and let go of what there is no room for."""
        with self._lock:
            self._kept[key] = value
            self._kept.move_to_end(key)
            self.trim()
        return value

    def get_or_make(self, key: Key, make: Callable[[], Value]) -> Value:
        """A kept value, or one made now; where two threads make it at once, both have the first."""
        found = self.get(key)
        if found is not None:
            return found
        made = make()
        with self._lock:
            return self._kept[key] if key in self._kept else self.put(key, made)

    def trim(self) -> None:
        """Let go of what there is no room for; what is kept may have grown."""
        with self._lock:
            sizes = [bytes_of(value) for value in self._kept.values()]
            total = sum(sizes)
            for size in sizes[:-1]:
                if total <= self._most_bytes and len(self._kept) <= self._most:
                    break
                self._kept.popitem(last=False)
                total -= size

    def drop(self, unwanted: Callable[[Key], bool]) -> None:
        """Let go of everything whose key is not wanted any more."""
        with self._lock:
            for key in [key for key in self._kept if unwanted(key)]:
                del self._kept[key]

    def values(self) -> list[Value]:
        """All values, the one used last at the end."""
        with self._lock:
            return list(self._kept.values())


def kept(most_bytes: int) -> Callable[[Callable[Arguments, Value]], Callable[Arguments, Value]]:
    """A function whose results are kept by its arguments, which must be hashable; not to be changed by whoever is given them."""

    def decorated(function: Callable[Arguments, Value]) -> Callable[Arguments, Value]:
        cache: Cache[Any, Value] = Cache(f"{function.__module__}.{function.__qualname__}", most_bytes)

        @wraps(function)
        def found(*args: Arguments.args, **more: Arguments.kwargs) -> Value:
            return cache.get_or_make((args, tuple(sorted(more.items()))), lambda: function(*args, **more))

        return found

    return decorated


def sizes() -> dict[str, tuple[int, int]]:
    """Of every kind of cache: how many values, and how many bytes."""
    found: dict[str, tuple[int, int]] = {}
    for cache in list(_ALL):
        count, size = found.get(cache.name, (0, 0))
        found[cache.name] = count + len(cache), size + cache.bytes
    return found


def log_sizes() -> None:
    """Tell the log, at its debug level, what is kept."""
    if LOG.isEnabledFor(logging.DEBUG):
        for name, (count, size) in sorted(sizes().items(), key=lambda item: -item[1][1]):
            LOG.debug("%s keeps %d, %.1f MB", name, count, size / MEGABYTE)

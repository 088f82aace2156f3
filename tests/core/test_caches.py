"""Nothing is kept for ever: caches keep to their bytes, and what is dropped is gone without anybody cleaning up."""

import gc
import logging
import threading
import weakref

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.caches import MEGABYTE, Cache, bytes_of, kept, log_sizes, sizes
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS
from latespin.model.moments.declaration import MOMENTS
from latespin.model.moments.endings import ENDINGS, Ending, NoEnding
from latespin.model.moments.moments import Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from tests.conftest import noise, track_of


@given(st.lists(st.tuples(st.integers(0, 9), st.integers(0, 400)), max_size=60), st.integers(1, 1000))
def test_a_cache_keeps_to_its_bytes_and_to_what_was_used_last(asked: list[tuple[int, int]], most: int) -> None:
    cache: Cache[int, np.ndarray] = Cache("test", most)
    for key, size in asked:
        cache.put(key, np.zeros(size, np.uint8))
        assert key in cache, "the newest is always there"
        assert cache.bytes <= max(most, size)
    assert len(cache) <= len({key for key, _ in asked})


def test_what_is_used_stays_and_what_grows_makes_room() -> None:
    cache: Cache[str, list[np.ndarray]] = Cache("test", 1000)
    grows = [np.zeros(100, np.uint8)]
    cache.put("old", [np.zeros(400, np.uint8)])
    cache.put("used", [np.zeros(400, np.uint8)])
    assert cache.get("old") is not None
    cache.put("grows", grows)
    assert "used" in cache
    grows.append(np.zeros(300, np.uint8))
    cache.trim()
    assert ("used" in cache, "old" in cache, "grows" in cache) == (False, True, True)
    assert bytes_of((np.zeros(3, np.float32), [np.zeros(2, np.int8)])) == 14


def test_two_threads_have_one_value() -> None:
    cache: Cache[str, object] = Cache("test", 1000)
    meet, found = threading.Barrier(2), []

    def make() -> object:
        meet.wait(10.0)
        return object()

    threads = [threading.Thread(target=lambda: found.append(cache.get_or_make("key", make))) for _ in range(2)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert found[0] is found[1]


def test_functions_keep_results_and_tell_the_log(caplog: pytest.LogCaptureFixture) -> None:
    calls = []

    @kept(MEGABYTE)
    def table(size: int, scale: float = 1.0) -> np.ndarray:
        calls.append((size, scale))
        return np.full(size, scale)

    assert table(1000) is table(1000)
    assert table(1000, scale=2.0)[0] == 2.0
    table(200_000)
    assert table(1000) is not None
    assert len(calls) == 4, "what was too large together was made again"
    name = next(name for name in sizes() if name.endswith("table"))
    with caplog.at_level(logging.DEBUG, logger="latespin.caches"):
        log_sizes()
    assert any(name in line and "MB" in line for line in caplog.messages)


def versions() -> list[tuple[str, Stages]]:
    """A version with each kind of effect, still and moving, of moment and of ending, and one that is stretched."""
    points = tuple(LanePoint(at=Position(seconds=at), value=40.0 + at) for at in (0.1, 1.0))
    moving = Lane(field="amount_percent", points=points)
    start, end = Position(beat=1.0), Position(beat=3.0)
    made = [("stretched", Stages(time=Time(speed=0.8, pitch="held", halftime="bar")))]
    for name, kind in EFFECTS.items():
        made.append((name, Stages(colour=Colour(effects=(kind(id="a"), kind(id="b", lanes=(moving,)))))))
    for name, moment in MOMENTS.items():
        made.append((name, Stages(moments=Moments(placed=(moment(id="m", start=start, end=end),)))))
    for name, ending in ENDINGS.items():
        if ending is not NoEnding:
            made.append((name, Stages(ending=Ending(way=ending(at=end)))))
    return made


def test_what_is_dropped_is_gone_at_once() -> None:
    """A reader that waits for the garbage collector keeps its song, and all that was made of it, for minutes."""
    gc.collect()
    gc.disable()
    try:
        for name, stages in versions():
            readers = TrackRenderer(track_of(noise(1.6)), Grid(bpm=120.0))
            chain = readers.chain(stages)
            chain.read(40_000)
            chain.seek(20_000)
            chain.read(50_000)
            left = weakref.ref(readers), weakref.ref(chain), weakref.ref(readers.track.sound)
            del readers, chain
            assert [ref() for ref in left] == [None, None, None], name
    finally:
        gc.enable()

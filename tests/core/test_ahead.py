"""Work on several threads: nothing of the result changes, errors come out where the block is taken, and no thread stays behind."""

import threading
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.ahead import ReadAhead, made_ahead
from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import Audio
from latespin.errors import Cancelled
from latespin.jobs import Quietly
from latespin.model.effects.effects import Echo, Hall
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.level import LevelPlan, LevelProcessor, levelled
from latespin.render.mastering.measure import render_whole
from tests.conftest import noise, track_of

RATE = 44_100


def threads() -> list[str]:
    """The threads that work ahead."""
    return [thread.name for thread in threading.enumerate() if thread.name.startswith("ahead")]


@given(st.lists(st.integers(), max_size=30))
def test_blocks_come_in_their_order(blocks: list[int]) -> None:
    assert list(made_ahead(blocks)) == blocks
    assert threads() == []


def test_blocks_are_made_while_others_are_used() -> None:
    """Four blocks that take 20 ms to make and 20 ms to use: the second is made before the first has been used."""
    made: list[int] = []

    def slowly() -> Iterator[int]:
        for number in range(4):
            time.sleep(0.02)
            made.append(number)
            yield number

    for number in made_ahead(slowly()):
        time.sleep(0.05)
        assert number == 3 or number + 1 in made


def test_an_error_is_raised_where_its_block_is_taken_and_the_ones_before_come() -> None:
    def faulty() -> Iterator[int]:
        yield from (1, 2)
        raise ValueError("the third")

    taken = []
    with pytest.raises(ValueError, match="the third"), closing(made_ahead(faulty())) as blocks:
        taken.extend(blocks)
    assert taken == [1, 2]
    assert threads() == []


def test_leaving_early_closes_what_makes_the_blocks() -> None:
    closed = []

    def endless() -> Iterator[int]:
        try:
            while True:
                yield 0
        finally:
            closed.append(True)

    with closing(made_ahead(endless())) as blocks:
        next(blocks)
    del blocks
    assert closed == [True]
    assert threads() == []


@given(st.lists(st.tuples(st.booleans(), st.integers(1, 40)), min_size=1, max_size=12))
def test_reading_ahead_gives_what_reading_gives(asked: list[tuple[bool, int]]) -> None:
    """In order or not, all pieces are those asked for; beyond the end nothing is read ahead."""
    song, read = np.arange(200, dtype=np.float32)[None], []

    def source(start: int, frames: int) -> Audio:
        read.append(start + frames)
        return song[:, start : start + frames]

    with ThreadPoolExecutor(1) as pool:
        ahead, place = ReadAhead(source, 150, pool), 0
        for onward, frames in asked:
            place = place if onward else max(0, place - 7)
            assert np.array_equal(ahead.read(place, frames), song[:, place : place + frames])
            place += frames
    assert all(stop <= max(150, place + 40) for stop in read)


SONG = track_of(noise(3.0))
BUSY = Stages(
    time=Time(speed=0.9), colour=Colour(effects=(Echo(id="e"), Hall(id="h", decay_seconds=0.6))),
    level=Level(target_lufs=-9.0, allowance_db=6.0),
)  # fmt: skip


@pytest.mark.parametrize("pitch", ["linked", "held"])
def test_a_whole_render_is_bit_for_bit_what_the_chain_gives(pitch: str) -> None:
    stages = replace(BUSY, time=replace(BUSY.time, pitch=pitch))
    readers = TrackRenderer(SONG)
    sound, facts = render_whole(readers, stages, Quietly())
    chain = TrackRenderer(SONG).chain(stages)
    alone = np.concatenate([chain.read(1 << 16) for _ in range(0, chain.frames, 1 << 16)], axis=1)
    assert np.array_equal(sound, alone)
    assert facts == facts_of(alone, RATE)
    assert threads() == []


def test_a_whole_sound_is_levelled_bit_for_bit_as_on_one_thread() -> None:
    plan = LevelPlan(gain_db=6.0, ceiling=0.5, link=0.4)
    alone = LevelProcessor(plan, RATE, 2)
    blocks = [alone.process(SONG.sound[:, start : start + (1 << 16)]) for start in range(0, 3 * RATE, 1 << 16)]
    made = np.concatenate([*blocks, alone.finish()], axis=1)
    assert np.array_equal(np.concatenate(list(levelled(SONG.sound, plan, RATE)), axis=1), made)


def test_the_same_export_is_the_same_file(tmp_path: Path) -> None:
    written = []
    for name in ("one.flac", "two.flac"):
        export(TrackRenderer(SONG), BUSY, tmp_path / name, Quietly())
        written.append(soundfile.read(tmp_path / name, dtype="int32")[0])
    assert np.array_equal(*written)


class StoppedAt(Quietly):
    """Work that is cancelled once so much is done."""

    def __init__(self, fraction: float) -> None:
        self.at, self.done = fraction, 0.0

    def report(self, fraction: float) -> None:
        self.done = fraction

    def cancelled(self) -> bool:
        return self.done >= self.at


@pytest.mark.parametrize("fraction", [0.0, 0.1, 0.5, 0.75])
def test_cancelling_leaves_neither_a_file_nor_a_thread(fraction: float, tmp_path: Path) -> None:
    with pytest.raises(Cancelled):
        export(TrackRenderer(SONG), BUSY, tmp_path / "never.flac", StoppedAt(fraction))
    assert list(tmp_path.iterdir()) == []
    assert threads() == []

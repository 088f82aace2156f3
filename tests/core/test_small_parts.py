"""Small parts the rest is built on: undo, version edits, moved moments, dither, downmix, chunks, rings, smoothing, cues of ears."""

import io
import struct
from itertools import pairwise

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule
from msgspec.structs import replace

from latespin.dsp.control.automation import SOON, Automation, crossfade_in
from latespin.dsp.control.smoothing import STEP, SmoothedValue
from latespin.dsp.dither import Quantiser
from latespin.dsp.effects.binaural import sphere_table
from latespin.dsp.effects.hrtf import HEAD_SECONDS, ear_cues, ear_delay
from latespin.media.audio.downmix import fold_to_stereo
from latespin.media.audio.riff import append, chunk, sample_loop
from latespin.model.arranging.relocation import made_on, relocated, with_places
from latespin.model.documents.documents import Session
from latespin.model.documents.history import LIMIT, History
from latespin.model.documents.version_edits import (
    free_name,
    new_id,
    with_changed,
    with_valid_choice,
    with_version,
    with_version_moved,
    without_version,
)
from latespin.model.moments.moments import Moments, TapeStop
from latespin.model.moments.moving import LEAST_SECONDS, begun_at, has_length, lasting, nudged
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout, Length, Position
from latespin.model.timing.tempo_curve import CurvePoint
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Stages, Time, Version
from latespin.render.playback.ring_buffer import RingBuffer, crossfade

RATE = 44_100
GRID = Grid(bpm=100.0, first_beat_seconds=0.4)


class UndoLikeAList(RuleBasedStateMachine):
    """History against two plain lists."""

    def __init__(self) -> None:
        super().__init__()
        self.history: History[int] = History(0)
        self.past: list[int] = []
        self.value, self.future = 0, []
        self.merge = ""

    @rule(value=st.integers(0, 5), merge=st.sampled_from(["", "a", "b"]))
    def edit(self, value: int, merge: str) -> None:
        assert self.history.edit(f"to {value}", value, merge) == (value != self.value)
        if value != self.value:
            if not (merge and merge == self.merge):
                self.past.append(self.value)
            self.value, self.future, self.merge = value, [], merge

    @rule()
    def undo(self) -> None:
        self.history.undo()
        if self.past:
            self.future.append(self.value)
            self.value = self.past.pop()
        self.merge = ""

    @rule()
    def redo(self) -> None:
        self.history.redo()
        if self.future:
            self.past.append(self.value)
            self.value = self.future.pop()
        self.merge = ""

    @rule()
    def seal(self) -> None:
        self.history.seal()
        self.merge = ""

    @invariant()
    def same(self) -> None:
        assert self.history.value == self.value
        assert bool(self.history.undo_label()) == bool(self.past)
        assert bool(self.history.redo_label()) == bool(self.future)


TestUndo = UndoLikeAList.TestCase


def test_undo_forgets_the_oldest_steps_alone() -> None:
    history: History[int] = History(0)
    for value in range(1, LIMIT + 50):
        history.edit("step", value)
    for _ in range(LIMIT + 50):
        history.undo()
    assert history.value == 49


# -- versions -----------------------------------------------------------------------------------------------------------


def session(names: list[str], chosen: int) -> Session:
    """A session with versions of these names, whose ids are their places."""
    versions = tuple(Version(id=str(i), name=name) for i, name in enumerate(names))
    return Session(versions=versions, chosen=str(chosen) if versions else "")


NAMES = st.lists(st.sampled_from(["Slowed", "Slowed 2", "Relay race", "Lights down"]), unique=True, min_size=1)


@given(names=NAMES, at=st.integers(0, 3), name=st.sampled_from(["Slowed", "Freeze game", "Slowed 2"]))
def test_a_version_is_added_behind_the_chosen_one_under_a_free_name(names: list[str], at: int, name: str) -> None:
    before = session(names, at % len(names))
    after = with_version(before, Version(id="0", name=name))
    assert len({v.id for v in after.versions}) == len({v.name for v in after.versions}) == len(names) + 1
    place = [v.id for v in after.versions].index(after.chosen)
    assert after.versions[place - 1].id == before.chosen
    assert [v for v in after.versions if v.id != after.chosen] == list(before.versions)


@given(names=NAMES, chosen=st.integers(0, 3), gone=st.integers(0, 4))
def test_a_deleted_version_leaves_another_chosen(names: list[str], chosen: int, gone: int) -> None:
    before = session(names, chosen % len(names))
    after = without_version(before, str(gone))
    assert [v.id for v in after.versions] == [v.id for v in before.versions if v.id != str(gone)]
    if gone >= len(names):
        assert after == before
    elif after.versions:
        assert after.version(after.chosen) is not None
        assert with_valid_choice(after) == after
    else:
        assert after.chosen == ""


@given(names=NAMES, which=st.integers(0, 3), by=st.sampled_from([-1, 1]))
def test_moving_there_and_back_changes_nothing(names: list[str], which: int, by: int) -> None:
    before = session(names, 0)
    moved = with_version_moved(before, str(which), by)
    assert sorted(v.id for v in moved.versions) == sorted(v.id for v in before.versions)
    if moved != before:
        assert with_version_moved(moved, str(which), -by) == before


def test_changed_versions_names_and_ids() -> None:
    before = session(["Slowed", "Slowed 2"], 1)
    changed = with_changed(before, Version(id="1", name="Bell"))
    assert [v.name for v in changed.versions] == ["Slowed", "Bell"]
    assert free_name(before, "Slowed") == "Slowed 3"
    assert free_name(before, "Bell") == "Bell"
    assert len({new_id() for _ in range(500)}) == 500
    assert with_valid_choice(replace(before, chosen="gone")).chosen == "0"


# -- moments moved ------------------------------------------------------------------------------------------------------

ON_BEATS = TapeStop(id="m", start=Position(beat=16.0), end=Position(beat=20.0))
IN_SECONDS = TapeStop(id="m", start=Position(seconds=10.0), end=Position(seconds=12.5))
EITHER = st.sampled_from([ON_BEATS, IN_SECONDS])


def seconds_of(moment: TapeStop, grid: Grid | None = GRID) -> tuple[float, float]:
    """Start and end in seconds."""
    return moment.start.at(grid), moment.end.at(grid)


@given(moment=EITHER, seconds=st.floats(0.0, 60.0))
def test_a_moment_keeps_its_length_where_it_is_moved_as_a_whole(moment: TapeStop, seconds: float) -> None:
    moved = begun_at(moment, Position(seconds=seconds), GRID)
    start, end = seconds_of(moved)
    was = seconds_of(moment)
    assert start == pytest.approx(seconds)
    assert end - start == pytest.approx(was[1] - was[0])


@given(beat=st.integers(30, 200), end=st.floats(0.0, 10.0), start=st.floats(0.0, 5.0))
def test_a_moment_whose_ends_crossed_on_a_new_grid_can_be_put_elsewhere(beat: int, end: float, start: float) -> None:
    crossed = TapeStop(id="m", start=Position(beat=float(beat)), end=Position(seconds=end))
    assert not has_length(crossed, GRID)
    assert has_length(begun_at(crossed, Position(seconds=start), GRID), GRID)
    first, last = seconds_of(begun_at(crossed, Position(seconds=start), GRID))
    assert (first, last - first) == pytest.approx((start, 0.005))


@given(beat=st.integers(0, 200))
def test_on_beats_it_stays_on_beats(beat: int) -> None:
    moved = begun_at(ON_BEATS, Position(beat=float(beat)), GRID)
    assert (moved.start.beat, moved.end.beat) == (beat, beat + 4.0)
    assert lasting(ON_BEATS, Length(beats=2.0), GRID).end.beat == 18.0


@given(moment=EITHER, seconds=st.floats(0.1, 9.0))
def test_it_lasts_what_was_asked_for(moment: TapeStop, seconds: float) -> None:
    start, end = seconds_of(lasting(moment, Length(seconds=seconds), GRID))
    assert end - start == pytest.approx(seconds)


@given(moment=EITHER, beats=st.integers(-8, 8))
def test_nudging_there_and_back_changes_nothing(moment: TapeStop, beats: int) -> None:
    there = nudged(moment, GRID, beats=float(beats))
    back = nudged(there, GRID, beats=-float(beats))
    assert seconds_of(back) == pytest.approx(seconds_of(moment), abs=2e-4)


def test_a_nudge_never_takes_the_length_away() -> None:
    short = TapeStop(id="m", start=Position(seconds=0.001), end=Position(seconds=0.004 + LEAST_SECONDS))
    assert nudged(short, GRID, seconds=-1.0) is short


# -- relocation ---------------------------------------------------------------------------------------------------------


@given(
    places=st.lists(st.floats(0.0, 280.0), min_size=2, max_size=12),
    bpm=st.floats(80.0, 140.0),
    bars=st.integers(60, 90),
)
def test_on_the_same_song_nothing_moves_and_on_another_the_order_stays(places, bpm: float, bars: int) -> None:
    def song(seconds: float, tempo: float, last: float) -> Layout:
        grid = Grid(bpm=tempo)
        times = grid.seconds_of(np.arange(0.0, seconds * tempo / 60.0))
        at = float(grid.seconds_of(last))
        return Layout(
            round(seconds * RATE), RATE, grid, tuple((float(t), 1.0 if abs(t - at) < 1e-6 else 0.3) for t in times)
        )

    first = song(180.0, 100.0, 280.0)
    placed = tuple(
        TapeStop(id=str(i), start=Position(beat=round(at, 2)), end=Position(beat=round(at, 2) + 1.0))
        for i, at in enumerate(places)
    )
    stages = Stages(moments=Moments(placed=placed))
    assert relocated(stages, made_on(first), first) == stages
    other = song(4.0 * bars * 60.0 / bpm + 4.0, bpm, 4.0 * (bars - 4))
    there = relocated(stages, made_on(first), other)
    early = [m.start.beat for m in there.moments.placed if placed[int(m.id)].start.beat <= 140.0]
    late = [m.start.beat for m in there.moments.placed if placed[int(m.id)].start.beat > 140.0]
    assert early == [placed[int(m.id)].start.beat for m in there.moments.placed if m.start.beat in early][: len(early)]
    wanted = sorted(m.start.beat for m in placed if m.start.beat > 140.0)
    assert np.allclose(np.diff(sorted(late)), np.diff(wanted)), "late ones keep their distances"
    assert all(m.end.beat - m.start.beat == pytest.approx(1.0) for m in there.moments.placed)


def test_changing_no_place_changes_nothing() -> None:
    stages = Stages(moments=Moments(placed=(ON_BEATS,)))
    assert with_places(stages, lambda place, first: place) == stages


# -- the beat clock -----------------------------------------------------------------------------------------------------


@given(speed=st.floats(0.3, 3.0), bpm=st.floats(60.0, 180.0), seconds=st.floats(0.0, 50.0))
def test_at_a_steady_speed_beats_are_a_straight_line(speed: float, bpm: float, seconds: float) -> None:
    grid = Grid(bpm=bpm, first_beat_seconds=0.3)
    clock = BeatClock(compile_time_map(Time(speed=speed), 60 * RATE, RATE), grid, RATE)
    frame = np.array([seconds / speed * RATE])
    assert clock.beats(frame) == pytest.approx([(seconds - 0.3) * bpm / 60.0], abs=2e-3)
    assert clock.bars(frame) == pytest.approx(clock.beats(frame) / 4.0)
    assert clock.beat_frames(frame) == pytest.approx([60.0 / bpm / speed * RATE], rel=1e-3)


@given(low=st.floats(0.5, 0.95), high=st.floats(1.05, 2.0), share=st.floats(0.0, 0.98))
def test_under_a_straight_curve_beats_are_its_integral(low: float, high: float, share: float) -> None:
    """Speed is straight over the song: dt = dx / (low + (high − low) x / S), so After is S ln(v / low) / (high − low)."""
    song = 60.0
    time = Time(curve=(CurvePoint(place=0.0, speed=low), CurvePoint(place=1.0, speed=high)))
    clock = BeatClock(compile_time_map(time, round(song * RATE), RATE), Grid(bpm=120.0), RATE)
    x = share * song
    after = song * np.log((low + (high - low) * share) / low) / (high - low)
    assert clock.beats(np.array([after * RATE])) == pytest.approx([2.0 * x], abs=0.02)


def test_after_the_music_it_goes_on_at_the_last_tempo_and_without_a_grid_at_120() -> None:
    clock = BeatClock(compile_time_map(Time(), 10 * RATE, RATE), None, RATE)
    assert clock.beats(np.array([5.0, 12.0]) * RATE) == pytest.approx([10.0, 24.0], abs=1e-3)
    slow = BeatClock(compile_time_map(Time(speed=0.5), 10 * RATE, RATE), Grid(bpm=20.0), RATE)
    assert slow.longest_beat() == 4.0 * RATE


# -- numbers and sound --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("bits", [16, 24])
def test_dither_leaves_no_trace_of_the_signal_in_the_error(bits: int) -> None:
    """Lipshitz et al. 1992: with triangular noise the error has mean 0 and power (1/12 + 1/6) step², whatever the signal."""
    full = 2 ** (bits - 1)
    for level in (0.3, 0.5, 0.77):
        sound = np.full((1, 400_000), level / full, np.float32)
        made = Quantiser(bits).process(sound) >> (32 - bits)
        error = made.T - sound.astype(np.float64) * full
        assert abs(np.corrcoef(error[0, 1:], error[0, :-1])[0, 1]) < 0.01, "white"
        assert abs(error.mean()) < 0.005
        assert np.mean(error**2) == pytest.approx(0.25, rel=0.02)


@given(st.lists(st.integers(-(2**15), 2**15 - 1), min_size=1, max_size=200), st.sampled_from([16, 24]))
def test_what_is_a_whole_number_of_steps_stays_as_it_is(steps: list[int], bits: int) -> None:
    sound = np.array([steps], np.float32) / np.float32(2 ** (bits - 1))
    assert (Quantiser(bits).process(sound) >> (32 - bits)).T.tolist() == [steps]


@given(cuts=st.lists(st.integers(0, 500), max_size=5), channels=st.integers(1, 3), bits=st.sampled_from([16, 24]))
def test_dither_is_the_same_however_the_sound_is_cut(cuts: list[int], channels: int, bits: int) -> None:
    sound = np.random.default_rng(7).uniform(-1.0, 1.0, (channels, 500)).astype(np.float32)
    whole, parts = Quantiser(bits), Quantiser(bits)
    edges = [0, *sorted(cuts), 500]
    made = np.concatenate([parts.process(sound[:, a:b]) for a, b in pairwise(edges)])
    assert np.array_equal(made, whole.process(sound))
    assert len(set(map(tuple, made))) > 400, "each channel its own noise"


def test_silence_stays_silent_and_full_scale_is_clipped_not_wrapped() -> None:
    sound = np.array([[0.0, 1.5, -1.5, 1.0, -1.0]], np.float32)
    quantiser = Quantiser(16)
    made = (quantiser.process(np.repeat(sound, 50, axis=0)) >> 16).T
    assert quantiser.clipped == 100
    assert np.all(made[:, 0] == 0)
    assert np.all(made[:, 1] == 32_767)
    assert np.all(made[:, 2] == -32_768)
    assert made.min() >= -32_768


@pytest.mark.parametrize("channels", range(1, 13))
def test_a_downmix_keeps_sides_and_levels(channels: int) -> None:
    """ITU-R BS.775: centre and surrounds −3 dB, the LFE of 5.1 and more left out."""
    rows = []
    for which in range(channels):
        song = np.zeros((channels, 4), np.float32)
        song[which] = 1.0
        rows.append(fold_to_stereo(song)[:, 0].tolist())
    if channels <= 2:
        assert rows == np.eye(channels).tolist()
        return
    half = pytest.approx(0.5**0.5)
    assert rows[:2] == [[1.0, 0.0], [0.0, 1.0]]
    if channels in (6, 7, 8):
        assert rows[3] == [0.0, 0.0]
    if channels not in (4,):
        assert rows[2] == [half, half]
    for left, right in rows[4 if channels > 4 else 2 :]:
        assert max(left, right) == half or (left, right) == (0.0, 0.0)


@given(body=st.binary(max_size=60), frames=st.integers(1, 40))
def test_chunks_are_even_and_the_file_stays_a_wav_file(body: bytes, frames: int) -> None:
    file = io.BytesIO()
    soundfile.write(file, np.zeros((frames, 1)), 8_000, format="WAV", subtype="PCM_U8")
    append(file, chunk(b"note", body) + sample_loop(8_000, 0, frames - 1))  # type: ignore[arg-type]
    data = file.getvalue()
    assert len(data) % 2 == 0
    assert struct.unpack("<I", data[4:8])[0] == len(data) - 8
    assert b"note" + struct.pack("<I", len(body)) + body in data
    loop = data[data.rindex(b"smpl") + 8 :]
    assert struct.unpack("<2I", loop[44:52]) == (0, frames - 1)
    assert soundfile.info(io.BytesIO(data)).frames == frames


@given(at=st.integers(0, 5_000), sizes=st.lists(st.integers(1, 90), min_size=1, max_size=20))
def test_a_ring_gives_back_the_latest_frames(at: int, sizes: list[int]) -> None:
    ring, sound, start = RingBuffer(256), [], at
    for i, size in enumerate(sizes):
        block = np.random.default_rng(i).random((2, size)).astype(np.float32)
        ring.write(start, block)
        sound.append(block)
        start += size
    whole = np.concatenate(sound, axis=1)[:, -256:]
    assert np.array_equal(ring.read(start - whole.shape[1], whole.shape[1]), whole)


@given(frames=st.integers(1, 400))
def test_a_crossfade_of_a_sound_with_itself_is_the_sound(frames: int) -> None:
    sound = np.random.default_rng(3).random((2, frames)).astype(np.float32)
    assert np.allclose(crossfade(sound, sound), sound, atol=1e-6)
    ramp = crossfade(np.zeros((2, frames), np.float32), np.ones((2, frames), np.float32))[0]
    assert np.all(np.diff(ramp) >= 0.0)
    assert np.allclose(ramp + ramp[::-1], 1.0, atol=1e-6)


@given(
    values=st.lists(st.floats(-5.0, 5.0), min_size=1, max_size=5),
    sizes=st.lists(st.integers(1, 300), min_size=5, max_size=5),
)
def test_a_smoothed_value_never_jumps_and_arrives(values: list[float], sizes: list[int]) -> None:
    smoothed = SmoothedValue(0.0)
    out = [np.broadcast_to(smoothed.over(10), 10)]
    largest = 0.0
    for value, size in zip(values, sizes, strict=False):
        largest = max(largest, abs(value - float(out[-1][-1])) + 1.0)
        smoothed.to(value)
        out.append(np.broadcast_to(smoothed.over(size), size))
    whole = np.concatenate([*out, np.broadcast_to(smoothed.over(STEP + 1), STEP + 1)])
    assert np.abs(np.diff(whole)).max() <= 2.0 * 10.0 / STEP + 1e-9
    assert whole[-1] == pytest.approx(values[min(len(values), len(sizes)) - 1])
    assert smoothed.steady


def test_an_amount_mixes_from_dry_to_wet_and_automation_may_be_a_curve() -> None:
    dry, wet = np.zeros((2, 5), np.float32), np.ones((2, 5), np.float32)
    out = crossfade_in(dry, wet, np.array([0.0, SOON / 2.0, SOON, 0.5, 1.0]))
    assert out[0].tolist() == pytest.approx([0.0, 0.5, 1.0, 1.0, 1.0])
    moving = Automation(lambda frames: frames / 10.0)
    assert moving.steady is None
    assert moving.at(5, 3).tolist() == pytest.approx([0.5, 0.6, 0.7])
    assert moving.through(np.sqrt).point(4) == pytest.approx(0.4**0.5)
    assert Automation(0.25).through(np.sqrt).steady == 0.5


@pytest.mark.parametrize("rate", [44_100, 48_000, 96_000])
def test_the_cues_of_the_sphere_are_woodworths_and_left_is_rights_mirror(rate: int) -> None:
    cues = ear_cues(sphere_table(rate, 0.0, 1.0), rate)
    angles = np.radians(np.arange(360))
    left, right = (
        ear_delay(np.arccos(np.clip(-np.sin(angles), -1, 1))),
        ear_delay(np.arccos(np.clip(np.sin(angles), -1, 1))),
    )
    assert np.abs(cues.delay_seconds - (right - left)).max() < 60e-6
    assert cues.delay_seconds[90] == pytest.approx(-HEAD_SECONDS * (1.0 + np.pi / 2.0), abs=40e-6), (
        "the right ear is first"
    )
    mirrored = np.roll(cues.delay_seconds[::-1], 1)
    assert np.allclose(cues.delay_seconds, -mirrored, atol=2e-6)
    assert np.allclose(cues.low_db, -np.roll(cues.low_db[::-1], 1), atol=0.05)
    assert cues.high_db[90] > cues.low_db[90] > 0.0, "the head shadows highs more than lows"
    assert cues.level_db.shape == (2, 360)

"""The time map: curves, halftime, lengths fitted, and what is heard through it."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.tempo_curve import CurvePoint, added, factor_at, removed, scaled_between, with_end
from latespin.model.timing.time_map import compile_time_map, fitted_speed
from latespin.model.version import Time
from latespin.render.sources.music_reader import MusicReader
from tests.conftest import cents, frequency, level_db, sine, track_of

RATE = 44_100
RAMP = (CurvePoint(place=0.0, speed=0.9), CurvePoint(place=0.4, speed=1.0), CurvePoint(place=1.0, speed=1.15))
SMOOTH = (CurvePoint(place=0.1, speed=0.7, shape="smooth"), CurvePoint(place=0.9, speed=1.6))
GRID = Grid(bpm=120.0, first_beat_seconds=0.25)
CURVES = st.sampled_from([(), RAMP, SMOOTH])


@given(
    curve=CURVES,
    speed=st.floats(0.25, 4.0),
    frames=st.integers(1, 3_000_000),
    place=st.floats(0.0, 1.0),
    halftime=st.sampled_from(["off", "song", "bar", "4bar"]),
)
def test_spans_follow_each_other_and_go_there_and_back(
    curve: tuple[CurvePoint, ...], speed: float, frames: int, place: float, halftime: str
) -> None:
    time_map = compile_time_map(Time(speed=speed, curve=curve, halftime=halftime), frames, RATE, GRID)
    assert time_map.spans[0].after_start == 0
    for earlier, later in zip(time_map.spans, time_map.spans[1:], strict=False):
        assert earlier.after_stop == later.after_start > earlier.after_start
    after = place * time_map.after_frames
    before = time_map.before_at(after)
    assert 0.0 <= before <= frames
    assert time_map.after_at(before) == pytest.approx(after, abs=8.0)
    assert time_map.before_of_all(np.array([after]))[0] == pytest.approx(before)


@given(curve=CURVES, frames=st.integers(1000, 3_000_000), wanted=st.integers(1000, 3_000_000), held=st.booleans())
def test_a_typed_length_is_met_to_the_frame(
    curve: tuple[CurvePoint, ...], frames: int, wanted: int, held: bool
) -> None:
    time = Time(curve=curve, pitch="held" if held else "linked")
    speed = fitted_speed(time, frames, wanted)
    if 0.25 <= speed <= 4.0:
        assert compile_time_map(replace(time, speed=speed), frames, RATE).after_frames == wanted


@given(curve=CURVES, a=st.floats(0.0, 0.45), b=st.floats(0.55, 1.0), factor=st.floats(0.6, 1.6))
def test_fitting_a_range_changes_that_range_alone(
    curve: tuple[CurvePoint, ...], a: float, b: float, factor: float
) -> None:
    frames = 1_000_000
    fitted = scaled_between(curve, a, b, factor)
    old, new = (compile_time_map(Time(curve=c), frames, RATE).spans[0].speeds for c in (curve, fitted))
    times = [speeds.after_at(np.array([0.0, a, b, 1.0]) * frames) for speeds in (old, new)]
    assert np.allclose(np.diff(times[1]), np.diff(times[0]) / [1.0, factor, 1.0], atol=1e-3)
    assert factor_at(fitted, (a + b) / 2) == pytest.approx(factor_at(curve, (a + b) / 2) * factor, rel=1e-6)


@pytest.mark.parametrize("pitch", ["linked", "held"])
@pytest.mark.parametrize("curve", [RAMP, SMOOTH])
def test_along_a_curve_pitch_follows_or_stays_as_asked(curve: tuple[CurvePoint, ...], pitch: str) -> None:
    hz = 700.0
    reader = MusicReader(track_of(sine(hz, 12.0)), Time(curve=curve, pitch=pitch, semitones=2.0))  # type: ignore[arg-type]
    out = reader.read(0, reader.map.after_frames)
    for place in (0.2, 0.5, 0.8):
        middle = round(reader.map.after_at(place * 12.0 * RATE))
        part = out[:, middle - 6000 : middle + 6000]
        followed = reader.map.speed_at(middle) if pitch == "linked" else 1.0
        wanted = hz * followed * 2 ** (2.0 / 12.0)
        assert abs(cents(frequency(part, RATE, wanted), wanted)) < 1.5
        assert level_db(part) == pytest.approx(level_db(sine(hz, 1.0)), abs=0.15)


@pytest.mark.parametrize(("octave_down", "pitch", "wanted"), [(False, "held", 500.0), (True, "linked", 250.0)])
def test_halftime_by_the_bar_plays_each_first_half_over_the_whole_bar(
    octave_down: bool, pitch: str, wanted: float
) -> None:
    t = np.arange(10 * RATE) / RATE
    bar_place = ((t - 0.25) / 2.0) % 1.0
    wave = np.where((t < 0.25) | (bar_place < 0.5), np.sin(2 * np.pi * 500 * t), np.sin(2 * np.pi * 3000 * t))
    track = track_of((0.4 * wave).astype(np.float32)[None])
    reader = MusicReader(track, Time(halftime="bar", octave_down=octave_down, pitch=pitch), GRID)  # type: ignore[arg-type]
    out = reader.read(0, reader.map.after_frames)
    assert out.shape[1] == track.frames
    assert np.array_equal(out[:, : int(0.23 * RATE)], track.sound[:, : int(0.23 * RATE)])
    bar = out[:, round(2.35 * RATE) : round(4.15 * RATE)]
    assert abs(cents(frequency(bar, RATE, wanted), wanted)) < 0.5
    for start in (0.25, 2.25, 4.25):
        edge = np.abs(np.diff(out[0, round((start - 0.05) * RATE) : round((start + 0.05) * RATE)]))
        assert edge.max() < 0.2, "no steeper than both tones together"


def test_a_downbeat_stays_whole_and_in_its_place_in_halftime() -> None:
    sound = np.full((1, 9 * RATE), 0.0, np.float32)
    for beat in np.arange(0.25, 9.0, 2.0):
        sound[0, round(beat * RATE)] = 1.0
    reader = MusicReader(track_of(sound), Time(halftime="bar", pitch="held"), GRID)
    out = np.abs(reader.read(0, reader.map.after_frames)[0])
    for beat in np.arange(2.25, 8.0, 2.0):
        at = round(beat * RATE)
        near = out[at - 3000 : at + 3000]
        assert abs(int(near.argmax()) - 3000) <= 1
        assert near.max() > 0.85


def test_halftime_of_the_whole_song_can_keep_its_pitch() -> None:
    for time, wanted in (
        (Time(halftime="song", pitch="held"), 440.0),
        (Time(halftime="song"), 440.0),
        (Time(halftime="song", octave_down=True), 220.0),
        (Time(halftime="song", octave_down=True, speed=1.1), 242.0),
    ):
        reader = MusicReader(track_of(sine(440.0, 4.0)), time)
        out = reader.read(0, reader.map.after_frames)
        assert out.shape[1] == round(8 * RATE / time.speed)
        assert abs(cents(frequency(out, RATE, wanted), wanted)) < 0.1


def test_without_a_grid_halftime_in_bars_changes_nothing() -> None:
    track = track_of(sine(440.0, 2.0))
    assert np.array_equal(MusicReader(track, Time(halftime="2bar")).read(0, track.frames), track.sound)


@pytest.mark.parametrize("pitch", ["linked", "held"])
@pytest.mark.parametrize("semitones", [-24.0, 24.0])
@pytest.mark.parametrize(("speed", "factor"), [(0.25, 0.25), (4.0, 4.0)])
def test_the_farthest_settings_together_still_render(pitch: str, semitones: float, speed: float, factor: float) -> None:
    curve = (CurvePoint(place=0.0, speed=factor), CurvePoint(place=1.0, speed=factor * 0.999 + 0.001))
    for character, halftime in (("full-mix", "song"), ("smear", "bar")):
        slowest = 1 / 32 if character == "smear" and pitch == "held" and speed < 1 else speed
        time = Time(
            speed=slowest, pitch=pitch, semitones=semitones, curve=curve, halftime=halftime, octave_down=speed < 1,
            character=character, formants="kept",
        )  # type: ignore[arg-type]  # fmt: skip
        reader = MusicReader(track_of(sine(440.0, 1.0)[:1]), time, GRID)
        out = reader.read(reader.map.after_frames // 2, 5000)
        assert out.shape == (1, 5000)
        assert np.isfinite(out).all()


@given(start=st.integers(0, 500_000), frames=st.integers(1, 200_000), halftime=st.sampled_from(["off", "bar"]))
def test_the_spans_between_two_places_are_those_that_sound_there(start: int, frames: int, halftime: str) -> None:
    time_map = compile_time_map(Time(halftime=halftime), 600_000, RATE, GRID)  # type: ignore[arg-type]
    wanted = [
        i
        for i, span in enumerate(time_map.spans)
        if span.after_start - span.fade < start + frames and span.after_stop > start
    ]
    found = list(time_map.spans_between(start, start + frames))
    assert [i for i in found if i in wanted] == wanted
    assert len(found) <= len(wanted) + 1


def test_points_of_a_curve_are_added_removed_and_set_at_the_ends() -> None:
    assert [(p.place, p.speed) for p in added((), 0.3, 1.4)] == [(0.0, 1.0), (0.3, 1.4), (1.0, 1.0)]
    assert added(RAMP, 0.4) == RAMP
    more = added(SMOOTH, 0.5)
    assert more[1].shape == "smooth"
    assert more[1].speed == pytest.approx(factor_at(SMOOTH, 0.5))
    assert removed(added((), 0.3, 1.4), 1) == ()
    assert removed(RAMP, 1) == (RAMP[0], RAMP[2])
    assert [(p.place, p.speed) for p in with_end((), "start", 0.8)] == [(0.0, 0.8), (1.0, 1.0)]
    ends = with_end(with_end(SMOOTH, "start", 0.9), "end", 1.2)
    assert [(p.place, p.speed) for p in ends] == [(0.0, 0.9), (0.1, 0.7), (0.9, 1.6), (1.0, 1.2)]

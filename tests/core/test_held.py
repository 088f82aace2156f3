"""Held moves over the finished sound: what each plays, what they leave alone, and that blocks and places make no difference."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from latespin.dsp.arrays import Audio
from latespin.dsp.filters.percussive import drums_of
from latespin.errors import Unusable
from latespin.model.effects.automation import Lane, LanePoint
from latespin.model.effects.declaration import EFFECTS, Effect
from latespin.model.effects.effects import Echo, Eq, Gain, Hall
from latespin.model.moments.endings import Fade
from latespin.model.moments.held import (
    Held,
    HeldEffect,
    HeldRepeat,
    HeldReverse,
    HeldSilence,
    HeldSpinUp,
    HeldStop,
    HeldTempo,
    TempoPoint,
)
from latespin.model.moments.moments import Moments
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Ending, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.timeline.tail_lengths import tail_after
from tests.conftest import frequency, level_db, noise, sine, track_of
from tests.core.test_effects import music

RATE = 44_100
GRID = Grid(bpm=120.0)  # a beat is half a second
BEAT = RATE // 2
EDGE = round(0.0041 * RATE)  # of a crossfade


def held(kind: type[Held], start: float, end: float, ident: str = "m", **values: object) -> Held:
    """A move between two beats."""
    return kind(id=ident, start=Position(beat=start), end=Position(beat=end), **values)  # type: ignore[arg-type]


def stages_with(*moves: Held, **other: object) -> Stages:
    """A version with moves."""
    return Stages(moments=Moments(placed=moves), **other)  # type: ignore[arg-type]


def played(sound: Audio, *moves: Held, **other: object) -> Audio:
    """The version with these moves, before Level."""
    return TrackRenderer(track_of(sound), GRID).chain(stages_with(*moves, **other)).read(10**9)


@pytest.mark.parametrize(("back", "first"), [(1.0, 3.5), (0.0, 4.0), (1.5, 3.25), (4.0, 2.0)])
def test_a_repeat_goes_round_its_slice_in_step_and_leaves_the_rest_bit_for_bit(back: float, first: float) -> None:
    """An eighth is half a beat: the slice begins ``back`` eighths before beat 4, and the phase is kept."""
    sound = noise(5.0)
    out = played(sound, held(HeldRepeat, 4, 6, value="1/8", back=back))
    slice_at, length = round(first * BEAT), BEAT // 2
    at = np.arange(4 * BEAT, 6 * BEAT)
    within = (at - slice_at) % length
    clear = (within > EDGE) & (at > 4 * BEAT + EDGE)
    assert np.array_equal(out[:, at[clear]], sound[:, slice_at + within[clear]])
    assert np.array_equal(out[:, : 4 * BEAT], sound[:, : 4 * BEAT])
    assert np.array_equal(out[:, 6 * BEAT + EDGE :], sound[:, 6 * BEAT + EDGE :])


def test_free_slices_buzz_at_their_rate() -> None:
    """Ten milliseconds round and round repeat exactly a hundred times a second."""
    out = played(noise(4.0), held(HeldRepeat, 2, 4, free=True, slice_ms=10.0))
    inside = out[:, 2 * BEAT + 2000 : 4 * BEAT]
    assert np.allclose(inside[:, 441:], inside[:, :-441], atol=1e-6)


def test_reverse_silence_and_the_return_in_time() -> None:
    sound = noise(5.0)
    out = played(sound, held(HeldReverse, 4, 6), held(HeldSilence, 7, 8, "s"))
    backwards = sound[:, 2 * BEAT : 4 * BEAT][:, ::-1]
    assert np.array_equal(out[:, 4 * BEAT + EDGE : 6 * BEAT], backwards[:, EDGE:])
    assert not out[:, 7 * BEAT + EDGE : 8 * BEAT].any()
    assert np.array_equal(out[:, 8 * BEAT + EDGE :], sound[:, 8 * BEAT + EDGE :])


def test_a_stop_falls_evenly_to_nothing_and_a_spin_up_rises() -> None:
    """A tone's pitch halfway through an even fall or rise is half of it; in the standstill there is nothing."""
    sound = sine(2000.0, 8.0)
    out = played(sound, held(HeldStop, 4, 8, slow_seconds=1.0), held(HeldSpinUp, 10, 14, "u", rise_seconds=1.0))
    for middle, wanted in ((4 * BEAT + RATE // 2, 1000.0), (10 * BEAT + RATE // 2, 1000.0), (12.5 * BEAT, 2000.0)):
        here = slice(int(middle) - 300, int(middle) + 300)
        crossings = np.flatnonzero(np.diff(np.signbit(out[0, here])))
        found = (len(crossings) - 1) / 2.0 / (crossings[-1] - crossings[0]) * RATE
        assert found == pytest.approx(wanted, rel=0.02)
    assert not out[:, 4 * BEAT + RATE + EDGE : 8 * BEAT].any()
    assert np.abs(np.diff(out[0])).max() < 0.16, "no click anywhere: a tone of 2 kHz steps by 0.142 at most"


def test_a_stop_that_adds_time_goes_on_from_where_it_stopped() -> None:
    """An even fall over a second reads half a second; held for two, the version is a second and a half longer."""
    sound = noise(6.0)
    stages = stages_with(held(HeldStop, 4, 8, slow_seconds=1.0, time="add"), held(HeldSilence, 9, 10, "s"))
    reader = TrackRenderer(track_of(sound), GRID)
    chain, arranged = reader.chain(stages), reader.arrangement(stages)
    out = chain.read(10**9)
    more = round(1.5 * RATE)
    assert out.shape[1] == sound.shape[1] + more == chain.frames == arranged.map.after_frames
    assert not out[:, 4 * BEAT + RATE + EDGE : 8 * BEAT].any()
    resumed = 4 * BEAT + RATE // 2
    assert np.array_equal(out[:, 8 * BEAT + EDGE : 9 * BEAT + more], sound[:, resumed + EDGE : 9 * BEAT])
    assert not out[:, 9 * BEAT + more + EDGE : 10 * BEAT + more].any(), "what comes later comes later"
    assert [(spot.start, spot.stop) for spot in arranged.spots] == [
        (4 * BEAT, 8 * BEAT),
        (9 * BEAT + more, 10 * BEAT + more),
    ]
    for before in (3 * BEAT, 9 * BEAT + 100):
        later = before if before < 4 * BEAT else before + more
        assert arranged.map.after_at(float(before)) == pytest.approx(later)
        assert arranged.map.clock_at(float(later)) == pytest.approx(before)


def test_a_ridden_tempo_moves_pitch_and_clock_and_ends_on_a_whole_frame() -> None:
    """At −4 % for about four seconds the tone is 70.7 cents lower, and the version a twenty-fourth of those longer."""
    points = tuple(TempoPoint(seconds=s, percent=p) for s, p in ((0.0, 0.0), (0.1, -4.0), (4.1, -4.0), (4.2, 0.0)))
    sound = sine(1000.0, 12.0)
    ride = HeldTempo(id="t", start=Position(beat=4.0), end=Position(beat=4.0 + 8.4), points=points)
    reader, stages = TrackRenderer(track_of(sound), GRID), stages_with(ride)
    chain = reader.chain(stages)
    out = chain.read(10**9)
    read = 0.1 * 0.98 + 4.0 * 0.96 + 0.1 * 0.98
    assert out.shape[1] - sound.shape[1] == pytest.approx((4.2 - read) * RATE, abs=1.0)
    assert frequency(out[:, 4 * BEAT + RATE : 4 * BEAT + 3 * RATE], RATE, 960.0) == pytest.approx(960.0, abs=0.02)
    after = 4 * BEAT + round(4.2 * RATE)
    assert np.array_equal(out[:, after + EDGE :], sound[:, after + EDGE - (out.shape[1] - sound.shape[1]) :])
    assert np.abs(np.diff(out[0])).max() < 0.0725, "no click: a tone of 1 kHz steps by 0.0712 at most"
    for at in (4 * BEAT + 3000, 4 * BEAT + 2 * RATE, after + 5000):
        chain.seek(at)
        assert level_db(chain.read(10_000) - out[:, at : at + 10_000]) < -100.0


def test_clocks_cannot_be_moved_twice_at_once_and_points_go_on() -> None:
    stages = stages_with(
        held(HeldStop, 4, 8, "a", slow_seconds=4.0, time="add"),
        held(HeldStop, 5, 6, "b", time="add"),
        held(HeldStop, 9, 10, "c", time="add"),
    )
    arranged = TrackRenderer(track_of(noise(6.0)), GRID).arrangement(stages)
    assert [move.id for move in arranged.clock_moves] == ["a", "c"]
    (problem,) = arranged.problems
    assert problem.id == "b"
    assert "bar 2.2" in problem.says
    assert "bar 2 " in problem.says, "both are named with their places"
    for points in ((), (TempoPoint(seconds=0.5, percent=1.0),) * 2):
        with pytest.raises(Unusable, match="2 to 20000 points"):
            HeldTempo(start=Position(beat=0.0), end=Position(beat=1.0), points=points)


def test_of_two_moves_the_later_sounds_and_then_the_earlier_comes_back() -> None:
    sound = noise(6.0)
    out = played(sound, held(HeldReverse, 4, 8), held(HeldSilence, 5, 6, "s"))
    backwards = sound[:, : 4 * BEAT][:, ::-1]
    assert not out[:, 5 * BEAT + EDGE : 6 * BEAT].any()
    assert np.array_equal(out[:, 6 * BEAT + EDGE : 8 * BEAT], backwards[:, 2 * BEAT + EDGE :])


@pytest.mark.parametrize("kind", EFFECTS.values(), ids=EFFECTS)
def test_every_effect_can_be_held_and_leaves_the_rest_bit_for_bit(kind: type[Effect]) -> None:
    sound = music(5.0)
    effect = kind(low_shelf_db=12.0) if kind is Eq else kind()
    move = held(HeldEffect, 4, 6, effect=effect)
    out = played(sound, move)
    assert np.array_equal(out[:, : 4 * BEAT], sound[:, : 4 * BEAT])
    inside = slice(round(4.4 * BEAT), 6 * BEAT)
    assert level_db(out[:, inside] - sound[:, inside]) > level_db(sound[:, inside]) - 45.0
    if not move.rings_on:  # type: ignore[attr-defined]
        assert np.array_equal(out[:, 6 * BEAT + 442 :], sound[:, 6 * BEAT + 442 :])


def test_a_muffle_is_an_equaliser_and_takes_what_it_should() -> None:
    """Two octaves above a cut of 24 dB an octave, about 48 dB are gone; an octave and a half below, nothing."""
    for hz, wanted in ((2800.0, -48.0), (233.0, 0.0)):
        out = played(
            sine(hz, 4.0), held(HeldEffect, 2, 6, effect=Eq(high_cut_hz=700.0, high_slope="24", keep_level=False))
        )
        here = slice(3 * BEAT, 5 * BEAT)
        assert level_db(out[:, here]) - level_db(sine(hz, 4.0)[:, here]) == pytest.approx(wanted, abs=1.0)


def test_a_throw_repeats_what_was_sent_and_rings_on_beyond_the_song() -> None:
    """A click within the hold comes back every quarter, 6 dB less each time at half the feedback; one outside does not."""
    sound = np.zeros((2, 6 * RATE), np.float32)
    sound[:, [2 * BEAT, 5 * BEAT + 4000]] = 1.0
    echo = Echo(
        value="1/4",
        feedback_percent=50.0,
        ping_pong=False,
        amount_percent=100.0,
        low_cut_hz=20.0,
        high_cut_hz=16_000.0,
        sway_percent=0.0,
        keep_level=False,
    )
    move = held(HeldEffect, 4.5, 5.5, effect=echo)
    out = played(sound, move)
    peaks = [
        float(np.abs(out[:, at - 40 : at + 40]).max()) for at in (5 * BEAT + 4000 + n * BEAT for n in (0, 1, 2, 3))
    ]
    assert np.array_equal(out[:, : 5 * BEAT], sound[:, : 5 * BEAT]), "what sounded before is not sent"
    assert 20.0 * np.log10(peaks[2] / peaks[1]) == pytest.approx(-6.0, abs=1.0)
    assert 20.0 * np.log10(peaks[3] / peaks[2]) == pytest.approx(-6.0, abs=1.0)
    reader, stages = TrackRenderer(track_of(sound), GRID), stages_with(held(HeldEffect, 10, 11, effect=Hall()))
    chain, arranged = reader.chain(stages), reader.arrangement(stages)
    assert chain.frames - chain.music_frames == tail_after(stages, arranged, reader.context(stages)) > 2 * RATE
    faded = stages_with(held(HeldEffect, 10, 11, effect=Hall()), ending=Ending(way=Fade()))
    assert reader.chain(faded).frames == reader.arrangement(faded).map.after_frames, "a fade ends the sends too"


def test_the_drums_alone_go_round_while_the_rest_goes_on() -> None:
    """Clicks every beat over a tone: with a repeated beat's drums there are clicks where there were none, and the tone stays."""
    rng = np.random.default_rng(3)
    sound = sine(330.0, 6.0, level=0.3)
    for beat in range(12):
        burst = (rng.standard_normal((2, 900)) * np.exp(-np.arange(900) / 150.0)).astype(np.float32)
        sound[:, beat * BEAT : beat * BEAT + 900] += 0.5 * burst
    out = played(sound, held(HeldRepeat, 5, 7, value="1/8", back=2.0, material="drums"))
    struck = drums_of(out[:, round(4.2 * BEAT) : round(7.2 * BEAT)], RATE)[:, round(0.3 * BEAT) : round(2.7 * BEAT)]
    loud = np.abs(struck[0]).reshape(-1, 245).max(axis=1)
    assert np.count_nonzero(loud > 0.15) >= 4, "drums on every eighth"
    tone = out[:, round(5.6 * BEAT) : round(5.95 * BEAT)]
    assert frequency(tone, RATE, 330.0) == pytest.approx(330.0, abs=1.0)
    assert np.allclose(out[:, 7 * BEAT + EDGE :], sound[:, 7 * BEAT + EDGE :])


MANY = (
    held(HeldRepeat, 2, 3.3, "a", value="1/16", back=1.2),
    held(HeldEffect, 2.5, 5, "b", effect=Eq(high_cut_hz=900.0)),
    held(HeldReverse, 4, 5.5, "c"),
    held(HeldEffect, 4.5, 5, "d", effect=Echo()),
    held(HeldStop, 6, 7, "e", slow_seconds=0.3),
    held(HeldStop, 5.6, 5.9, "g", slow_seconds=0.1, time="add"),
    held(HeldRepeat, 6.5, 8, "f", free=True, slice_ms=33.0, material="drums"),
)


@pytest.fixture(scope="module")
def busy() -> tuple[TrackRenderer, Stages, Audio]:
    """A slowed version in a hall with moves that overlap, and its whole sound."""
    reader = TrackRenderer(track_of(music(5.0)), GRID)
    stages = stages_with(*MANY, time=Time(speed=0.9), colour=Colour(effects=(Hall(id="h"),)))
    return reader, stages, reader.chain(stages).read(10**9)


@settings(max_examples=6, deadline=None)
@given(st.lists(st.integers(1, 60_000), min_size=1, max_size=12))
def test_blocks_may_be_cut_anywhere(busy: tuple[TrackRenderer, Stages, Audio], sizes: list[int]) -> None:
    reader, stages, whole = busy
    chain, parts, have = reader.chain(stages), [], 0
    while chain.position < chain.frames:
        parts.append(chain.read(sizes[have % len(sizes)] if have < 40 else 50_000))
        have += 1
    assert np.allclose(np.concatenate(parts, axis=1), whole, atol=2e-5)


@pytest.mark.parametrize("beat", [0.5, 2.2, 3.0, 4.7, 5.2, 6.4, 7.5, 9.0])
def test_the_version_may_be_entered_anywhere(busy: tuple[TrackRenderer, Stages, Audio], beat: float) -> None:
    reader, stages, whole = busy
    chain = reader.chain(stages)
    at = round(beat * BEAT / 0.9)
    chain.seek(at)
    found = chain.read(20_000)
    assert level_db(found - whole[:, at : at + 20_000]) < -75.0
    assert chain.ready(at, 1000)


def test_a_song_of_one_channel_a_move_before_the_first_sound_and_one_past_the_end() -> None:
    mono = noise(3.0)[:1]
    out = played(mono, held(HeldRepeat, 0, 1, value="1/4", back=1.0), held(HeldReverse, 5, 9, "r"))
    assert out.shape == (2, mono.shape[1])
    assert not out[:, EDGE:BEAT].any(), "there is nothing before the song"
    assert np.array_equal(out[0, 5 * BEAT + EDGE :], mono[0, 4 * BEAT : 5 * BEAT][::-1][EDGE:])


def test_a_held_effect_is_not_automated() -> None:
    lane = Lane(field="gain_db", points=(LanePoint(at=Position(beat=0.0), value=1.0),))
    with pytest.raises(Unusable, match="cannot be automated"):
        held(HeldEffect, 0, 1, effect=Gain(lanes=(lane,)))

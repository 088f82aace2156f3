"""Every kind of effect: a well-behaved stream that keeps the level, can begin anywhere, and is nothing at no amount."""

import itertools
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.signal import butter, sosfilt

from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import Audio
from latespin.errors import OutOfRange, Unusable
from latespin.media.track import Track
from latespin.model.effects.automation import Lane, LanePoint, Way, can_move
from latespin.model.effects.declaration import EFFECTS, Effect
from latespin.model.effects.effects import (
    Compressor,
    ConvolutionReverb,
    Crush,
    DynamicHighShelf,
    Echo,
    Eq,
    Gain,
    Hall,
    Layer,
    MidSideCompressor,
    MultibandCompressor,
    Saturation,
    SmallSpeaker,
    Spin,
    Underwater,
    Vinyl,
    Wobble,
)
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Position
from latespin.model.values.parameters import parameters_of
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.context import summed
from latespin.render.effects.problems import colour_problems
from latespin.render.effects.processors.spin import turns_of
from latespin.render.effects.sound_files import SoundLibrary
from tests.conftest import frequency, level_db, noise, sine, track_of

RATE = 44_100
GRID = Grid(bpm=120.0)
KINDS = pytest.mark.parametrize("kind", EFFECTS.values(), ids=EFFECTS)


def stages(*effects: Effect) -> Stages:
    """A version with effects alone."""
    return Stages(colour=Colour(effects=tuple(replace(e, id=e.id or str(i)) for i, e in enumerate(effects))))  # type: ignore[arg-type]


def rendered(sound: Audio, *effects: Effect, rate: int = RATE, frames: int = 10**9) -> Audio:
    """All of a sound through effects, or its first frames."""
    return TrackRenderer(track_of(sound, rate), GRID).chain(stages(*effects)).read(frames)


def music(seconds: float = 6.0, seed: int = 3) -> Audio:
    """Noise with the spectrum and the pulse of music, not the same on both sides."""
    rng = np.random.default_rng(seed)
    spectrum = np.fft.rfft(rng.standard_normal((2, round(seconds * RATE))))
    spectrum /= np.sqrt(1.0 + np.arange(spectrum.shape[1]))
    both = np.fft.irfft(spectrum, round(seconds * RATE))
    both[1] = 0.8 * both[0] + 0.4 * both[1]
    pulse = 0.35 + np.exp(-((np.arange(both.shape[1]) / RATE) % 0.5) / 0.12)
    both *= pulse * 0.16 / np.std(both)
    return both.astype(np.float32)


def at(seconds: float, value: float) -> LanePoint:
    """A point of a lane."""
    return LanePoint(at=Position(seconds=seconds), value=value)


def lane(field: str, *points: tuple[float, float]) -> Lane:
    """A lane through points in seconds."""
    return Lane(field=field, points=tuple(at(seconds, value) for seconds, value in points))


@KINDS
def test_no_amount_is_the_song_bit_for_bit(kind: type[Effect]) -> None:
    """Also where it is none for a while only: before it comes and after it has gone."""
    sound = music(4.0)
    assert np.array_equal(rendered(sound, kind(amount_percent=0.0)), sound)
    moving = kind(lanes=(lane("amount_percent", (0.0, 0.0), (1.0, 0.0), (1.5, 60.0), (2.0, 60.0), (2.5, 0.0)),))
    out = rendered(sound, moving)
    for untouched in (slice(0, RATE), slice(round(2.51 * RATE), 4 * RATE)):
        assert np.array_equal(out[:, untouched], sound[:, untouched])
    assert not np.allclose(
        out[:, 2 * RATE - 9000 : 2 * RATE], sound[:, 2 * RATE - 9000 : 2 * RATE], atol=1e-4
    ) or kind in (Eq, Compressor, MidSideCompressor, MultibandCompressor)


@KINDS
def test_blocks_may_be_cut_anywhere_and_the_song_entered_anywhere(kind: type[Effect]) -> None:
    """Steady and changing over the song; entered within −80 dB of the whole."""
    moved = tuple(
        lane(name, (0.2, 0.5 * (number.default + number.low)), (1.1, number.default))
        for name, number in parameters_of(kind).items()
        if can_move(kind, name) and name != "amount_percent"
    )
    moved = (*moved, lane("amount_percent", (0.3, 20.0), (1.1, 90.0)))
    for lanes, seconds in (((), 1.5), (moved, 1.2)):
        sound, enters = music(seconds), round(0.62 * seconds * RATE)
        effect = stages(kind(lanes=lanes), Echo(id="after", amount_percent=10.0))
        readers = TrackRenderer(track_of(sound), GRID)
        whole, pieces = readers.chain(effect), readers.chain(effect)
        expected = whole.read(10**9)
        assert expected.dtype == np.float32
        assert np.all(np.isfinite(expected))
        assert expected.shape == (2, whole.frames)
        sizes = itertools.cycle([1, 333, 4096, 20_011])
        parts, stop = [], round((seconds + 0.5) * RATE)
        while pieces.position < min(stop, pieces.frames):
            parts.append(pieces.read(next(sizes)))
        cut = np.concatenate(parts, axis=1)
        assert np.abs(cut - expected[:, : cut.shape[1]]).max() < 2e-6
        entered = readers.chain(effect)
        entered.seek(enters)
        heard, wanted = entered.read(RATE // 3), expected[:, enters : enters + RATE // 3]
        assert level_db(heard - wanted) < level_db(wanted) - 80.0


@KINDS
def test_switching_it_keeps_the_loudness(kind: type[Effect], lantern: Track) -> None:
    """On a whole song, as it comes, and at its full amount: less than 1 LU. A gain changes it by just its decibels."""
    sound = lantern.sound[:, 20 * RATE : 32 * RATE]
    before = facts_of(sound, RATE).loudness.integrated_lufs
    readers = TrackRenderer(track_of(sound), GRID)
    for effect in (kind(), kind(amount_percent=100.0)):
        after = facts_of(readers.chain(stages(effect)).read(10**9)[:, : sound.shape[1]], RATE).loudness.integrated_lufs
        if isinstance(effect, Gain):
            assert after - before == pytest.approx(effect.gain_db, abs=0.02)
        else:
            assert abs(after - before) < 1.0


OWN_NOISES = (
    "crackle_percent",
    "pops_percent",
    "scratch_percent",
    "rumble_percent",
    "hiss_percent",
    "noise_percent",
    "dropouts_percent",
)


def shrillest(sound: Audio) -> np.ndarray:
    """The largest value above 3 kHz at each frame, where a low tone has nothing but what a click brings."""
    return np.abs(sosfilt(butter(6, 3_000.0, "high", fs=RATE, output="sos"), sound, axis=1)).max(axis=0)


@KINDS
@pytest.mark.parametrize("field", ["amount_percent", "all others"])
def test_a_jump_never_clicks(kind: type[Effect], field: str, tmp_path: Path) -> None:
    """Of a low tone, while amount or all controls jump from their lowest to their highest and back: 45 dB below it, or as it is anyway."""
    numbers = parameters_of(kind)
    quiet: dict[str, object] = {name: 0.0 for name in OWN_NOISES if name in numbers}
    if kind is Layer:
        soundfile.write(tmp_path / "hum.wav", sine(90.0, 1.3, level=0.1).T, RATE)
        quiet |= {"sound": "file", "path": str(tmp_path / "hum.wav")}
    if kind is Underwater:
        quiet["bed"] = False
    moving = [n for n in numbers if can_move(kind, n) and n not in quiet and n != "amount_percent"]
    jumping = ["amount_percent"] if field == "amount_percent" else moving
    lanes = []
    for name in jumping:
        low, high = numbers[name].low, numbers[name].high
        lanes.append(lane(name, (0.0, low), (1.0, low), (1.0, high), (1.6, high), (1.6, low)))
    if field != "amount_percent":
        quiet["amount_percent"] = 100.0
    effect = kind(**quiet, keep_level=False, lanes=tuple(lanes))  # type: ignore[arg-type]
    out = rendered(sine(317.0, 2.4, level=0.3), effect, frames=round(2.4 * RATE))
    heard, level = shrillest(out), np.abs(out[:, RATE // 2 :]).max()

    def most(start: float, stop: float) -> float:
        return float(heard[round(start * RATE) : round(stop * RATE)].max())

    usual = max(most(0.5, 0.95), most(1.4, 1.55), most(2.0, 2.3))
    assert max(most(0.96, 1.4), most(1.56, 2.0)) < max(1.5 * usual, 10.0 ** (-45.0 / 20.0) * level)


def test_a_gain_rides_in_straight_lines_of_decibels_down_to_silence() -> None:
    sound = music(4.0)
    ride = lane("gain_db", (1.0, 0.0), (2.0, -12.0), (3.0, -60.0))
    out = rendered(sound, Gain(lanes=(ride,)))
    assert np.array_equal(out[:, :RATE], sound[:, :RATE]), "0 dB is the song, bit for bit"
    assert not out[:, round(3.01 * RATE) :].any(), "−60 dB is silence"
    places = RATE + 441 * np.arange(1, 199)
    around = places[:, None] + np.arange(-64, 64)
    gains = 10.0 * np.log10((out[:, around] ** 2).sum(axis=(0, 2)) / (sound[:, around] ** 2).sum(axis=(0, 2)))
    assert gains == pytest.approx(np.interp(places / RATE, [1.0, 2.0, 3.0], [0.0, -12.0, -60.0]), abs=0.2)
    half = rendered(sound, Gain(amount_percent=50.0, gain_db=-12.0))
    assert level_db(half) - level_db(sound) == pytest.approx(-6.0, abs=1e-4)


def test_a_turn_and_a_swing_whose_rate_changes_go_by_the_sum_of_it() -> None:
    """Periods from four seconds to one, evenly in octaves, against the integral; before and after them it goes on as there."""
    context = TrackRenderer(track_of(np.zeros((2, 6 * RATE), np.float32)), GRID).context(stages())
    swings = summed(Wobble(lanes=(Lane(field="rate_hz", points=(at(1.0, 2.0), at(5.0, 2.0))),)), "rate_hz", context)
    assert swings(np.array([3.0 * RATE])) == pytest.approx(6.0, abs=1e-9)
    rising = Spin(by="seconds", lanes=(Lane(field="period_seconds", points=(at(1.0, 4.0), at(5.0, 1.0))),))
    places = RATE * np.linspace(1.0, 5.0, 40_001)
    turns = turns_of(rising, context)(places)
    period = 4.0 ** (1.0 - np.linspace(0.0, 1.0, 40_001))
    expected = np.concatenate(([0.0], np.cumsum(0.5 * (1.0 / period[1:] + 1.0 / period[:-1]) * 1e-4)))
    assert np.abs(turns - turns[0] - expected).max() < 1e-4
    assert turns[0] == pytest.approx(0.25, abs=1e-4)
    after = turns_of(rising, context)(np.array([5.0, 8.0]) * RATE)
    assert after[1] - after[0] == pytest.approx(3.0, abs=1e-6)


@given(
    values=st.lists(st.floats(0.1, 5000.0), min_size=1, max_size=5), gaps=st.lists(st.floats(1.0, 90_000.0), min_size=5, max_size=5),
    tension=st.floats(-1.0, 1.0), logarithmic=st.booleans(), short=st.sampled_from([0.0, 1400.0]),
)  # fmt: skip
def test_a_way_has_the_same_values_one_by_one_and_all_at_once(
    values: list[float], gaps: list[float], tension: float, logarithmic: bool, short: float
) -> None:
    knots = np.cumsum(gaps[: len(values)])
    way = Way(tuple(knots.tolist()), tuple(values), (tension,) * len(values), logarithmic, short)
    places = np.linspace(0.0, float(knots[-1]) + 2000.0, 57)
    assert np.allclose([way.value(float(place)) for place in places], way.at(places), rtol=1e-9, atol=1e-9)
    assert min(values) * (1 - 1e-9) <= way.at(places).min()
    assert way.at(places).max() <= max(values) * (1 + 1e-9)


@pytest.mark.parametrize("name", sorted(EFFECTS))
def test_every_control_that_may_move_does(name: str) -> None:
    """All of them at once from their lowest to their highest, and the sound stays a sound; the others say that they cannot."""
    kind, sound, lanes = EFFECTS[name], music(0.6), []
    for field, parameter in parameters_of(kind).items():
        if can_move(kind, field):
            lanes.append(
                lane(field, (0.1, parameter.low), (0.5, min(parameter.high, 400.0 * abs(parameter.default) + 100.0)))
            )
        else:
            with pytest.raises(Unusable, match=field):
                kind(lanes=(lane(field, (0.0, parameter.default)),))
    out = rendered(sound, kind(lanes=tuple(lanes)), frames=sound.shape[1])
    assert np.all(np.isfinite(out))
    assert np.abs(out).max() < 40.0
    assert not np.array_equal(out[:, : sound.shape[1]], sound)


@pytest.mark.parametrize(
    ("effect", "field", "points"),
    [
        (Underwater(amount_percent=50.0, bed=False), "drift_cents", ((0.0, 0.0), (0.5, 0.0), (1.0, 30.0))),
        (Saturation(amount_percent=100.0, drive_db=12.0), "tilt_db", ((0.0, 0.0), (0.5, 0.0), (1.0, -9.0))),
    ],
)
def test_a_control_that_begins_at_nothing_is_heard_later(
    effect: Effect, field: str, points: tuple[tuple[float, float], ...]
) -> None:
    """Where it stays at nothing the sound is that of nothing, bit for bit; from where it leaves it the sound differs."""
    sound, left = music(2.0), round(0.45 * RATE)
    still, moved = (
        rendered(sound, replace(effect, keep_level=False, lanes=(lane(field, *way),))) for way in (points[:2], points)
    )
    assert np.array_equal(still[:, :left], moved[:, :left])
    assert level_db(still[:, RATE : 2 * RATE] - moved[:, RATE : 2 * RATE]) > level_db(sound) - 45.0


def test_each_noise_keeps_its_own_level_while_another_goes_to_nothing() -> None:
    """Crackle that comes from nothing and goes leaves rumble and pops as they are, and ends as it would without having gone."""
    sound, quiet = music(3.0), (0.0, 0.0)
    plain = Vinyl(amount_percent=100.0, keep_level=False)
    whole = rendered(sound, plain)
    without = rendered(sound, replace(plain, crackle_percent=0.0))
    moving = rendered(sound, replace(plain, lanes=(lane("crackle_percent", quiet, (1.0, 0.0), (1.5, 100.0)),)))
    assert np.allclose(moving[:, : RATE - 200], without[:, : RATE - 200], atol=1e-6)
    assert np.allclose(moving[:, 2 * RATE :], whole[:, 2 * RATE :], atol=1e-6)


def test_noise_is_the_same_for_the_same_take_and_another_for_another() -> None:
    sound = np.zeros((2, 3 * RATE), np.float32)
    sound[:, 1000:60_000] = music(3.0)[:, 1000:60_000]
    one, same, other = (rendered(sound, Vinyl(amount_percent=100.0, seed=seed)) for seed in (1.0, 1.0, 2.0))
    assert np.array_equal(one, same)
    assert not np.allclose(one[:, 100_000:], other[:, 100_000:], atol=1e-4)


def test_order_matters_and_two_of_a_kind_live_together() -> None:
    sound = music(3.0)
    dull, crush = Eq(id="eq", high_cut_hz=2_000.0, high_slope="24"), Crush(id="crush", amount_percent=100.0, bits=4.0)
    first, last = rendered(sound, dull, crush), rendered(sound, crush, dull)
    highs = [np.abs(np.fft.rfft(out[0]))[30_000:].mean() for out in (first, last)]
    assert highs[0] > 5.0 * highs[1]
    assert Colour(effects=(dull, crush)).moved("crush", 0).effects == (crush, dull)
    twice = rendered(sound, Hall(id="a"), Hall(id="b", decay_seconds=0.5))
    assert twice.shape[1] > rendered(sound, Hall(id="a")).shape[1]


def test_points_out_of_order_or_past_the_end_are_named_and_the_rest_is_heard() -> None:
    sound = music(3.0)
    points = ((0.5, 0.0), (1.0, 80.0), (0.2, 10.0), (9.0, 50.0), (2.0, 0.0))
    effect = stages(Underwater(id="u", lanes=(lane("amount_percent", *points),)))
    readers = TrackRenderer(track_of(sound))
    said = [problem.says for problem in colour_problems(effect, readers.context(effect))]
    assert len(said) == 1
    assert "0:00.2" in said[0]
    assert "0:09.0" in said[0]
    out = readers.chain(effect).read(10**9)
    assert np.array_equal(out[:, : RATE // 2], sound[:, : RATE // 2])
    assert level_db(out[:, RATE : RATE + 20_000] - sound[:, RATE : RATE + 20_000]) > -40.0
    with pytest.raises(OutOfRange, match="amount_percent is 140"):
        Underwater(lanes=(lane("amount_percent", (0.0, 140.0)),))


def test_without_bars_echoes_go_by_120_and_that_is_said() -> None:
    click = np.zeros((2, 2 * RATE), np.float32)
    click[:, 100] = 1.0
    readers = TrackRenderer(track_of(click))
    effect = stages(
        Echo(
            id="e",
            value="1/4",
            amount_percent=100.0,
            keep_level=False,
            sway_percent=0.0,
            high_cut_hz=16_000.0,
            low_cut_hz=20.0,
        )
    )
    out = readers.chain(effect).read(10**9)
    assert int(np.argmax(np.abs(out[0, 2000:]))) + 2000 == pytest.approx(100 + RATE / 2, abs=3)
    assert "120 BPM" in colour_problems(effect, readers.context(effect))[0].says


@pytest.mark.parametrize(
    "effect",
    [Saturation(shape="tube", drive_db=18.0), SmallSpeaker(speaker="radio"), SmallSpeaker(speaker="newsreel")],
    ids=["tube", "radio", "newsreel"],
)
def test_no_effect_leaves_an_offset(effect: Effect) -> None:
    """Of music that has nothing below 60 Hz, over seconds of it."""
    sound = sosfilt(butter(6, 60.0, "high", fs=RATE, output="sos"), music(8.0), axis=1).astype(np.float32)
    out = rendered(sound, replace(effect, amount_percent=100.0))[:, 2 * RATE : 8 * RATE]
    window = np.blackman(out.shape[1])
    offset = np.abs(np.sum(window * out.astype(np.float64), axis=1)).max() / window.sum()
    assert 20.0 * np.log10(offset / out.std() + 1e-12) < -75.0


@KINDS
def test_what_dies_away_becomes_silence_and_never_denormal_numbers(kind: type[Effect]) -> None:
    """They cost many times as much to work on; a channel that was silent all along stays so, or has sound in it."""
    sound = np.zeros((2, 3 * RATE), np.float32)
    sound[0, :RATE] = music(1.0)[0]
    out = rendered(sound, kind(keep_level=False))
    assert not np.any((out != 0.0) & (np.abs(out) < np.finfo(np.float32).tiny))


def test_a_part_is_heard_alone_where_the_amount_is_nothing_too() -> None:
    """The effect changes nothing there, and solo still plays the part and not the whole, nor silence."""
    sound = music(3.0)
    moving = lane("amount_percent", (2.0, 0.0), (2.5, 100.0))
    effect = Eq(id="a", channels="side", high_shelf_db=9.0, keep_level=False, lanes=(moving,))
    alone = TrackRenderer(track_of(sound), GRID).chain(stages(effect), solo=("a", 1)).read(10**9)
    side = 0.5 * (sound[0] - sound[1])
    assert np.allclose(alone[:, : 2 * RATE], np.stack((side, -side))[:, : 2 * RATE], atol=1e-6)


def test_an_echos_tape_slows_to_a_standstill_and_starts_again() -> None:
    """The pitch of repeats is the ratio of the speeds they are read and recorded at; a tape that stands still gives nothing."""
    sound = sine(1_000.0, 9.0, level=0.3)
    way = lane("rate_percent", (2.0, 100.0), (3.0, 50.0), (5.0, 50.0), (5.5, 1.0), (6.5, 1.0), (6.6, 100.0))
    effect = Echo(
        amount_percent=100.0,
        value="1/4",
        feedback_percent=0.0,
        sway_percent=0.0,
        low_cut_hz=20.0,
        high_cut_hz=16_000.0,
        keep_level=False,
        lanes=(way,),
    )
    repeats = rendered(sound, effect)[:, : sound.shape[1]] - sound

    def pitch(start: float, seconds: float, near: float) -> float:
        return frequency(repeats[:, round(start * RATE) : round((start + seconds) * RATE)], RATE, near)

    assert pitch(1.0, 0.9, 1_000.0) == pytest.approx(1_000.0, abs=0.01)
    assert pitch(4.4, 0.5, 1_000.0) == pytest.approx(1_000.0, abs=0.5), "recorded and read at half speed"
    fallen = np.abs(np.fft.rfft(repeats[0, round(2.95 * RATE) : round(3.15 * RATE)] * np.hanning(round(0.2 * RATE))))
    assert 480.0 < 5.0 * float(np.argmax(fallen)) < 700.0, "recorded at full speed, read at half"
    assert level_db(repeats[:, round(5.7 * RATE) : round(6.45 * RATE)]) < -90.0
    assert level_db(repeats[:, 8 * RATE :]) == pytest.approx(level_db(repeats[:, RATE : 2 * RATE]), abs=0.3)
    still = replace(effect, rate_percent=1.0, lanes=())
    assert level_db(rendered(sound, still) - sound) < -90.0


def test_a_compressor_takes_away_what_its_curve_says() -> None:
    """A steady tone above the threshold loses (1 − 1/ratio) of what it is above it; one below it nothing."""
    loud, quiet = sine(1000.0, 3.0, level=0.5), sine(1000.0, 3.0, level=0.02)
    sound = np.concatenate((loud, quiet), axis=1)
    effect = Compressor(amount_percent=100.0, threshold_db=-9.0, ratio=4.0, keep_level=False)
    out = rendered(sound, effect)
    level = TrackRenderer(track_of(sound)).profile.level
    over = 20 * np.log10(0.5 / np.sqrt(2)) - (20 * np.log10(level) - 9.0)
    taken = level_db(loud[:, RATE : 2 * RATE]) - level_db(out[:, RATE : 2 * RATE])
    assert taken == pytest.approx(over * 0.75, abs=0.6)
    assert level_db(out[:, 5 * RATE :]) == pytest.approx(level_db(sound[:, 5 * RATE :]), abs=0.2)


TONES = {"low": sine(60.0, 4.0, level=0.2), "mid": sine(600.0, 4.0, level=0.2), "high": sine(6_000.0, 4.0, level=0.2)}
OTHER_WAY = np.array([[1.0], [-1.0]], np.float32)
PARTS_OF = [
    (MultibandCompressor, TONES),
    (MidSideCompressor, {"mid": TONES["mid"], "side": TONES["high"] * OTHER_WAY}),
]


@pytest.mark.parametrize(("kind", "tones"), PARTS_OF, ids=["bands", "mid and side"])
def test_each_part_has_a_threshold_ratio_make_up_and_amount_of_its_own(kind, tones) -> None:
    """A tone in each part, all steady: with 12 dB over, a ratio of 4 takes 9 dB from the part that has it, and nothing from others."""
    sound = sum(tones.values())
    settings = {f"{part}_threshold_db": 12.0 for part in tones}
    for part in tones:
        for extra, change in (({}, -9.0), ({"makeup_db": 6.0}, -3.0), ({"amount_percent": 50.0}, -4.5)):
            fields = {**settings, f"{part}_threshold_db": -12.0, f"{part}_ratio": 4.0, f"{part}_attack_ms": 150.0}
            fields |= {f"{part}_{name}": value for name, value in extra.items()}
            out = rendered(sound, kind(amount_percent=100.0, keep_level=False, knee_db=0.0, **fields))
            heard = slice(RATE, 3 * RATE)
            for name, tone in tones.items():
                got = np.sum(out[0, heard] * tone[0, heard]) / np.sum(tone[0, heard] ** 2)
                assert 20 * np.log10(got) == pytest.approx(change if name == part else 0.0, abs=0.35), (part, name)


@pytest.mark.parametrize("kind", [Eq, Saturation, DynamicHighShelf], ids=lambda kind: kind.__name__)
def test_what_acts_on_one_part_leaves_the_other_as_it_is(kind) -> None:
    """And does to the part what it does to a song that is nothing else."""
    fields = {
        Eq: {"high_shelf_db": 12.0, "low_cut_hz": 300.0}, Saturation: {"drive_db": 18.0}, DynamicHighShelf: {"from_hz": 3_000.0, "threshold_db": -12.0},
    }[kind]  # fmt: skip
    sound = music(3.0)
    mid, side = 0.5 * (sound[0] + sound[1]), 0.5 * (sound[0] - sound[1])
    for channels, signs in (("mid", 1.0), ("side", -1.0)):
        out = rendered(sound, kind(amount_percent=100.0, keep_level=False, channels=channels, **fields))
        part, kept = (mid, side) if channels == "mid" else (side, mid)
        assert np.allclose(0.5 * (out[0] - signs * out[1]), kept, atol=2e-6)
        alone = rendered(np.stack((part, part)), kind(amount_percent=100.0, keep_level=False, **fields))[0]
        changed = 0.5 * (out[0] + signs * out[1])
        assert level_db((changed - alone)[None]) < level_db((part - alone)[None]) - 40.0
        assert level_db((changed - part)[None]) > level_db(part[None]) - 30.0, "and something happens at all"


def test_a_part_is_heard_alone_and_together_they_are_the_effect() -> None:
    sound = music(2.0)
    for effect in (
        MultibandCompressor(id="a", amount_percent=100.0), MidSideCompressor(id="a"), Eq(id="a", channels="side", high_shelf_db=9.0),
    ):  # fmt: skip
        readers = TrackRenderer(track_of(sound), GRID)
        whole = readers.chain(stages(effect)).read(10**9)
        total = np.zeros_like(whole)
        for part in range(len(effect.parts)):
            alone = readers.chain(stages(effect), solo=("a", part)).read(10**9)
            assert level_db(whole - alone) > -60.0, "there is something else in the song"
            total += alone
        assert np.allclose(total, whole, atol=1e-5)


@pytest.mark.parametrize(("attack", "release"), [(2.0, 70.0), (60.0, 400.0)])
def test_a_dynamic_shelf_takes_its_time(attack: float, release: float) -> None:
    """63 % of the reduction in dB within the attack, and of the way back within the release; its low-pass has 6 dB an octave."""
    soft, harsh = sine(8_000.0, 2.0, level=0.005), sine(8_000.0, 1.0, level=0.2)
    sound = np.concatenate((soft, harsh, soft), axis=1) + 0.2 * sine(300.0, 5.0)
    shelf = DynamicHighShelf(
        amount_percent=100.0, keep_level=False, attack_ms=attack, release_ms=release, from_hz=2_000.0, threshold_db=-6.0
    )
    readers = TrackRenderer(track_of(sound), GRID)
    chain = readers.chain(stages(replace(shelf, id="s")))
    chain.read(10**9)
    history = np.array([(frame, *parts) for frame, parts in chain.nodes[0].history])
    reduction = np.interp(RATE * np.arange(0.0, 5.0, 0.001), history[:, 0], history[:, 1])
    deepest = reduction[2900]
    assert deepest < -4.0
    down = np.argmax(reduction[2000:] < 0.63 * deepest)
    back = np.argmax(reduction[3000:] > 0.37 * deepest)
    assert down == pytest.approx(attack, abs=0.4 * attack + 14.0)
    assert back == pytest.approx(release, abs=0.4 * release + 14.0)
    noisy = noise(6.0, level=0.1)
    cut = rendered(noisy, replace(shelf, threshold_db=18.0, high_cut_hz=1_000.0))
    power = [np.abs(np.fft.rfft(part[0])) ** 2 for part in (noisy, cut[:, : noisy.shape[1]])]
    for hz in (500.0, 1_000.0, 4_000.0, 8_000.0):
        band = slice(round(6 * hz / 1.06), round(6 * hz * 1.06))
        pole = np.tan(np.pi * hz / RATE) / np.tan(np.pi * 1_000.0 / RATE)
        taken = 10.0 * np.log10(power[1][band].sum() / power[0][band].sum())
        assert taken == pytest.approx(-10.0 * np.log10(1.0 + pole**2), abs=0.3)


def test_under_water_the_level_drops_as_asked_though_the_level_is_kept() -> None:
    """At full depth by the decibels asked for, at half the depth by half of them; and a muffled splash is dull."""
    sound = music(4.0)
    plain = Underwater(amount_percent=100.0, bed=False)
    for depth in (100.0, 50.0):
        kept, dropped = (
            rendered(sound, replace(plain, amount_percent=depth, drop_db=drop), frames=4 * RATE) for drop in (0.0, 6.0)
        )
        assert level_db(dropped) - level_db(kept) == pytest.approx(-6.0 * depth / 100.0, abs=0.01)
    silence = np.concatenate((music(1.0), np.zeros((2, 2 * RATE), np.float32)), axis=1)
    dive = lane("amount_percent", (1.4, 0.0), (1.6, 100.0))
    heard = []
    for muffled in (False, True):
        splashing = Underwater(
            bed=False, splash=True, splash_db=0.0, splash_muffled=muffled, lanes=(dive,), keep_level=False
        )
        heard.append(np.abs(np.fft.rfft(rendered(silence, splashing)[0, round(1.5 * RATE) : 2 * RATE]))[2_000:].sum())
    assert heard[1] < 0.1 * heard[0]


def test_loud_highs_alone_are_turned_down() -> None:
    soft, harsh = sine(8_000.0, 2.0, level=0.005), sine(8_000.0, 2.0, level=0.2)
    sound = np.concatenate((soft, harsh, soft), axis=1) + 0.2 * sine(300.0, 6.0)
    out = rendered(sound, DynamicHighShelf(amount_percent=100.0, threshold_db=-6.0, ratio=8.0, keep_level=False))
    bins = [np.abs(np.fft.rfft(part[0])) for part in (sound[:, 3 * RATE : 4 * RATE], out[:, 3 * RATE : 4 * RATE])]
    assert 20 * np.log10(bins[1][8000] / bins[0][8000]) < -4.0
    assert 20 * np.log10(bins[1][300] / bins[0][300]) == pytest.approx(0.0, abs=0.1)
    assert np.allclose(out[:, RATE // 2 : RATE], sound[:, RATE // 2 : RATE], atol=1e-4)


def test_a_layer_comes_round_without_a_seam_at_its_gain(tmp_path: Path) -> None:
    tone = tmp_path / "hum.wav"
    soundfile.write(tone, sine(220.0, 1.3, level=0.1).T, RATE)
    sound = music(8.0)
    effect = Layer(
        sound="file",
        path=str(tone),
        gain_db=-10.0,
        crossfade_seconds=0.2,
        fade_in_seconds=0.0,
        fade_out_seconds=0.0,
        keep_level=False,
    )
    added = rendered(sound, effect) - sound
    level = TrackRenderer(track_of(sound)).profile.level
    assert level_db(added[:, RATE:]) == pytest.approx(20 * np.log10(level) - 10.0, abs=0.8)
    assert np.abs(np.diff(added, n=2, axis=1)).max() < 2.5 * np.abs(np.diff(added[:, 10_000:40_000], n=2, axis=1)).max()


@pytest.mark.parametrize(("source", "own", "other"), [(0, (100, 1.0), (300, 0.5)), (1, (160, 0.8), (700, 0.25))])
def test_a_response_of_four_channels_carries_each_side_to_both_ears(
    tmp_path: Path, source: int, own: tuple[int, float], other: tuple[int, float]
) -> None:
    """Left to left, left to right, right to left, right to right: arrivals and levels as in the file; six channels are folded."""
    response = np.zeros((4, 8000))
    response[[0, 1, 2, 3], [100, 300, 700, 160]] = 1.0, 0.5, 0.25, 0.8
    response[:, 4000] = 0.001  # the end of what is used, which fades out
    path = tmp_path / "room.wav"
    soundfile.write(path, response.T, RATE, subtype="FLOAT")
    click = np.zeros((2, 30_000), np.float32)
    click[source, 9000] = 0.1
    room = ConvolutionReverb(
        room="file", path=str(path), amount_percent=100.0, pre_delay_ms=0.0, width_percent=100.0, keep_level=False
    )
    out = np.abs(rendered(click, room))
    ears = (source, 1 - source)
    arrivals = [int(out[ear].argmax()) for ear in ears]
    assert arrivals[1] - arrivals[0] == other[0] - own[0]
    assert out[ears[1]].max() / out[ears[0]].max() == pytest.approx(other[1] / own[1], rel=0.02)
    assert np.count_nonzero(out > 0.3 * out.max()) <= 8
    soundfile.write(path, np.concatenate((response, response[:2])).T, RATE, subtype="FLOAT")
    assert SoundLibrary(RATE).load(str(path), true_stereo=True).shape[0] == 2  # type: ignore[union-attr]


def test_files_that_are_missing_silent_or_too_long_are_named(tmp_path) -> None:  # type: ignore[no-untyped-def]
    silent, long, text = tmp_path / "silent.wav", tmp_path / "long.wav", tmp_path / "text.sofa"
    soundfile.write(silent, np.zeros((8000, 1)), 8000)
    soundfile.write(long, 0.1 * noise(25.0, 8000).T, 8000)
    text.write_text("no ears")
    sound = music(1.0)
    cases = (
        (ConvolutionReverb(id="a", room="file", path=str(tmp_path / "gone.wav")), "is not there"),
        (ConvolutionReverb(id="b", room="file", path=str(silent)), "silent"),
        (ConvolutionReverb(id="c", room="file", path=str(long)), "first 0:20"),
        (Layer(id="d", sound="file", path=str(silent)), "silent"),
        (Spin(id="e", ears="file", path=str(text)), "could not be read as a SOFA file"),
    )
    for effect, words in cases:
        readers, one = TrackRenderer(track_of(sound), GRID), stages(effect)
        assert np.all(np.isfinite(readers.chain(one).read(10**9)))
        assert words in colour_problems(one, readers.context(one))[0].says

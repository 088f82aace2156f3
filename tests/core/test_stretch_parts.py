"""The parts of the stretch by themselves: pace, envelope, quick angles, strain, curves."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from latespin.analysis.passages import find_passages
from latespin.dsp.fast_math import (
    angle_of,
    angles_of,
    direction_of,
    directions_of,
    exponentials_of,
    logarithms_of,
)
from latespin.dsp.onsets.results import Transients
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.stretching.phase_vocoder import Stretcher
from latespin.dsp.stretching.spectral_envelope import formant_gain, true_envelope
from latespin.dsp.stretching.transient_holds import TransientAlignment
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.errors import Unusable
from latespin.model.text.stretch_warnings import strain_of
from latespin.model.timing.tempo_curve import CurvePoint, check_curve, factor_at, straightened
from latespin.model.version import Time
from tests.conftest import noise

RATE = 44_100


class KnownAttacks(TransientMap):
    """Attacks that are given."""

    def __init__(self, frames: list[int]) -> None:
        self._frames = np.array(sorted(frames), dtype=np.int64)

    def between(self, start: float, stop: float) -> Transients:
        """Those in between, as if there were no blocks."""
        inside = self._frames[(self._frames >= start) & (self._frames <= stop)]
        return Transients(inside, np.ones(len(inside)))


@given(
    places=st.lists(st.integers(20_000, 180_000), min_size=1, max_size=12, unique=True),
    speeds=st.tuples(st.floats(0.25, 4.0), st.floats(0.25, 4.0)),
)
def test_a_pace_holds_attacks_never_goes_back_and_loses_no_time(places: list[int], speeds: tuple[float, float]) -> None:
    along = SpeedByPosition.through([0.0, 200_000.0], list(speeds))
    pace = TransientAlignment(along, KnownAttacks(places), 2000, 13_000)
    end = int(along.after_at(200_000.0))
    holds = pace.holds(0, end)
    assert len(holds) == len({round(float(at)) for at in along.after_at(places)}), "those heard at one frame are one"
    times = np.arange(0, end, 64)
    read = pace.places(times, holds)
    assert (np.diff(read) >= 0).all()
    for hold in holds:
        assert pace.places(np.array([hold.output_frame]), holds)[0] == hold.place
        inside = np.arange(hold.output_frame - hold.kept[0], hold.output_frame + hold.kept[1] + 1)
        assert np.array_equal(pace.places(inside, holds), hold.place + inside - hold.output_frame)
    far = np.array(
        [t for t in times if all(t < h.output_frame - h.room[0] or t > h.output_frame + h.room[1] for h in holds)]
    )
    assert np.abs(pace.places(far, holds) - along.before_at(far)).max(initial=0.0) <= 0.5


@given(first=st.integers(0, 60_000), length=st.integers(1000, 60_000))
def test_a_pace_does_not_depend_on_how_much_of_it_is_asked_for(first: int, length: int) -> None:
    places = [10_000, 13_000, 40_000, 41_500, 90_000, 120_000]
    pace = TransientAlignment(SpeedByPosition.steady(0.7), KnownAttacks(places), 2000, 13_000)
    whole = pace.places(np.arange(0, 180_000, 100), pace.holds(0, 180_000))
    times = np.arange(first - first % 100, first + length, 100)
    part = pace.places(times, pace.holds(int(times[0]), int(times[-1])))
    assert np.array_equal(part, whole[times // 100])


def comb(pitch: float, tilt_db: float, bump_hz: float) -> tuple[np.ndarray, np.ndarray]:
    """Power of partials under an envelope that falls and has a bump, and that envelope in nepers."""
    hz = np.arange(2049) * RATE / 4096
    envelope = (-tilt_db * hz / 1000 + 20 * np.exp(-(((hz - bump_hz) / 400) ** 2))) * np.log(10) / 10
    power = np.zeros(2049)
    for partial in np.arange(pitch, 20_000, pitch):
        power += np.exp(np.interp(partial, hz, envelope)) * np.exp(-(((hz - partial) / 9) ** 2))
    return power[None].astype(np.float32), envelope


@pytest.mark.parametrize("pitch", [100.0, 160.0, 240.0])
@pytest.mark.parametrize("bump", [900.0, 2500.0])
def test_the_true_envelope_lies_on_the_partials(pitch: float, bump: float) -> None:
    power, envelope = comb(pitch, 3.0, bump)
    found = true_envelope(power, RATE)[0]
    hz = np.linspace(0.0, RATE / 2, len(found), endpoint=False) + 0.5 * RATE / 2 / len(found)
    inside = (hz > 300) & (hz < 8000)
    error = (found - np.interp(hz, np.arange(2049) * RATE / 4096, envelope))[inside] * 10 / np.log(10)
    assert np.mean(np.abs(error - np.median(error))) < 2.0
    assert abs(hz[int(np.argmax(np.where(inside, found + 0.69 * hz / 1000, -np.inf)))] - bump) < 200


def test_a_warp_of_one_changes_nothing_and_every_warp_keeps_the_power() -> None:
    power, _ = comb(160.0, 3.0, 1500.0)
    frames = np.repeat(power, 3, axis=0)
    gain = formant_gain(frames, RATE, np.array([1.0, 0.8, 1.25]))
    assert np.abs(gain[0] - 1.0).max() < 1e-3
    assert np.sum(frames * gain**2, axis=1) == pytest.approx(np.sum(frames, axis=1), rel=1e-3)
    assert np.abs(gain[1] - 1.0).max() > 0.5


@given(angle=st.floats(-40.0, 40.0), length=st.floats(1e-6, 1e6))
def test_quick_angles_and_directions_are_right(angle: float, length: float) -> None:
    exact = np.exp(1j * float(np.float32(angle)))
    assert abs(direction_of(np.float32(angle)) - exact) < 3e-5
    found = angle_of(np.float32(length * exact.real), np.float32(length * exact.imag))
    assert abs(np.exp(1j * found) - exact) < 3e-5


def test_a_part_of_a_song_is_stretched_as_a_song_of_its_own_is() -> None:
    """A slice lies in memory like no song; nothing is compiled for it (which the end of all tests shows)."""
    long, made = noise(1.5), []
    for song in (long[:, :44_100], long[:, :44_100].copy()):
        stretcher = Stretcher(song, RATE, SpeedByPosition.steady(0.8), 0, 50_000)
        grains = stretcher.prepare(0)
        made.append(stretcher.finish(grains, stretcher.turns(grains, stretcher.entry())).sound)
    assert np.array_equal(*made)


ROWS = st.lists(st.floats(-60.0, 60.0, width=32), min_size=1, max_size=40)


@given(ROWS)
def test_rows_are_done_as_single_numbers_are(values: list[float]) -> None:
    row, out = np.array(values, np.float32), np.empty(len(values), np.float32)
    directions = np.empty(len(row), np.complex64)
    directions_of(row, directions.view(np.float32))
    assert np.abs(directions - np.exp(1j * row.astype(np.float64))).max() < 3e-5
    angles_of(row, row[::-1].copy(), out)
    assert np.abs(np.exp(1j * out) - np.exp(1j * np.arctan2(row[::-1], row))).max() < 3e-5
    bits = np.empty(len(row), np.int32)
    exponentials_of(row, bits, out)
    assert out == pytest.approx(np.exp(row.astype(np.float64)), rel=1e-5)
    logarithms_of(np.exp(row), np.float32(1e-24), bits, out)
    assert out == pytest.approx(np.log(np.exp(row).astype(np.float64) + 1e-24), abs=1e-5)


def test_nothing_has_the_logarithm_of_the_least_and_the_angle_zero() -> None:
    zeros, out = np.zeros(9, np.float32), np.empty(9, np.float32)
    logarithms_of(zeros, np.float32(1e-24), np.empty(9, np.int32), out)
    assert out == pytest.approx(np.full(9, np.log(1e-24)), abs=1e-4)
    angles_of(zeros, zeros, out)
    assert np.all(out == 0.0)
    exponentials_of(zeros, np.empty(9, np.int32), out)
    assert np.all(out == 1.0)


@pytest.mark.parametrize(
    ("time", "words"),
    [
        (Time(), ()),
        (Time(speed=0.85), ()),
        (Time(speed=0.8, pitch="held"), ()),
        (Time(on=False, speed=0.25, pitch="held"), ()),
        (Time(speed=0.5, pitch="held"), ("hiss and tails will be drawn out",)),
        (Time(speed=2.0, pitch="held"), ("drums will soften",)),
        (Time(speed=3.0, pitch="held"), ("drums will lose their punch",)),
        (Time(speed=1.25), ("voices will sound smaller",)),
        (Time(speed=0.75), ("voices will sound larger",)),
        (Time(speed=1.25, formants="kept"), ()),
        (Time(pitch="held", semitones=8.0, formants="kept"), ("voices will thin",)),
        (Time(halftime="bar"), ("hiss and tails will be drawn out",)),
        (Time(speed=0.1, pitch="held", character="smear"), ("words and drums will melt",)),
    ],
)
def test_strain_says_what_will_be_heard(time: Time, words: tuple[str, ...]) -> None:
    strain = strain_of(time)
    assert strain.words == words
    assert 0.0 <= strain.amount <= 1.0


@given(speed=st.floats(0.25, 1.0), less=st.floats(0.5, 0.99))
def test_going_further_never_strains_less(speed: float, less: float) -> None:
    near = Time(speed=speed, pitch="held")
    further = replace(near, speed=max(0.25, speed * less))
    assert strain_of(further).amount >= strain_of(near).amount


def test_smooth_ways_are_smooth_and_points_are_kept() -> None:
    curve = (CurvePoint(place=0.2, speed=0.5, shape="smooth"), CurvePoint(place=0.6, speed=2.0))
    points = straightened(curve)
    assert (points[0].speed, points[-1].speed) == (0.5, 2.0)
    speeds = np.array([factor_at(curve, x) for x in np.linspace(0.2, 0.6, 200)])
    assert (np.diff(speeds) >= 0).all()
    assert np.diff(speeds).max() < 2.0 * np.diff(speeds).mean()
    assert np.diff(speeds)[0] < 0.2 * np.diff(speeds).mean()
    assert factor_at(curve, 0.4) == pytest.approx(1.25, abs=1e-6)
    with pytest.raises(Unusable, match="goes back"):
        check_curve(curve[::-1])


def test_passages_lie_where_drums_and_voice_are() -> None:
    sound = noise(30.0, level=1e-3)
    t = np.arange(30 * RATE) / RATE
    sung = (t > 18.0) & (t < 26.0)
    sound += (0.2 * sung * np.sin(2 * np.pi * 700 * t)).astype(np.float32)
    for hit in np.arange(5.0, 12.0, 0.25):
        at = round(hit * RATE)
        sound[:, at : at + 3000] += noise(3000 / RATE, level=0.4) * np.exp(-np.arange(3000) / 500).astype(np.float32)
    found = find_passages(sound, RATE, TransientMap(sound, RATE))
    assert 4.5 < found.drums[0] / RATE < 6.5
    assert 17.5 < found.voice[0] / RATE < 20.5

"""The kernels of effects against what is known of them: filters, saturation, swaying, convolution, noise, echoes, water, wear."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import butter, fftconvolve, sosfilt

from latespin.analysis.profile import CENTRES
from latespin.dsp.control.automation import Automation
from latespin.dsp.control.modulated_delay import ModulatedDelay
from latespin.dsp.control.smoothing import knots, straight
from latespin.dsp.effects.ambience import BEDS, bed
from latespin.dsp.effects.echo import Echo, EchoSettings
from latespin.dsp.effects.random_sources import (
    EventStatistics,
    NoiseSource,
    RandomEvents,
    RecurringEvents,
    ShapedNoise,
    bubble_damping,
    bubble_radius,
    spectrum_at,
)
from latespin.dsp.effects.small_speaker import KINDS, SpeakerSettings, speaker_band
from latespin.dsp.effects.tape import TapeWear, tape
from latespin.dsp.effects.underwater import Underwater, UnderwaterSettings
from latespin.dsp.effects.vinyl import SURFACE, VinylWear, vinyl
from latespin.dsp.effects.waveshaper import SHAPES, Shaper
from latespin.dsp.effects.width import Width
from latespin.dsp.effects.worn_playback import WornPlayback, unevenness
from latespin.dsp.filters.cascade import (
    SLOPES,
    FilterCascade,
    bell,
    high_pass,
    high_shelf,
    low_pass,
    low_shelf,
    response,
)
from latespin.dsp.filters.convolution import BLOCK, Convolver
from latespin.dsp.filters.fir import correlate
from latespin.dsp.reverb.impulse_responses import ROOMS, made_room, prepared
from latespin.dsp.stretching.pad_stretch import seamless, smeared
from tests.conftest import level_db, noise, sine

RATE = 44_100


def magnitude_db(sections: list, hz: np.ndarray) -> np.ndarray:
    """Of what a filter really does to one sample."""
    click = np.zeros((2, 4 * RATE), np.float32)
    click[:, 0] = 1.0
    spectrum = np.abs(np.fft.rfft(FilterCascade(sections).process(click)[0]))
    return 20 * np.log10(spectrum[np.round(hz * 4).astype(int)] + 1e-9)


@given(hz=st.floats(30.0, 16_000.0), gain=st.floats(-18.0, 18.0), q=st.floats(0.3, 8.0), slope=st.sampled_from(SLOPES))
def test_filters_are_as_designed(hz: float, gain: float, q: float, slope: int) -> None:
    """Within 0.1 dB of the response that is drawn, wherever that is above −80 dB."""
    places = np.geomspace(20.0, 20_000.0, 40)
    for sections in (
        low_pass(hz, RATE, slope), high_pass(hz, RATE, slope), [bell(hz, gain, q, RATE)], [low_shelf(hz, gain, RATE)], [high_shelf(hz, gain, RATE)],
    ):  # fmt: skip
        wanted = 20 * np.log10(np.abs(response(sections, np.round(places * 4) / 4, RATE)) + 1e-9)
        off = np.abs(magnitude_db(sections, places) - wanted)[wanted > -80.0]
        assert not len(off) or off.max() < 0.1


@pytest.mark.parametrize("slope", SLOPES)
def test_slopes_are_butterworths(slope: int) -> None:
    """−3 dB at the corner, and its decibels an octave beyond it (as far as the bilinear transform leaves alone)."""
    at = 20 * np.log10(np.abs(response(low_pass(500.0, RATE, slope), np.array([500.0, 2000.0, 4000.0]), RATE)))
    assert at[0] == pytest.approx(-3.01, abs=0.01)
    assert at[1] - at[2] == pytest.approx(slope, rel=0.1)


@pytest.mark.parametrize("shape", SHAPES)
def test_saturation_does_not_fold_back(shape: str) -> None:
    """A 5 kHz tone at full level and typical drive: nothing but overtones above −80 dB."""
    wave = sine(5000.0, 2.0, level=0.5)
    out = Shaper(RATE, 2, shape).process(wave, np.full(2 * RATE, 2.0))[0, RATE:]
    spectrum = 20 * np.log10(np.abs(np.fft.rfft(out * np.blackman(RATE))) / (0.21 * RATE) + 1e-12)
    for overtone in range(0, RATE // 2, 5000):
        spectrum[max(0, overtone - 6) : overtone + 7] = -200.0
    assert spectrum.max() < -80.0
    for most in (1.0, 8.0, 16.0):
        shaper = Shaper(RATE, 2, shape, most)
        whole = shaper.process(wave, np.zeros(2 * RATE))
        assert np.allclose(whole[:, 100 + shaper.latency :], wave[:, 100 : -shaper.latency], atol=2e-4)
        again = Shaper(RATE, 2, shape, most)
        cut = [again.process(part, np.zeros(part.shape[1])) for part in np.split(wave, [1, 1000, 1007], axis=1)]
        assert np.allclose(np.concatenate(cut, axis=1), whole, atol=1e-6)


@pytest.mark.parametrize("shape", SHAPES)
@pytest.mark.parametrize(
    ("drive", "hz"),
    [(4.0, 441.0), (4.0, 3150.0), (9.0, 4200.0), (16.0, 1000.0), (16.0, 2300.0), (16.0, 6000.0), (33.0, 3000.0)],
)
def test_what_a_driven_curve_makes_above_the_band_does_not_come_back(shape: str, drive: float, hz: float) -> None:
    """A full-scale tone at 12 to 30 dB of drive: up to 20 kHz nothing but overtones above −90 dB."""
    frames = 1 << 15
    turns = round(hz * frames / RATE) | 1
    tone = 0.9 * np.sin(2 * np.pi * turns * np.arange(2 * frames) / frames)
    wave = np.stack((tone, tone)).astype(np.float32)
    out = Shaper(RATE, 2, shape, drive).process(wave, np.full(2 * frames, drive))[0, frames:]
    spectrum = np.abs(np.fft.rfft(out.astype(np.float64)))
    fundamental = spectrum[turns]
    spectrum[::turns] = 0.0
    assert 20 * np.log10(spectrum[: int(20_000 * frames / RATE)].max() / fundamental) < -90.0


@pytest.mark.parametrize("drive", [0.5, 2.0, 8.0, 40.0])
def test_a_curve_that_is_not_symmetrical_leaves_no_offset(drive: float) -> None:
    """Once it has settled, −80 dB of what is heard; its even harmonics stay."""
    wave = sine(441.0, 3.0, level=0.5)
    out = Shaper(RATE, 2, "tube").process(wave, np.full(3 * RATE, drive))[0, RATE:]
    assert 20.0 * np.log10(abs(out.mean()) / out.std()) < -80.0
    spectrum = np.abs(np.fft.rfft(out * np.hanning(len(out))))
    assert spectrum[round(882.0 * len(out) / RATE)] > 1e-3 * spectrum[round(441.0 * len(out) / RATE)]
    blocks = Shaper(RATE, 2, "tube")
    again = np.concatenate(
        [
            blocks.process(wave[:, at : at + 1_000], np.full(min(1_000, 3 * RATE - at), drive))
            for at in range(0, 3 * RATE, 1_000)
        ],
        axis=1,
    )
    assert np.allclose(again[0, RATE:], out, atol=1e-6)


@pytest.mark.parametrize("hz", [300.0, 3_000.0, 15_000.0])
def test_swaying_reads_between_frames(hz: float) -> None:
    """A tone read at places that move is that tone there, within −80 dB, each channel its own."""
    offsets = 25.0 * np.sin(2 * np.pi * 2.0 * np.arange(RATE) / RATE)
    sway = ModulatedDelay(26.0)
    both = np.float32([[1.0], [-0.5]]) * sine(hz, 1.0, level=1.0)
    out = sway.process(both, offsets)[:, 200:]
    wanted = np.sin(2 * np.pi * hz * (np.arange(RATE) - sway.latency + offsets) / RATE)[200:]
    assert level_db(out[0] - wanted) < -80.0
    assert level_db(out[1] + 0.5 * wanted) < -80.0


@given(frames=st.integers(1, 5_000), taps=st.integers(1, 70))
def test_weighing_neighbours_is_correlation(frames: int, taps: int) -> None:
    rng = np.random.default_rng(frames)
    heard, weights = rng.standard_normal((2, 2 * (frames + taps - 1))), rng.standard_normal(taps)
    every_other = heard.astype(np.float32)[:, ::2]
    wanted = [np.correlate(row, weights, "valid") for row in heard[:, ::2]]
    assert np.allclose(correlate(every_other, weights.astype(np.float32)), wanted, atol=1e-4)


@given(at=st.integers(-5_000, 5_000), frames=st.integers(1, 500), step=st.integers(2, 64))
def test_straight_lines_go_through_what_is_given(at: int, frames: int, step: int) -> None:
    places = knots(at, frames, step)
    values = np.sin(0.01 * places)
    wanted = np.interp(np.arange(at, at + frames), places, values)
    assert np.allclose(straight(values, at, frames, step), wanted, atol=1e-12)


@given(length=st.integers(1, 11_000), cut=st.integers(1, 9_000), ways=st.sampled_from([2, 4]))
def test_convolution_is_convolution(length: int, cut: int, ways: int) -> None:
    rng = np.random.default_rng(length)
    song, answer = (rng.standard_normal((c, n)).astype(np.float32) for c, n in ((2, 13_000), (ways, length)))
    convolver = Convolver(answer)
    out = np.concatenate([convolver.process(song[:, start : start + cut]) for start in range(0, 13_000, cut)], axis=1)
    if ways == 4:  # left to left, left to right, right to left, right to right
        wanted = fftconvolve(song[:1], answer[:2], axes=1) + fftconvolve(song[1:], answer[2:], axes=1)
    else:
        wanted = fftconvolve(song, answer, axes=1)
    wanted = wanted[:, : 13_000 - BLOCK]
    assert np.abs(out[:, BLOCK:] - wanted).max() < 1e-4 * np.abs(wanted).max() + 1e-4


def test_noise_has_its_spectrum_and_can_be_read_anywhere() -> None:
    shape = (("high-pass", 300.0, 1.0), ("low-pass", 3_000.0, 2.0))
    made = ShapedNoise(RATE, 5, shape)
    sound = made.read(-20_000, 20 * RATE)
    assert np.array_equal(ShapedNoise(RATE, 5, shape).read(70_000, 3_000), sound[:, 90_000:93_000])
    assert np.sqrt(np.mean(sound**2)) == pytest.approx(1.0, abs=0.03)
    assert abs(np.corrcoef(sound)[0, 1]) < 0.03
    power = np.abs(np.fft.rfft(sound[0])) ** 2
    hz = np.fft.rfftfreq(sound.shape[1], 1 / RATE)
    bands = [power[(hz > f / 1.1) & (hz < f * 1.1)].mean() for f in (100.0, 1_000.0, 6_000.0)]
    wanted = spectrum_at(shape, np.array([100.0, 1_000.0, 6_000.0])) ** 2
    assert np.allclose(10 * np.log10(bands / bands[1]), 10 * np.log10(wanted / wanted[1]), atol=1.0)


def test_events_are_poisson_and_bubbles_are_minnaerts() -> None:
    """As many as asked, their counts as spread as their mean; a bubble of 3 mm sings at 1087 Hz."""
    strewn = RandomEvents(RATE, 1, EventStatistics(200.0, (4_000.0, 4_000.0), (0.02, 0.02), 0.0, width=0.0))
    out = np.abs(strewn.read(0, 60 * RATE)[0])
    starts = np.flatnonzero((out[1:] > 0.02) & (out[:-1] <= 0.02))
    counts = np.histogram(starts, 600, (0, 60 * RATE))[0]
    assert counts.mean() == pytest.approx(20.0, rel=0.12)
    assert counts.var() / counts.mean() == pytest.approx(1.0, abs=0.25)
    assert bubble_radius(np.array([1087.0]))[0] == pytest.approx(0.003, rel=0.01)
    assert bubble_damping(np.array([0.003]))[0] == pytest.approx(0.13 / 0.003 + 0.0072 * 0.003**-1.5)


@pytest.mark.parametrize("name", BEDS)
def test_beds_are_as_loud_as_said(name: str) -> None:
    made = bed(name, RATE, 3).read(10_000, 12 * RATE)
    assert np.sqrt(np.mean(made**2)) == pytest.approx(1.0, abs=0.35)
    assert not np.array_equal(made[0], made[1]) or name == "crackle"


@pytest.mark.parametrize("name", ROOMS)
def test_rooms_decay_as_they_are_made_and_can_be_stretched(name: str) -> None:
    def t30(x: np.ndarray) -> float:
        energy = np.cumsum(x[::-1].astype(float) ** 2)[::-1]
        level = 10 * np.log10(energy / energy[0] + 1e-30)
        span = np.flatnonzero((level <= -5) & (level >= -35))
        return float(-60.0 / np.polyfit(span / RATE, level[span], 1)[0])

    plain = made_room(name, RATE)
    octaves = ROOMS[name].decays
    assert min(octaves) < t30(plain[0]) < 1.15 * max(octaves)
    energies = np.sum(plain.astype(float) ** 2, axis=1)
    assert (energies[:2] + energies[2:]).max() == pytest.approx(1.0, rel=1e-3)
    assert np.abs(10 * np.log10(energies[1] / energies[0])) < 6.0, "the left source is heard at the right ear, too"
    assert np.abs(np.corrcoef(plain)[np.triu_indices(4, 1)]).max() < 0.3, "each way is one of its own"
    for stretch in (0.5, 2.0):
        assert t30(prepared(plain, RATE, stretch)[0]) / t30(plain[0]) == pytest.approx(stretch, rel=0.15)
    late = np.concatenate((np.zeros((1, 700), np.float32), plain[:1, :12_000]), axis=1)
    assert prepared(late, RATE).shape[1] == pytest.approx(12_000, abs=150)


def test_repeats_come_in_time_each_by_its_feedback_from_side_to_side() -> None:
    click = np.zeros((2, 2 * RATE), np.float32)
    click[:, 100] = 0.5
    plain, both = (
        Echo(RATE, EchoSettings(lambda f: np.full(len(f), 11_025.0), 12_000, 0.5, 5.0, 20_000.0, ping)).process(
            click, 0, Automation(1.0)
        )
        for ping in (False, True)
    )
    peaks = [np.abs(plain[0, 100 + n * 11_025 - 5 : 100 + n * 11_025 + 40]).sum() for n in (1, 2, 3)]
    assert peaks[1] / peaks[0] == pytest.approx(0.5, abs=0.03)
    assert peaks[2] / peaks[1] == pytest.approx(0.5, abs=0.03)
    sides = [np.abs(both[:, 100 + n * 11_025 - 5 : 100 + n * 11_025 + 40]).sum(axis=1) for n in (1, 2)]
    assert sides[0][1] < 1e-20
    assert sides[1][0] < 1e-4 * sides[1][1]


def test_mono_safe_width_leaves_the_sum_alone() -> None:
    sound = noise(1.0)
    out = Width(RATE, 1.4, 700, safe=True).process(sound, 0, Automation(1.0))
    assert np.allclose(out.sum(axis=0), sound.sum(axis=0), atol=1e-6)
    mono = np.repeat(sound[:1], 2, axis=0)
    wide = Width(RATE, 1.0, 700, safe=True).process(mono, 0, Automation(1.0))
    assert np.corrcoef(wide)[0, 1] < 0.75


def test_water_takes_highs_with_depth_and_narrows() -> None:
    sound = noise(6.0)
    levels, sides = [], []
    for depth in (0.2, 0.5, 0.8, 1.0):
        out = Underwater(RATE, UnderwaterSettings(bed_db=None)).process(sound, 0, Automation(depth))[:, RATE:]
        hz = np.fft.rfftfreq(out.shape[1], 1 / RATE)
        spectrum = np.abs(np.fft.rfft(out[0])) ** 2
        levels.append(10 * np.log10(spectrum[(hz > 4000) & (hz < 8000)].mean()))
        sides.append(np.corrcoef(out)[0, 1])
    assert np.all(np.diff(levels) < -6.0)
    assert np.all(np.diff(sides) > 0.0)


def test_a_plunge_is_heard_once_where_the_surface_is_crossed() -> None:
    silence = np.zeros((2, 4 * RATE), np.float32)
    water = Underwater(RATE, UnderwaterSettings(bed_db=None, splash_db=0.0))
    depth = Automation(lambda frames: np.clip((frames - 2 * RATE) / RATE, 0.0, 0.5))
    out = np.concatenate(
        [water.process(silence[:, at : at + 5_000], at, depth) for at in range(0, 4 * RATE, 5_000)], axis=1
    )
    assert np.all(out[:, : 2 * RATE] == 0.0)
    assert np.abs(out[:, 2 * RATE :]).max() > 0.02


def test_a_record_sways_once_a_turn_by_its_share() -> None:
    """The pitch of a tone goes round with the record, within the asked share."""
    for rpm, turn in (("33", 100 / 180), ("45", 0.75), ("78", 1.3)):
        wear = VinylWear(0.6, rpm, crackle=0.0, pops=0.0, rumble=0.0, flutter=0.0, drive=0.0)
        seconds = 8.0 / turn
        out = WornPlayback(RATE, vinyl(RATE, wear, 0.1)).process(sine(1000.0, seconds), 0, Automation(1.0))[0, 2000:]
        turned = np.unwrap(
            np.angle(
                np.convolve(out * np.exp(-2j * np.pi * 1000.0 * np.arange(len(out)) / RATE), np.hanning(441), "same")
            )
        )
        speed = np.gradient(turned[::441]) / 441 * RATE / (2 * np.pi * 1000.0)
        spectrum = np.abs(np.fft.rfft(speed[20:-20] * np.hanning(len(speed) - 40)))
        hz = np.fft.rfftfreq(len(speed) - 40, 441 / RATE)
        assert hz[1:][np.argmax(spectrum[1:])] == pytest.approx(turn, abs=0.08)
        depths = 0.86 * unevenness(0.6)  # once and twice in a turn, and slowly
        assert 0.7 * depths < np.abs(speed[20:-20]).max() < 1.02 * depths


@pytest.mark.parametrize(("wear", "percent"), [(0.0, 0.03), (0.41, 0.15), (0.72, 0.5), (1.0, 1.5)])
@pytest.mark.parametrize("medium", ["vinyl", "tape"])
def test_worn_media_are_as_uneven_as_said(medium: str, wear: float, percent: float) -> None:
    """Unweighted wow and flutter on the standard's tone of 3150 Hz: what is exceeded 5 % of 40 s (IEC 60386, 2 sigma)."""
    settings = (
        vinyl(RATE, VinylWear(wear, crackle=0.0, pops=0.0, rumble=0.0, scratch=0.0, drive=0.0), 0.1)
        if medium == "vinyl"
        else tape(RATE, TapeWear(wear, hiss=0.0, dropouts=0.0, drive=0.0), 0.1)
    )
    out = WornPlayback(RATE, settings).process(sine(3150.0, 40.0), 0, Automation(1.0))[0, RATE:]
    down = out * np.exp(-2j * np.pi * 3150.0 * np.arange(len(out)) / RATE)
    slow = sosfilt(butter(3, 200.0, fs=RATE, output="sos"), down)[RATE:]
    speed = np.diff(np.unwrap(np.angle(slow[::50]))) * RATE / 50 / (2 * np.pi * 3150.0)
    assert 100.0 * np.quantile(np.abs(speed - speed.mean()), 0.95) == pytest.approx(percent, rel=0.15)


@pytest.mark.parametrize(
    "source",
    [
        ShapedNoise(RATE, 5, SURFACE, 0.2),
        RandomEvents(RATE, 5, EventStatistics(40.0, (1_800.0, 7_000.0), (0.2, 0.7), 5.0)),
        RandomEvents(RATE, 5, EventStatistics(30.0, (300.0, 2_000.0), (1.0, 1.0), minnaert=True)),
        RecurringEvents(RATE, 5, EventStatistics(20.0, (1_200.0, 3_200.0), (0.3, 0.9), 0.1, width=0.0), 1.8),
    ],
)
def test_noises_have_the_power_they_say(source: NoiseSource) -> None:
    sound = source.read(0, 120 * RATE)
    said, found = source.power_in(CENTRES), np.abs(np.fft.rfft(sound)) ** 2
    assert 10 * np.log10(said.sum() / np.mean(sound**2)) == pytest.approx(0.0, abs=1.6)
    hz = np.fft.rfftfreq(sound.shape[1], 1 / RATE)
    centre = np.exp(np.sum(found * np.log(np.maximum(hz, 1.0))) / found.sum())
    assert np.exp(np.sum(said * np.log(CENTRES)) / said.sum()) == pytest.approx(centre, rel=0.5)


def test_a_scratch_comes_back_with_every_turn() -> None:
    turn = round(1.8 * RATE)
    source = RecurringEvents(RATE, 2, EventStatistics(3.0 / 1.8, (1_200.0, 3_200.0), (0.3, 0.8)), 1.8)
    first = source.read(3 * turn, turn)
    assert np.abs(first).max() > 0.2
    for later in (4, 9, 200):
        assert np.allclose(source.read(later * turn, turn), first, atol=1e-6)


@pytest.mark.parametrize("kind", KINDS)
def test_small_loudspeakers_have_their_band(kind: str) -> None:
    speaker = KINDS[kind]
    hz = np.array(
        [speaker.low_hz / 4.0, np.sqrt(speaker.low_hz * speaker.high_hz), min(20_000.0, speaker.high_hz * 1.9)]
    )
    gains = 20 * np.log10(np.abs(response(speaker_band(SpeakerSettings(kind), RATE, 1.0), hz, RATE)))
    assert gains[1] > -3.0
    assert gains[0] < gains[1] - 15.0
    assert gains[2] < gains[1] - 6.0


@given(factor=st.floats(1.0, 32.0), seconds=st.floats(0.12, 0.25))
def test_a_smear_is_as_long_as_asked(factor: float, seconds: float) -> None:
    slice_ = noise(seconds)
    made = smeared(slice_, RATE, factor)
    assert made.shape == (2, round(factor * slice_.shape[1]))
    assert np.all(np.isfinite(made))


def test_a_smear_keeps_the_spectrum_and_loses_the_attacks_and_loops_without_a_seam() -> None:
    """A chord struck four times becomes a steady cloud of the same notes, as loud; where it comes round there is no larger step than elsewhere."""
    t = np.arange(2 * RATE) / RATE
    chord = sum(np.sin(2 * np.pi * hz * t) for hz in (220.0, 277.2, 329.6)) * np.exp(-(t % 0.5) / 0.1) * 0.2
    cloud = smeared(np.stack((chord, chord)).astype(np.float32), RATE, 8.0)
    assert level_db(cloud) == pytest.approx(level_db(chord), abs=1.5)
    shares = []
    for sound in (chord, cloud[0]):
        power, hz = np.abs(np.fft.rfft(sound)) ** 2, np.fft.rfftfreq(len(sound), 1 / RATE)
        near = np.any([np.abs(hz - note) < 20.0 for note in (220.0, 277.2, 329.6)], axis=0)
        shares.append(power[near].sum() / power.sum())
    assert shares[1] > 0.97 * shares[0]
    rises = []
    for sound in (chord, cloud[0]):
        levels = [level_db(sound[at : at + 11_025]) for at in range(4410, len(sound) - 11_025, 2205)]
        rises.append(np.diff(levels).max())
    assert rises[0] > 8.0
    assert rises[1] < 0.5 * rises[0]
    loop = seamless(cloud, RATE, 1.0)
    assert loop.shape[1] < cloud.shape[1]
    twice = np.concatenate((loop, loop), axis=1)
    steps = np.abs(np.diff(twice, n=2, axis=1))
    middle = loop.shape[1]
    assert steps[:, middle - 50 : middle + 50].max() < 1.2 * steps[:, RATE : middle - RATE].max()

"""Varispeed, stretch, transposition and the time map, measured."""

import time as clock

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import butter, hilbert, sosfilt

from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.onsets.transients import find_attacks
from latespin.dsp.stretching.phase_vocoder import Stretcher
from latespin.dsp.stretching.spectral_envelope import true_envelope
from latespin.dsp.stretching.varispeed import read_at
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from latespin.errors import OutOfRange
from latespin.media.track import Track
from latespin.model.timing.time_map import compile_time_map
from latespin.model.version import Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.sources.music_reader import MusicReader
from tests.conftest import cents, frequency, level_db, noise, sine, track_of

SPEEDS = (0.25, 0.5, 0.8, 0.97, 1.25, 2.0, 4.0)


def read(track: Track, time: Time) -> np.ndarray:
    """All of After's music."""
    reader = MusicReader(track, time)
    return reader.read(0, reader.map.after_frames)


@pytest.mark.parametrize("speed", SPEEDS)
@pytest.mark.parametrize("rate", [44_100, 48_000])
def test_varispeed_moves_a_tone_by_the_speed_and_keeps_its_level(speed: float, rate: int) -> None:
    out = read(track_of(sine(1000, 6, rate), rate), Time(speed=speed))
    assert out.shape[1] == round(6 * rate / speed)
    assert abs(cents(frequency(out, rate, 1000 * speed), 1000 * speed)) < 0.01
    middle = out[:, out.shape[1] // 4 : 3 * out.shape[1] // 4]
    assert level_db(middle) == pytest.approx(level_db(sine(1000, 1)), abs=0.01)


@pytest.mark.parametrize("speed", [0.8, 1.25])
def test_varispeed_adds_nothing_above_minus_100_db(speed: float) -> None:
    rate = 44_100
    out = read(track_of(sine(9000, 4, rate)), Time(speed=speed))[0]
    part = out[len(out) // 4 : 3 * len(out) // 4].astype(np.float64)
    spectrum = np.abs(np.fft.rfft(part * np.blackman(len(part)) ** 2))
    at = round(9000 * speed * len(part) / rate)
    spectrum[at - 12 : at + 13], highest = 0.0, spectrum.max()
    assert 20 * np.log10(spectrum.max() / highest) < -100


def test_going_faster_folds_nothing_back() -> None:
    out = read(track_of(sine(15_000, 4, 44_100)), Time(speed=2.0))  # would land on 30 kHz
    assert level_db(out[:, 10_000:-10_000]) < -100


def test_speed_one_is_the_song_itself(lantern: Track) -> None:
    for time in (Time(), Time(speed=1.0, pitch="held"), Time(on=False, speed=0.5)):
        assert np.array_equal(read(lantern, time), lantern.sound)


@pytest.mark.parametrize(
    ("speed", "semitones"), [(0.8, 0.0), (1.3, 0.0), (0.6, 0.0), (1.0, 3.0), (0.85, -2.0), (1.0, -7.0)]
)
@pytest.mark.parametrize("hz", [110.0, 1234.5])
def test_a_stretch_keeps_the_pitch_it_should_have(speed: float, semitones: float, hz: float) -> None:
    time = Time(speed=speed, pitch="held", semitones=semitones)
    out = read(track_of(sine(hz, 8)), time)
    wanted = hz * 2 ** (semitones / 12)
    assert out.shape[1] == round(8 * 44_100 / speed)
    assert abs(cents(frequency(out, 44_100, wanted), wanted)) < 0.02
    middle = out[0, 44_100:-44_100]
    envelope = np.sqrt(np.convolve(middle.astype(np.float64) ** 2, np.ones(8820) / 8820, "valid"))
    assert 20 * np.log10(envelope.max() / envelope.min()) < 0.5, "no dips where phases start afresh"
    assert level_db(middle) == pytest.approx(level_db(sine(hz, 1)), abs=0.3)


def test_transposing_back_what_linking_did_equals_holding() -> None:
    assert Time(speed=0.8, semitones=12 * np.log2(1 / 0.8)).pitch_ratios == pytest.approx((1.0, 1.0))
    assert Time(speed=0.8, pitch="held").pitch_ratios == (1.0, 1.0)
    assert Time(speed=1.25, semitones=12).pitch_ratios == pytest.approx((2.5, 2.5))


def test_a_stretch_keeps_the_phase_between_left_and_right() -> None:
    tone = sine(440, 6)
    tone[1] = 0.3 * np.sin(2 * np.pi * 440 * np.arange(tone.shape[1]) / 44_100 + 1.0)
    out = read(track_of(tone), Time(speed=0.8, pitch="held"))[:, 44_100:-44_100].astype(np.float64)
    turn = np.exp(-2j * np.pi * 440 * np.arange(out.shape[1]) / 44_100)
    left, right = (np.convolve(channel * turn, np.hanning(4410), "valid")[::441] for channel in out)
    assert np.angle(right * np.conj(left)) == pytest.approx(1.0, abs=0.02)


def test_attacks_stay_where_the_time_map_puts_them() -> None:
    clicks = np.zeros((2, 44_100 * 6), np.float32)
    places = np.arange(1, 6) * 44_100
    clicks[:, places] = 1.0
    track, time = track_of(clicks + noise(6, level=1e-4)), Time(speed=0.75, pitch="held")
    out, time_map = np.abs(read(track, time)[0]), compile_time_map(time, track.frames, track.rate)
    for place in places:
        wanted = round(time_map.after_at(place))
        near = out[wanted - 3000 : wanted + 3000].astype(np.float64) ** 2
        centre = float((near * np.arange(6000)).sum() / near.sum()) - 3000
        assert abs(centre) / 44_100 < 0.001
        assert (near > 0.5 * near.max()).sum() < 40, "as sharp as it was"


_SONG = track_of(noise(4.2))
_TIMES = {"linked": Time(speed=0.9), "held": Time(speed=0.9, pitch="held", semitones=1.0)}
_WHOLE = {name: read(_SONG, time) for name, time in _TIMES.items()}


@given(start=st.integers(-50_000, 250_000), frames=st.integers(0, 30_000), name=st.sampled_from(sorted(_TIMES)))
def test_a_reader_gives_the_same_wherever_it_starts(start: int, frames: int, name: str) -> None:
    part = MusicReader(_SONG, _TIMES[name]).read(start, frames)
    wanted = np.zeros((2, frames), np.float32)
    first, last = max(0, start), min(start + frames, _WHOLE[name].shape[1])
    if first < last:
        wanted[:, first - start : last - start] = _WHOLE[name][:, first:last]
    assert np.abs(part - wanted).max(initial=0.0) < 1e-5


@given(speed=st.floats(0.25, 4.0), frames=st.integers(1, 10_000_000), place=st.floats(0.0, 1.0))
def test_the_time_map_goes_there_and_back(speed: float, frames: int, place: float) -> None:
    time_map = compile_time_map(Time(speed=speed), frames, 44_100)
    assert time_map.after_frames == max(1, round(frames / speed))
    before = place * frames
    assert time_map.before_at(time_map.after_at(before)) == pytest.approx(before, abs=max(1e-3, 2 * speed))
    assert 0 <= time_map.before_at(place * time_map.after_frames) <= frames


@pytest.mark.parametrize("frames", [1, 2, 100, 5000])
@pytest.mark.parametrize("time", [Time(speed=0.5), Time(speed=1.7, pitch="held"), Time(speed=1.0, semitones=-5.0)])
def test_very_short_sounds_keep_their_promised_length(frames: int, time: Time) -> None:
    chain = TrackRenderer(track_of(np.full((1, frames), 0.5, np.float32), 8000)).chain(Stages(time=time))
    block = chain.read(10**6)
    assert block.shape == (1, max(1, round(frames / time.speed)))
    assert np.isfinite(block).all()


def test_inputs_are_checked_and_left_alone() -> None:
    song = noise(0.5)
    kept = song.copy()
    read_at(song, 0.0, 0.7, 1000)
    stretcher = Stretcher(song, 44_100, SpeedByPosition.steady(0.7), 0, 10_000)
    stretcher.prepare(0)
    assert np.array_equal(song, kept)
    with pytest.raises(OutOfRange, match="speed is 100"):
        read_at(song, 0.0, 100.0, 10)
    with pytest.raises(TypeError, match="float32"):
        read_at(song.astype(np.float64), 0.0, 1.0, 10)


def test_attacks_are_found_where_they_are_and_not_in_steady_sound() -> None:
    rate = 44_100
    steady = sine(220, 4.0, level=0.2) + sine(311, 4.0, level=0.2)
    assert len(find_attacks(steady[:, 2000:], rate).frames) <= 1
    hits, places = steady + noise(4.0, level=1e-4), np.array([20_000, 51_111, 80_007, 120_500])
    for place in places:
        hits[:, place : place + 4000] += np.exp(-np.arange(4000) / 600) * noise(4000 / rate, level=0.3, seed=place)
    found = find_attacks(hits[:, :170_000], rate).frames
    near = [int(np.abs(found - place).min()) for place in places]
    assert max(near) < 0.002 * rate
    mapped = TransientMap(hits, rate).between(0, 170_000).frames
    assert max(int(np.abs(mapped - place).min()) for place in places) < 0.002 * rate


def test_a_drum_that_has_only_lows_is_found_under_a_chord() -> None:
    rate = 44_100
    t = np.arange(6 * rate) / rate
    sound = 0.03 * np.sum([np.sin(2 * np.pi * f * t) for f in np.geomspace(110, 3000, 24)], axis=0)
    places = np.array([60_000, 101_111, 150_007, 200_500])
    k = np.arange(8000) / rate
    for place in places:
        sound[place : place + 8000] += (
            0.6 * np.exp(-22 * k) * np.sin(2 * np.pi * (50 * k + 2.2 * (1 - np.exp(-60 * k))))
        )
    found = find_attacks(sound.astype(np.float32)[None], rate).frames
    assert len(found) == len(places)
    assert np.abs(found - places).max() < 0.003 * rate


@pytest.mark.parametrize("speed", [0.6, 1.4])
def test_a_forward_stretch_keeps_pitch_level_and_place(speed: float) -> None:
    sound = sine(523, 6.0)
    rush = Stretcher(sound, 44_100, SpeedByPosition.steady(speed), 0, 300_000).forward(44_100)
    out = np.concatenate([rush.read(n) for n in (1, 5000, 33_333, 60_000)], axis=1)
    assert out.shape[1] == 98_334
    assert abs(cents(frequency(out, 44_100, 523), 523)) < 0.2
    assert level_db(out) == pytest.approx(level_db(sound), abs=0.1)
    assert level_db(out[:, :2000]) == pytest.approx(level_db(sound), abs=0.5)


def formant_peaks(sound: np.ndarray, rate: int = 44_100) -> list[float]:
    """Where the spectral envelope of a voice is highest, Hz."""
    frames = np.lib.stride_tricks.sliding_window_view(sound[0, rate:-rate], 4096)[::2048] * np.hanning(4096)
    envelope = true_envelope((np.abs(np.fft.rfft(frames)) ** 2).astype(np.float32), rate).mean(axis=0)
    inner = envelope[1:-1]
    at = 1 + np.flatnonzero((inner > envelope[:-2]) & (inner >= envelope[2:]))
    hz = at * rate / 2 / len(envelope)
    return [float(f) for f in hz if f < 4500]


def voice(seconds: float, pitch: float = 140.0, rate: int = 44_100) -> np.ndarray:
    """A pulse train through three formants: 620, 1180 and 2600 Hz."""
    phase = np.arange(round(seconds * rate)) * pitch / rate
    pulses = np.diff(np.floor(phase), prepend=0.0)
    bands = [(620, 80, 1.0), (1180, 110, 0.6), (2600, 160, 0.35)]
    sound = sum(
        gain * sosfilt(butter(2, (f - width, f + width), "bandpass", fs=rate, output="sos"), pulses)
        for f, width, gain in bands
    )
    return np.asarray(0.5 * sound / np.abs(sound).max(), dtype=np.float32)[None]


@pytest.mark.parametrize(
    ("time", "moved"),
    [
        (Time(pitch="held", semitones=4.0), 2 ** (4 / 12)),
        (Time(pitch="held", semitones=4.0, formants="kept"), 1.0),
        (Time(pitch="held", semitones=-5.0, formants="kept"), 1.0),
        (Time(speed=1.25, formants="kept"), 1.0),
        (Time(formant_semitones=3.0), 2 ** (3 / 12)),
        (Time(speed=0.9, formants="kept", formant_semitones=-2.0), 2 ** (-2 / 12)),
    ],
)
def test_formants_go_where_they_should_and_the_pitch_with_them_or_not(time: Time, moved: float) -> None:
    sound = voice(6.0)
    out = read(track_of(sound), time)
    wanted = 140.0 * time.pitch_ratios[0]
    for partial in (3, 4):
        assert abs(cents(frequency(out, 44_100, partial * wanted), partial * wanted)) < 1.0
    found, there = formant_peaks(out), formant_peaks(sound)
    for nominal in (620, 1180, 2600):
        formant = min(there, key=lambda f: abs(f - nominal))
        assert min(abs(f - formant * moved) for f in found) < max(0.1 * formant * moved, wanted / 2), (
            "as near as partials show"
        )
    assert level_db(out) == pytest.approx(level_db(sound), abs=1.0)


def test_a_smear_keeps_tones_steady_and_noise_noisy() -> None:
    tone = read(track_of(sine(440, 4.0)), Time(speed=1 / 8, pitch="held", character="smear"))
    middle = tone[:, tone.shape[1] // 3 : 2 * tone.shape[1] // 3]
    assert abs(cents(frequency(middle, 44_100, 440), 440)) < 0.05
    envelope = np.sqrt(np.convolve(middle[0].astype(np.float64) ** 2, np.ones(4410) / 4410, "valid"))
    assert 20 * np.log10(envelope.max() / envelope.min()) < 0.5
    flatness = {}
    for character in ("full-mix", "smear"):
        hiss = read(track_of(noise(4.0)), Time(speed=1 / 4, pitch="held", character=character))
        part = hiss[0, 200_000 : 200_000 + (1 << 17)] * np.hanning(1 << 17)
        power = np.abs(np.fft.rfft(part))[2000:-2000] ** 2
        flatness[character] = 10 * np.log10(np.exp(np.log(power).mean()) / power.mean())
        assert level_db(hiss) == pytest.approx(level_db(noise(4.0)), abs=1.2)
    assert flatness["smear"] > -4.0, "white noise itself has −2.5"


@pytest.mark.parametrize("character", ["drums", "voice"])
def test_other_characters_keep_pitch_length_and_hits(character: str) -> None:
    time = Time(speed=0.7, pitch="held", character=character)  # type: ignore[arg-type]
    out = read(track_of(sine(880, 5.0)), time)
    assert out.shape[1] == round(5 * 44_100 / 0.7)
    assert abs(cents(frequency(out, 44_100, 880), 880)) < 0.05
    hits = noise(5.0, level=1e-4)
    hits[:, 88_200] += 1.0
    struck = np.abs(read(track_of(hits), time)[0])
    assert abs(int(struck.argmax()) - round(88_200 / 0.7)) < 44


def test_a_gliding_tone_keeps_its_level_and_its_pitch_at_every_place() -> None:
    rate, seconds = 44_100, 6.0
    t = np.arange(round(seconds * rate)) / rate
    k = np.log(80.0)
    phase = 2 * np.pi * 100 * seconds / k * (np.exp(k * t / seconds) - 1)  # 100 Hz to 8 kHz
    out = read(track_of((0.4 * np.sin(phase)).astype(np.float32)[None]), Time(speed=0.5, pitch="held"))[0]
    level = 10 * np.log10(np.convolve(out.astype(np.float64) ** 2, np.ones(4410) / 4410, "valid")[rate:-rate])
    assert level.max() - level.min() < 0.6
    analytic = hilbert(out.astype(np.float64))
    hz = np.convolve(np.diff(np.unwrap(np.angle(analytic))), np.ones(2205) / 2205, "same") * rate / (2 * np.pi)
    wanted = 100 * np.exp(k * (np.arange(len(hz)) + 0.5) / rate / (2 * seconds))
    assert np.median(np.abs(1200 * np.log2(hz / wanted))[rate:-rate]) < 0.3


def test_far_from_what_has_been_made_a_stretch_says_so_and_gets_there() -> None:
    reader = MusicReader(track_of(noise(30.0)), Time(speed=0.9, pitch="held"))
    place = 25 * 44_100
    assert not reader.has(place, 1000)
    for _ in range(400):
        reader.approach(place, 1000)
        if reader.has(place, 1000):
            break
        clock.sleep(0.02)
    assert reader.has(place, 1000)
    whole = MusicReader(track_of(noise(30.0)), Time(speed=0.9, pitch="held")).read(0, reader.map.after_frames)
    assert np.array_equal(reader.read(place, 1000), whole[:, place : place + 1000])


@pytest.mark.parametrize("speed", [0.5, 0.8, 1.5])
def test_a_song_that_begins_at_once_begins_as_it_is(speed: float) -> None:
    t = np.arange(44_100) / 44_100
    tone = (0.5 * np.sin(2 * np.pi * 440 * t + 1.0)).astype(np.float32)[None]
    out = read(track_of(tone), Time(speed=speed, pitch="held"))
    assert np.abs(out[0, :600] - tone[0, :600]).max() < 0.003, "within -44 dB, so in phase to a third of a degree"
    single = read(track_of(np.array([[0.7]], np.float32)), Time(speed=speed, pitch="held"))
    assert single[0, 0] == pytest.approx(0.7, abs=1e-5)
    assert np.abs(single[0, 1:]).max(initial=0.0) < 1e-5

"""Soft onsets: found where a note begins among others, and heard where the time map puts them, without moving anything else."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.signal import fftconvolve, firwin

from latespin.dsp.arrays import Audio
from latespin.dsp.onsets.results import Transients
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.onsets.transients import find_attacks
from latespin.dsp.stretching.phase_vocoder import Stretcher
from latespin.dsp.stretching.transient_holds import TransientAlignment
from latespin.dsp.timing.speed_by_position import SpeedByPosition
from tests.conftest import noise

RATE = 44_100
SECONDS = 4.0
T = np.arange(round(SECONDS * RATE)) / RATE
CHORD_HZ = (110.0, 164.8, 220.0, 277.2, 329.6)
NOTE_HZ = 3000.0  # above all partials of the chord


def tones(hertz: tuple[float, ...], partials: int = 8) -> np.ndarray:
    """Steady notes, ``[frames]``."""
    return sum(np.sin(2 * np.pi * f * k * T + f * k) / k**1.3 for f in hertz for k in range(1, partials + 1))


def note(at: float, hz: float = NOTE_HZ) -> np.ndarray:
    """A note of three partials with an attack of 4 ms that dies away."""
    since = np.maximum(0.0, T - at)
    return tones((hz,), 3) * np.minimum(1.0, since / 0.004) * np.exp(-2.0 * since)


def stereo(wave: np.ndarray, level: float) -> Audio:
    """Both channels."""
    return np.tile(level * wave, (2, 1)).astype(np.float32)


def stretched(song: Audio, length_ratio: float) -> Audio:
    """All of it."""
    frames = round(song.shape[1] * length_ratio)
    stretcher = Stretcher(song, RATE, SpeedByPosition.steady(1.0 / length_ratio), 0, frames)
    return stretcher.forward(0).read(frames)


@pytest.mark.parametrize("db", [-6.0, -12.0])
def test_a_note_among_others_is_found_where_it_begins(db: float) -> None:
    """Its level against a chord that sounds on; it is no attack."""
    starts = (1.0, 1.7, 2.3, 3.1)
    song = 0.05 * tones(CHORD_HZ) + 0.05 * 10 ** (db / 20) * sum(note(at, 740.0) for at in starts)
    found = find_attacks(stereo(song, 1.0), RATE)
    assert np.abs(found.soft[:, None] / RATE - starts).min(axis=1).max() < 0.004
    assert len(found.soft) == len(starts)
    assert len(found.frames) == 0


def test_a_soft_onset_next_to_an_attack_goes_with_it() -> None:
    song = 0.05 * tones(CHORD_HZ) + 0.02 * note(1.03) + 0.02 * note(2.0)
    song[RATE : RATE + 2000] += 0.5 * noise(2000 / RATE, RATE)[0] * np.exp(-np.arange(2000) / 300)
    found = find_attacks(stereo(song, 1.0), RATE)
    assert np.abs(found.frames / RATE - 1.0).max() < 0.002
    assert np.abs(found.soft / RATE - 2.0).max() < 0.004


@pytest.mark.parametrize(
    "sound",
    [
        stereo(tones(CHORD_HZ), 0.05),
        stereo(tones((1000.0, 1017.0), 1), 0.1),
        stereo(np.sin(2 * np.pi * 300 * T + 30.0 * np.sin(2 * np.pi * 5.5 * T)), 0.3),
        stereo(np.sin(2 * np.pi * 60.0 * 1.5 / np.log(2) * 2.0 ** (T / 1.5 + 3.0)), 0.3),
        stereo(
            sum(np.sin(k * (2 * np.pi * 180 * T + 0.49 * np.sin(2 * np.pi * 5.5 * T))) / k for k in range(1, 30)), 0.1
        ),
        stereo(tones(CHORD_HZ) * np.exp(-T) * (1 - np.exp(-3 * T)), 0.05),
    ],
    ids=["chord", "beating", "vibrato", "sweep", "voice", "swell"],
)
def test_nothing_begins_in_steady_moving_and_swelling_sound(sound: Audio) -> None:
    inside = find_attacks(sound, RATE).soft
    assert ((inside < 0.3 * RATE) | (inside > (SECONDS - 0.3) * RATE)).all(), inside / RATE


def test_noise_seldom_begins() -> None:
    """Its flux fluctuates as it does all along: less than one in two seconds stands out."""
    assert len(find_attacks(noise(20.0, RATE), RATE).soft) < 10


@pytest.mark.parametrize("length_ratio", [0.67, 1.5, 2.0])
def test_a_soft_note_begins_where_the_time_map_puts_it_and_rises_as_it_did(length_ratio: float) -> None:
    """Above the chord's partials, where it can be seen: half its level is reached within 3 ms, from a fifth within 4."""
    starts = (1.03, 2.11, 3.02)
    song = stereo(0.05 * tones(CHORD_HZ) + 0.012 * sum(note(at) for at in starts), 1.0)
    above = firwin(1001, 2850.0, fs=RATE, pass_zero=False)
    wave = fftconvolve(stretched(song, length_ratio)[0], above, "same")
    for at in starts:
        middle = round(at * length_ratio * RATE)
        level = np.convolve(np.abs(wave[middle - 2000 : middle + 2000]), np.ones(60) / 60, "same")
        full = np.median(level[2300:3200])
        fifth, half = (int(np.argmax(level > share * full)) for share in (0.2, 0.5))
        assert abs(half - 2000) / RATE - 0.002 < 0.003, (at, (half - 2000) / RATE)
        assert (half - fifth) / RATE < 0.004


def test_what_sounds_on_is_not_moved() -> None:
    """A chord with a soft note over it: its partials grow by the same angles and levels as without, within −40 dB a second later."""
    chord = 0.05 * tones(CHORD_HZ[:2], 2)
    spectra = []
    for level in (0.003, 0.0):
        out = stretched(stereo(chord + level * note(2.0), 1.0), 1.5)[0]
        part = out[round(3.1 * RATE) : round(4.1 * RATE)]
        spectra.append(np.fft.rfft(part * np.hanning(len(part)))[:1000])
    assert np.linalg.norm(spectra[0] - spectra[1]) < 0.01 * np.linalg.norm(spectra[1])


@given(
    places=st.lists(st.integers(20_000, 180_000), min_size=2, max_size=14, unique=True),
    soft=st.lists(st.booleans(), min_size=14, max_size=14),
    speed=st.floats(0.3, 3.0),
)
def test_soft_onsets_take_no_more_room_than_half_the_way_to_any_neighbour(
    places: list[int], soft: list[bool], speed: float
) -> None:
    frames, chosen = np.array(sorted(places)), np.array(soft[: len(places)])

    class Given(TransientMap):
        def between(self, start: float, stop: float) -> Transients:
            return Transients(frames[~chosen], np.ones(np.count_nonzero(~chosen)), frames[chosen])

    pace = TransientAlignment(SpeedByPosition.steady(speed), Given(np.zeros((1, 1), np.float32), RATE), 1200, 9000)
    spots = np.round(frames / speed).astype(int)
    holds = pace.soft_holds(0, 700_000)
    assert {hold.output_frame for hold in holds} <= set(spots[chosen].tolist())
    for hold in holds:
        earlier, later = (spots[spots * sign > hold.output_frame * sign] for sign in (-1, 1))
        assert 2 * hold.room[0] <= (hold.output_frame - earlier).min(initial=1 << 30)
        assert 2 * hold.room[1] <= (later - hold.output_frame).min(initial=1 << 30)
        assert all(kept <= room for kept, room in zip(hold.kept, hold.room, strict=True))
        times = np.arange(hold.output_frame - hold.room[0], hold.output_frame + hold.room[1] + 1)
        read = pace.places(times, [hold])
        assert read[hold.room[0]] == hold.place
        assert np.abs(read[[0, -1]] - times[[0, -1]] * speed).max() <= 1.0

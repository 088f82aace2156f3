"""Tones of a song and the key they give: against tones whose pitch is known, and songs turned to another pitch."""

import numpy as np
import pytest
import soxr
from hypothesis import given, settings
from hypothesis import strategies as st

from latespin.analysis.key import find_tuning, guess_keys, pitch_classes, weighed
from latespin.analysis.spectra import (
    LONG_FPS,
    LOWEST_TONE_HZ,
    PITCH_STEPS,
    TONE_FRAMES,
    TONE_OCTAVES,
    Spectra,
    find_spectra,
)
from latespin.dsp.arrays import Audio
from latespin.jobs import Quietly
from tests.conftest import noise, sine

RATE = 22_050
SCALES = {"major": (0, 2, 4, 5, 7, 9, 11), "minor": (0, 2, 3, 5, 7, 8, 11)}
CHORDS = (0, 3, 4, 0, 5, 3, 4, 0)  # degrees on which they stand: a cadence twice


def spectra(sound: Audio, rate: int = RATE) -> Spectra:
    """What is seen of a sound."""
    return find_spectra(sound, rate, Quietly())


@given(hz=st.floats(45.0, 4_500.0), level=st.floats(0.01, 0.9))
@settings(max_examples=20)
def test_a_tone_lies_at_its_pitch_and_nowhere_else(hz: float, level: float) -> None:
    """To a fifth of a semitone, whatever its level: a song is read as loud as any other."""
    tones = spectra(sine(hz, 3.0, RATE, level)).tones
    assert tones.shape[1:] == (TONE_OCTAVES, PITCH_STEPS)
    total = tones[2:-2].astype(np.float64).sum(axis=0).ravel()
    place = PITCH_STEPS * np.log2(hz / LOWEST_TONE_HZ)
    near = np.abs(np.arange(len(total)) - place) <= 1.0
    assert total[near].sum() > 0.98 * total.sum()
    steady = tones[2:-2].astype(np.float64).sum(axis=(1, 2))
    assert steady.min() > 0.9 * steady.max()


def test_tones_are_as_long_as_the_song_and_those_of_noise_give_no_key() -> None:
    seen = spectra(noise(12.0, RATE))
    assert len(seen.tones) == pytest.approx(12.0 * LONG_FPS / TONE_FRAMES, abs=2)
    classes = pitch_classes(weighed(seen.tones), 0.0).sum(axis=0)
    assert classes.std() < 0.25 * classes.mean(), "no pitch class stands out"
    assert guess_keys(pitch_classes(weighed(seen.tones), 0.0), 12.0) == []


def cadence(tonic: int, mode: str, octave: int) -> Audio:
    """Chords of a key with a bass, each tone of six partials, sixteen seconds."""
    scale = SCALES[mode]
    t = np.arange(2 * RATE) / RATE
    parts = []
    for degree in CHORDS:
        steps = [scale[(degree + up) % 7] + 12 * ((degree + up) // 7) for up in (0, 2, 4)]
        notes = [12 * octave + tonic + step for step in (steps[0] - 24, *steps)]
        waves = [
            np.sin(2 * np.pi * k * 440.0 * 2.0 ** ((note - 69) / 12) * t) / k**1.3 * np.exp(-0.7 * t)
            for note in notes
            for k in range(1, 7)
        ]
        parts.append(np.sum(waves, axis=0))
    wave = 0.05 * np.concatenate(parts)
    return np.tile(wave, (2, 1)).astype(np.float32)


def key_of(sound: Audio, rate: float) -> tuple[int, str]:
    """The likeliest key."""
    seen = spectra(sound, round(rate))
    best = guess_keys(pitch_classes(weighed(seen.tones), find_tuning(seen.pitches)), seen.seconds)[0]
    return best.tonic, best.mode


@given(
    tonic=st.integers(0, 11), mode=st.sampled_from(["major", "minor"]), octave=st.sampled_from([4, 5]), by=st.integers(-5, 5),
)  # fmt: skip
@settings(max_examples=10)
def test_the_key_of_a_cadence_is_found_and_goes_along_when_it_is_turned(
    tonic: int, mode: str, octave: int, by: int
) -> None:
    """Resampled by whole semitones, as a slowed or quickened version is."""
    sound = cadence(tonic, mode, octave)
    turned = soxr.resample(sound.T, RATE * 2.0 ** (by / 12), RATE).astype(np.float32)
    assert key_of(sound, RATE) == (tonic, mode)
    assert key_of(np.ascontiguousarray(turned.T), RATE) == ((tonic + by) % 12, mode)

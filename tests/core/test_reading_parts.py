"""Parts of the song reading against made-up spectra whose key, tuning and sections are known."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from latespin.analysis.key import MAJOR, MINOR, find_tuning, guess_keys, pitch_classes, weighed
from latespin.analysis.sections import FoundSection, find_sections, letter
from latespin.analysis.spectra import FPS, LONG_FPS, PITCH_STEPS, STEPS_PER_SEMITONE, TONE_OCTAVES, Spectra

SECONDS = 30.0
FRAMES = round(SECONDS * 5)
NO_TONES = np.zeros((FRAMES, TONE_OCTAVES, PITCH_STEPS), np.float16)
KEYS = st.tuples(st.integers(0, 11), st.sampled_from(["major", "minor"]))


def in_key(tonic: int, mode: str) -> np.ndarray:
    """Pitch classes that sound exactly as often as the profile of a key says, ``[n, 12]``."""
    return np.tile(np.roll((MAJOR if mode == "major" else MINOR)[0], tonic), (FRAMES, 1))


@given(key=KEYS)
def test_the_profile_of_a_key_is_that_key_and_all_24_share_one_certainty(key: tuple[str, int]) -> None:
    guesses = guess_keys(in_key(*key), SECONDS)
    assert (guesses[0].tonic, guesses[0].mode) == key
    assert len({(guess.tonic, guess.mode) for guess in guesses}) == 24
    assert sum(guess.confidence for guess in guesses) == pytest.approx(1.0)
    assert [g.confidence for g in guesses] == sorted((g.confidence for g in guesses), reverse=True)


@given(key=KEYS, by=st.integers(0, 11), seed=st.integers(0, 1000))
def test_a_transposed_song_has_its_keys_transposed(key: tuple[int, str], by: int, seed: int) -> None:
    """Whatever is played: the order of all keys turns with the song, with the same certainty."""
    played = in_key(*key) + 0.05 * np.random.default_rng(seed).random((FRAMES, 12))
    first, second = guess_keys(played, SECONDS), guess_keys(np.roll(played, by, 1), SECONDS)
    assert [((g.tonic + by) % 12, g.mode) for g in first] == [(g.tonic, g.mode) for g in second]
    assert np.allclose([g.confidence for g in first], [g.confidence for g in second])


@given(seed=st.integers(0, 1000), by=st.integers(-PITCH_STEPS, PITCH_STEPS))
def test_a_song_that_is_turned_has_its_tones_weighed_alike(seed: int, by: int) -> None:
    """Up to an octave up or down, in any steps: pitches are the same ones turned."""
    draw = np.random.default_rng(seed)
    tones = np.zeros((20, TONE_OCTAVES * PITCH_STEPS))
    tones[:, PITCH_STEPS:-PITCH_STEPS] = draw.random((20, 6 * PITCH_STEPS)) * (draw.random((20, 6 * PITCH_STEPS)) < 0.1)
    own, turned = (weighed(part.reshape(20, TONE_OCTAVES, PITCH_STEPS)) for part in (tones, np.roll(tones, by, axis=1)))
    assert np.allclose(np.roll(own, by, axis=1), turned, rtol=1e-6, atol=1e-12)


def test_low_tones_count_more() -> None:
    tones = NO_TONES.copy()
    for octave in range(TONE_OCTAVES):
        tones[:, octave, octave] = 1.0
    pitches = weighed(tones)[0, :TONE_OCTAVES]
    assert np.all(np.diff(pitches[1:]) < 0.0)
    assert pitches[-1] > 0.0


def test_silence_and_all_notes_alike_have_no_key() -> None:
    assert guess_keys(np.zeros((FRAMES, 12)), SECONDS) == []
    alike = np.ones((FRAMES, 12)) + 1e-3 * np.tile([1.0, -1.0], 6)
    assert guess_keys(alike, SECONDS) == []


@pytest.mark.parametrize("steps", range(-2, 3))
def test_a_tuning_is_found_and_taken_off_the_pitch_classes(steps: int) -> None:
    """All notes of a key a fifth of a semitone higher or lower for each step: +20 cents each."""
    pitches = np.zeros((FRAMES, 12 * STEPS_PER_SEMITONE))
    pitches[:, ::STEPS_PER_SEMITONE] = in_key(0, "major")
    pitches = np.roll(pitches, steps, axis=1)
    cents = find_tuning(pitches)
    assert cents == pytest.approx(100.0 * steps / STEPS_PER_SEMITONE)
    assert np.allclose(pitch_classes(pitches, cents), in_key(0, "major"))


def song_of(form: str, bars: int, bar_seconds: float) -> tuple[Spectra, np.ndarray, np.ndarray]:
    """Spectra, pitch classes and bar lines of a song: a part of ``bars`` per letter, each letter with its own chord and level."""
    seconds = len(form) * bars * bar_seconds
    part_of = [
        np.minimum((np.arange(round(seconds * fps)) / fps / (bars * bar_seconds)).astype(int), len(form) - 1)
        for fps in (FPS, LONG_FPS)
    ]
    kinds = [np.array(["ABC".index(letter) for letter in form])[part] for part in part_of]
    level = np.array([0.02, 0.2, 0.08])[kinds[0]]
    classes = np.stack([np.roll(MAJOR[0], 7 * kind) for kind in range(3)])[kinds[1]]
    bank = np.tile(0.5 + 0.3 * kinds[1][:, None], (1, 20)).astype(np.float16)
    spectra = Spectra(
        np.tile(level, (4, 1)), level, level, bank, np.zeros((len(kinds[1]), 60)), classes, NO_TONES, seconds
    )
    return spectra, classes, bar_seconds * np.arange(len(form) * bars + 1)


@pytest.mark.parametrize(("form", "energies"), [("ABAB", (0.1, 1.0, 0.1, 1.0)), ("ABCB", (0.1, 1.0, 0.4, 1.0))])
def test_sections_begin_where_parts_do_and_parts_that_sound_alike_share_a_letter(form: str, energies: tuple) -> None:
    found = find_sections(*song_of(form, 8, 2.0))
    assert [section.label for section in found] == list(form)
    assert np.allclose(
        [(section.start, section.end) for section in found], [(16.0 * i, 16.0 * (i + 1)) for i in range(4)]
    )
    assert np.allclose([section.energy for section in found], np.sqrt(energies), atol=0.02)


def test_a_song_of_a_few_bars_is_one_section() -> None:
    spectra, classes, edges = song_of("A", 3, 2.0)
    assert find_sections(spectra, classes, edges) == [FoundSection(0.0, 6.0, "A", 1.0)]


def test_letters_go_on_after_z() -> None:
    assert [letter(n) for n in (0, 25, 26, 27, 51, 52, 701, 702)] == ["A", "Z", "AA", "AB", "AZ", "BA", "ZZ", "AAA"]


def test_parts_in_a_higher_key_share_a_letter() -> None:
    """A last part a tone higher is the same part; one with other chords and levels is not."""
    spectra, classes, edges = song_of("ABAB", 8, 2.0)
    last = round(48.0 * LONG_FPS)
    raised = classes.copy()
    raised[last:] = np.roll(raised[last:], 2, axis=1)
    assert [part.label for part in find_sections(spectra, raised, edges)] == ["A", "B", "A", "B"]


@given(seed=st.integers(0, 200), bars=st.integers(8, 60))
def test_sections_of_what_hardly_changes_are_one(seed: int, bars: int) -> None:
    """Small differences between bars, as noise has them, are no sections, however they fall."""
    draw = np.random.default_rng(seed)
    count = round(bars * 2.0 * LONG_FPS) + 1
    short = round(bars * 2.0 * FPS) + 1
    classes = 1.0 + 0.02 * draw.random((count, 12))
    spectra = Spectra(
        0.02 + 0.002 * draw.random((4, short)), np.full(short, 0.02), np.full(short, 0.1),
        (0.5 + 0.02 * draw.random((count, 20))).astype(np.float16), np.zeros((count, 60)), classes, NO_TONES, bars * 2.0,
    )  # fmt: skip
    assert len(find_sections(spectra, classes, 2.0 * np.arange(bars + 1))) == 1


def test_a_moment_and_a_noise_have_no_key() -> None:
    """Pitch classes as even as those of noise, and a song shorter than two seconds, whatever it plays."""
    draw = np.random.default_rng(1)
    uneven = 1.0 + 0.25 * (in_key(0, "major") / in_key(0, "major").mean() - 1.0) * draw.random()
    assert guess_keys(uneven, SECONDS) == []
    assert guess_keys(in_key(3, "minor"), 1.9) == []

"""The way round the head, measured from what comes out, in frames of 120 ms; and a listener's own ears."""

from pathlib import Path

import h5py
import numpy as np
import pytest

from latespin.analysis.profile import EDGES, profile_of
from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.dsp.effects.binaural import BinauralPanner, BinauralSettings, evened, sphere_table
from latespin.dsp.effects.hrtf import ear_delay, sphere_pairs
from latespin.errors import Unreadable
from latespin.media.exchange.sofa import read_ears
from tests.conftest import noise

RATE, PERIOD = 44_100, 6.0
FRAME = round(0.12 * RATE)


def pink(seconds: float) -> Audio:
    """The same pink noise in both channels."""
    spectrum = np.fft.rfft(np.random.default_rng(1).standard_normal(round(seconds * RATE)))
    wave = np.fft.irfft(spectrum / np.sqrt(np.maximum(20.0, np.arange(len(spectrum)))), round(seconds * RATE))
    return np.tile(0.1 * wave / wave.std(), (2, 1)).astype(np.float32)


def gone_round(sound: Audio, tables=None) -> Audio:  # type: ignore[no-untyped-def]
    """Once round in PERIOD to the right, its delay taken out."""
    settings = BinauralSettings(lambda frames: frames / RATE / PERIOD, Automation(0.0), 120.0, 1.0, 0.35)
    panner = BinauralPanner(RATE, settings, tables or (lambda strength, rise: sphere_table(RATE, rise, strength)))
    padded = np.concatenate((sound, np.zeros((2, panner.latency), np.float32)), axis=1)
    return panner.process(padded, -panner.latency, Automation(1.0))[:, panner.latency :]


def bands(sound: Audio, low: float, high: float) -> np.ndarray:
    """Power of each channel between two frequencies."""
    hz = np.fft.rfftfreq(sound.shape[1], 1 / RATE)
    return np.sum(np.abs(np.fft.rfft(sound)[:, (hz >= low) & (hz < high)]) ** 2, axis=1)


@pytest.fixture(scope="module")
def heard() -> tuple[Audio, Audio]:
    """Pink noise before and after a whole way round."""
    sound = pink(PERIOD + 0.5)
    return sound, gone_round(sound)


def test_the_delay_between_the_ears_follows_the_spherical_head(heard: tuple[Audio, Audio]) -> None:
    _, out = heard
    delays, wanted = [], []
    for i in range(round(PERIOD * RATE / FRAME)):
        spectra = np.fft.rfft(out[:, i * FRAME : (i + 1) * FRAME] * np.hanning(FRAME), 2 * FRAME)
        across = np.roll(np.fft.irfft(spectra[0] * np.conj(spectra[1]), 16 * FRAME), 500)[:1001]
        delays.append((np.argmax(across) - 500) / 8.0 / RATE * 1000.0)
        angle = 2 * np.pi * (i + 0.5) * FRAME / RATE / PERIOD
        incidence = np.arccos(np.array([-np.sin(angle), np.sin(angle)]))
        left, right = ear_delay(incidence)
        wanted.append((left - right) * 1000.0)
    assert 0.60 < np.max(np.abs(delays)) < 0.82
    assert np.corrcoef(delays, wanted)[0, 1] > 0.98


def test_the_far_ear_lies_in_the_heads_shadow(heard: tuple[Audio, Audio]) -> None:
    """About 2 dB at 500 Hz, 9 dB at 2 kHz, 12 to 20 dB at 6 kHz, at the right and at the left."""
    _, out = heard
    for turn, sign in ((0.25, 1.0), (0.75, -1.0)):
        middle = round(turn * PERIOD * RATE)
        part = out[:, middle - FRAME // 2 : middle + FRAME // 2]
        found = []
        for hz in (500.0, 2000.0, 6000.0):
            left, right = bands(part, hz / 1.12, hz * 1.12)
            found.append(sign * 10 * np.log10(right / left))
        assert 1.0 < found[0] < 4.0
        assert 7.5 < found[1] < 11.5
        assert 12.0 < found[2] < 20.0


def test_front_and_back_differ_and_the_level_stays(heard: tuple[Audio, Audio]) -> None:
    sound, out = heard
    front, back = out[:, :FRAME], out[:, round(PERIOD * RATE / 2) :][:, :FRAME]
    given = [sound[:, :FRAME], sound[:, round(PERIOD * RATE / 2) :][:, :FRAME]]
    highs = [
        10 * np.log10(bands(o, 3000, 16_000).sum() / bands(s, 3000, 16_000).sum())
        for o, s in zip((front, back), given, strict=True)
    ]
    assert highs[0] - highs[1] > 3.0
    frames = range(round(PERIOD * RATE / FRAME))
    levels = [
        10 * np.log10(np.mean(out[:, i * FRAME :][:, :FRAME] ** 2) / np.mean(sound[:, i * FRAME :][:, :FRAME] ** 2))
        for i in frames
    ]
    assert np.ptp(levels) < 1.5


@pytest.mark.parametrize("slope", [0.3, 0.5, 0.9])
def test_every_place_is_as_loud_for_dull_and_bright_songs(slope: float) -> None:
    """The filters of each song are made even for its own spectrum: amplitudes that fall as frequency to the ``slope``."""
    frames = round((PERIOD + 0.5) * RATE)
    spectrum = np.fft.rfft(np.random.default_rng(3).standard_normal(frames))
    wave = np.fft.irfft(spectrum / np.maximum(150.0 * frames / RATE, np.arange(len(spectrum))) ** slope, frames)
    sound = np.tile(0.1 * wave / wave.std(), (2, 1)).astype(np.float32)
    profile = profile_of(sound, RATE)
    even = evened(sphere_table(RATE, 0.0, 1.0), profile.mid, EDGES, RATE)
    third = round(PERIOD * RATE / 12)
    out = gone_round(sound, lambda strength, rise: even)
    parts = [slice(i * third, (i + 1) * third) for i in range(12)]
    levels = [10 * np.log10(np.mean(out[:, part] ** 2) / np.mean(sound[:, part] ** 2)) for part in parts]
    assert np.ptp(levels) < 1.0


def test_a_sum_of_both_ears_loses_no_band(heard: tuple[Audio, Audio]) -> None:
    """Over a whole way round, no third of an octave is more than 3 dB down."""
    sound, out = heard
    whole = round(PERIOD * RATE)
    for centre in 1000.0 * 2.0 ** (np.arange(-12, 13) / 3.0):
        edges = centre * 2 ** (-1 / 6), centre * 2 ** (1 / 6)
        mono, given = bands(out[:, :whole].mean(axis=0)[None], *edges), bands(sound[:1, :whole], *edges)
        assert 10 * np.log10(mono[0] / given[0]) > -3.1, centre


def test_the_period_is_exact_and_bass_stays_in_the_middle(heard: tuple[Audio, Audio]) -> None:
    twice = gone_round(np.tile(pink(PERIOD), (1, 2)))
    half = round(PERIOD * RATE)
    assert np.allclose(twice[:, RATE : half - 300], twice[:, half + RATE : 2 * half - 300], atol=1e-5)
    low = np.tile(0.3 * np.sin(2 * np.pi * 55.0 * np.arange(3 * RATE) / RATE), (2, 1)).astype(np.float32)
    out = gone_round(low)[:, RATE : 2 * RATE]
    left, right = bands(out, 50, 60)
    assert abs(10 * np.log10(left / right)) < 0.6


def test_between_two_places_nothing_is_lost() -> None:
    """Halfway between neighbours, where the way comes round too, both ears hear within 0.3 dB of what they hear at them up to 14 kHz."""
    table = sphere_table(RATE, 20.0, 1.0).astype(np.float64)
    there = np.abs(np.fft.rfft(table, 512))[:, :, 4:163]
    halfway = np.abs(np.fft.rfft(0.5 * (table + np.roll(table, -1, axis=0)), 512))[:, :, 4:163]
    mean = 0.5 * (there + np.roll(there, -1, axis=0))
    assert np.abs(20 * np.log10(halfway / mean)).max() < 0.3


def sofa(path: Path, **changes: object) -> Path:
    """A small set of ears: the spherical head itself, every 15 degrees on three heights."""
    azimuth, elevation = (grid.ravel() for grid in np.meshgrid(np.arange(0, 360, 15), [-30, 0, 30]))
    pairs = sphere_pairs(np.deg2rad(-azimuth), np.deg2rad(elevation), 48_000)
    with h5py.File(path, "w") as file:
        file.attrs["SOFAConventions"] = changes.get("convention", "SimpleFreeFieldHRIR")
        file["Data.IR"] = changes.get("responses", pairs)
        file["Data.SamplingRate"] = np.array([48_000.0])
        file["SourcePosition"] = np.stack((azimuth, elevation, np.full(len(azimuth), 1.5)), axis=1)
        file["SourcePosition"].attrs["Type"] = "spherical"
    return path


def test_measured_ears_are_used_as_they_are(tmp_path: Path) -> None:
    """Made of the spherical head, they give its delays and shadows again."""
    ears = read_ears(sofa(tmp_path / "mine.sofa"))
    out = gone_round(pink(PERIOD), lambda strength, rise: ears.table(RATE, rise, strength))
    middle = round(0.25 * PERIOD * RATE)
    part = out[:, middle - FRAME // 2 : middle + FRAME // 2]
    left, right = bands(part, 1800, 2200)
    assert 7.0 < 10 * np.log10(right / left) < 12.0
    spectra = np.fft.rfft(part * np.hanning(FRAME), 2 * FRAME)
    across = np.roll(np.fft.irfft(spectra[0] * np.conj(spectra[1]), 16 * FRAME), 500)[:1001]
    assert (np.argmax(across) - 500) / 8.0 / RATE * 1000.0 == pytest.approx(0.656, abs=0.08)


def test_other_files_are_refused_by_what_they_lack(tmp_path: Path) -> None:
    with pytest.raises(Unreadable, match="follows the SOFA convention “SimpleHeadphoneIR”"):
        read_ears(sofa(tmp_path / "a.sofa", convention="SimpleHeadphoneIR"))
    with pytest.raises(Unreadable, match="shape"):
        read_ears(sofa(tmp_path / "b.sofa", responses=noise(0.1)[None].repeat(72, axis=0)[:, :1]))
    with h5py.File(tmp_path / "c.sofa", "w") as file:
        file.attrs["SOFAConventions"] = b"SimpleFreeFieldHRIR"
    with pytest.raises(Unreadable, match=r"lacks a part"):
        read_ears(tmp_path / "c.sofa")

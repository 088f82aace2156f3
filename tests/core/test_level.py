"""The limiter, the two-pass level, and the chain that preview and export share."""

from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st

from latespin.analysis.facts import facts_of
from latespin.dsp.arrays import amplitude
from latespin.dsp.dither import Quantiser
from latespin.dsp.dynamics.limiter import Limiter
from latespin.dsp.metering.true_peak import true_peak_dbtp
from latespin.jobs import Quietly
from latespin.media.audio.formats import Encoding
from latespin.media.track import Track, open_track
from latespin.model.effects.effects import Hall
from latespin.model.version import Colour, Level, Stages, Time
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.level import LevelPlan, levelled
from latespin.render.mastering.level_solver import solve_level
from latespin.render.mastering.measure import measure
from latespin.render.playback.programme import PlaybackRequest
from tests.conftest import level_db, noise, sine, track_of

RATE = 44_100
HALL = Colour(effects=(Hall(on=True, decay_seconds=1.2, amount_percent=35.0),))


def limited(sound: np.ndarray, ceiling_db: float, size: int = 10**9, lowered: np.ndarray | None = None) -> np.ndarray:
    """A whole sound limited, the latency taken off."""
    limiter = Limiter(RATE, sound.shape[0], amplitude(ceiling_db), lowered=lowered)
    padded = np.pad(sound, ((0, 0), (0, limiter.latency)))
    blocks = [limiter.process(padded[:, start : start + size]) for start in range(0, padded.shape[1], size)]
    return np.concatenate(blocks, axis=1)[:, limiter.latency :]


@pytest.mark.parametrize("ceiling_db", [-1.0, -6.0])
def test_the_limiter_holds_true_peaks(ceiling_db: float) -> None:
    bursts = noise(2.0, level=0.05)
    bursts[:, ::7001] = 1.8
    tone = sine(11_025, 2.0, level=1.3) + sine(997, 2.0, level=0.4)
    for sound in (bursts, tone, noise(2.0, level=0.5)):
        assert true_peak_dbtp(limited(sound, ceiling_db), RATE) <= ceiling_db + 0.1


def test_the_limiter_leaves_what_is_below_its_ceiling_bit_for_bit() -> None:
    sound = noise(1.0, level=0.05)
    assert np.array_equal(limited(sound, -1.0), sound)


@pytest.mark.parametrize("size", [777, 10**9])
def test_a_ceiling_may_be_lower_in_places(size: int) -> None:
    """From 0.5 to 0.6 s it is 3 dB lower; what is further off than the limiter looks ahead or lets go of is as without that."""
    sound = sine(997, 2.0, level=0.8)
    lowered = np.ones(120)
    lowered[50:60] = amplitude(-3.0)
    out, usual = limited(sound, -3.0, size, lowered), limited(sound, -3.0)
    assert true_peak_dbtp(out[:, 22_050:26_460], RATE) == pytest.approx(-6.0, abs=0.1)
    early = 22_050 - Limiter(RATE, 2, 1.0).latency
    assert np.array_equal(out[:, :early], usual[:, :early])
    assert np.allclose(out[:, 70_000:], usual[:, 70_000:], atol=0.01)


def test_the_limiter_works_early_and_without_clicks() -> None:
    sound = sine(200, 1.0, level=0.5)
    sound[:, 22_050:22_150] *= 3.0
    out = limited(sound, -3.0)
    gain = np.abs(out[0, 100:]) / np.maximum(np.abs(sound[0, 100:]), 1e-3)
    assert np.abs(np.diff(gain[np.abs(sound[0, 100:]) > 0.05])).max() < 0.1
    assert np.array_equal(out[:, : 22_050 - 400], sound[:, : 22_050 - 400])


@given(size=st.integers(1, 5000), seed=st.integers(0, 20))
def test_the_limiter_does_not_care_how_blocks_are_cut(size: int, seed: int) -> None:
    sound = noise(0.08, level=0.6, seed=seed)
    assert np.abs(limited(sound, -6.0, size) - limited(sound, -6.0)).max() < 1e-6


@pytest.mark.parametrize("target", [-9.0, -14.0, -23.0])
@pytest.mark.parametrize("ceiling", [-1.0, -2.0])
def test_level_reaches_its_target_below_its_ceiling(lantern: Track, target: float, ceiling: float) -> None:
    sound = lantern.sound[:, : RATE * 30]
    level = Level(target_lufs=target, ceiling_dbtp=ceiling, allowance_db=8.0)
    plan = solve_level(sound, facts_of(sound, RATE), level, Quietly()).plan
    finished = np.concatenate(list(levelled(sound, plan, RATE)), axis=1)
    facts = facts_of(finished, RATE)
    assert finished.shape == sound.shape
    assert facts.loudness.integrated_lufs == pytest.approx(target, abs=0.1)
    assert facts.true_peak_dbtp <= ceiling + 0.01
    assert not plan.note


def test_the_limiter_is_not_asked_for_more_than_its_allowance(lantern: Track) -> None:
    sound = lantern.sound[:, : RATE * 20]
    plan = solve_level(sound, facts_of(sound, RATE), Level(target_lufs=-5.0, allowance_db=2.0), Quietly()).plan
    assert plan.reduction_db == pytest.approx(2.0, abs=0.1)
    assert "2.0 dB" in plan.note
    assert "−5.0 LUFS" in plan.note


def test_silence_is_left_alone_and_said_to_be() -> None:
    silent = np.zeros((2, RATE), np.float32)
    plan = solve_level(silent, facts_of(silent, RATE), Level(), Quietly()).plan
    assert plan == LevelPlan(note=plan.note)
    assert "undefined" in plan.note


@given(cuts=st.lists(st.integers(1, 60_000), min_size=1, max_size=5), held=st.booleans())
def test_a_chain_does_not_care_how_blocks_are_cut(cuts: list[int], held: bool) -> None:
    stages = Stages(time=Time(speed=0.9, pitch="held" if held else "linked"), colour=HALL)
    readers = TrackRenderer(_SONG)
    whole, pieces = readers.chain(stages), readers.chain(stages)
    wanted = whole.read(10**9)
    got = [pieces.read(cuts[i % len(cuts)]) for i in range(40)] + [pieces.read(10**9)]
    assert np.abs(np.concatenate(got, axis=1) - wanted).max() < 1e-5
    assert wanted.shape[1] == whole.music_frames + whole.tail_frames


_SONG = track_of(noise(1.0))


@pytest.mark.parametrize("place", [0.0, 0.31, 0.7, 0.999])
@pytest.mark.parametrize("pitch", ["linked", "held"])
def test_seeking_gives_what_the_whole_render_has_there(lantern: Track, place: float, pitch: str) -> None:
    track = track_of(lantern.sound[:, : RATE * 12])
    stages = Stages(time=Time(speed=0.85, pitch=pitch), colour=HALL)  # type: ignore[arg-type]
    readers = TrackRenderer(track)
    whole = readers.chain(stages).read(10**9)
    chain = readers.chain(stages)
    start = int(place * (chain.frames - 1))
    chain.seek(start)
    part = chain.read(8192)
    assert level_db(part - whole[:, start : start + 8192]) < -80.0


def test_more_gain_than_makes_a_song_louder_is_not_taken(lantern: Track) -> None:
    """Its gain stays where it is as loud as the limiter makes it, and the note says that allowing more would not help."""
    track = track_of(lantern.sound[:, 30 * RATE : 46 * RATE])
    plan = measure(TrackRenderer(track), Stages(level=Level(target_lufs=-5.0, allowance_db=12.0)), Quietly()).plan
    assert plan.loudest
    assert "no louder than" in plan.note
    less, more = (loudness_of(track.sound, replace(plan, gain_db=plan.gain_db + by)) for by in (-2.0, 6.0))
    reached = loudness_of(track.sound, plan)
    assert reached > less - 0.1
    assert reached > more - 0.1


def loudness_of(sound: np.ndarray, plan: LevelPlan) -> float:
    return facts_of(np.concatenate(list(levelled(sound, plan, RATE)), axis=1), RATE).loudness.integrated_lufs


def test_preview_and_export_are_the_same_sound(lantern: Track) -> None:
    track = track_of(lantern.sound[:, : RATE * 8])
    stages = Stages(time=Time(speed=0.9), colour=HALL, level=Level(target_lufs=-9.0))
    readers = TrackRenderer(track)
    plan = measure(readers, stages, Quietly()).plan
    assert plan.ceiling is not None
    sound = readers.chain(stages).read(10**9)
    exported = np.concatenate(list(levelled(sound, plan, RATE)), axis=1)
    stream = PlaybackRequest(readers, "after", stages, plan).open()
    heard = np.concatenate([stream.read(5000) for _ in range(exported.shape[1] // 5000 + 1)], axis=1)
    assert heard.shape == exported.shape
    assert np.abs(heard - exported).max() < 1e-6


def test_what_is_measured_is_what_is_rendered(lantern: Track) -> None:
    track = track_of(lantern.sound[:, : RATE * 10])
    stages = Stages(time=Time(speed=1.2), colour=HALL, level=Level(target_lufs=-16.0))
    measured = measure(TrackRenderer(track), stages, Quietly())
    sound = TrackRenderer(track).chain(stages).read(10**9)
    finished = facts_of(np.concatenate(list(levelled(sound, measured.plan, RATE)), axis=1), RATE)
    assert measured.facts.loudness.integrated_lufs == pytest.approx(finished.loudness.integrated_lufs, abs=0.01)
    assert measured.facts.true_peak_dbtp == pytest.approx(finished.true_peak_dbtp, abs=0.01)
    assert measured.facts.frames == finished.frames == measured.peaks.frames


@pytest.mark.parametrize("bits", [16, 24])
def test_dither_keeps_the_mean_below_a_step_and_silence_silent(bits: int) -> None:
    step = 2.0 ** (1 - bits)
    quiet = np.full((1, 200_000), 0.3 * step, np.float32)
    whole = Quantiser(bits).process(quiet) >> (32 - bits)
    assert whole.mean() == pytest.approx(0.3, abs=0.02)
    assert whole.std() == pytest.approx(0.5, abs=0.02)  # variances: 1/6 of the dither, 1/12 of quantising
    assert not Quantiser(bits).process(np.zeros((2, 100), np.float32)).any()
    assert (Quantiser(16).process(np.array([[2.0, -2.0]], np.float32)) >> 16).tolist() == [[32767], [-32768]]


@pytest.mark.parametrize(("kind", "depth"), [("wav", "16"), ("wav", "24"), ("flac", "16"), ("flac", "24")])
def test_a_song_of_16_bits_as_it_is_comes_out_bit_for_bit(tmp_path: Path, kind: str, depth: str) -> None:
    song, out = tmp_path / "song.wav", tmp_path / f"out.{kind}"
    soundfile.write(song, noise(2.0).T, RATE, subtype="PCM_16")
    stages = Stages(level=Level(on=False))
    export(TrackRenderer(open_track(song)), stages, out, Quietly(), encoding=Encoding(depth=depth))  # type: ignore[arg-type]
    before, after = (soundfile.read(path, dtype="int32")[0] for path in (song, out))
    assert np.array_equal(before, after)


def test_a_gain_that_moves_a_tail_below_the_gate_is_allowed_for() -> None:
    tone = np.concatenate(
        (sine(440, 5.0, level=0.25), np.geomspace(0.25, 1e-4, RATE * 6) * sine(440, 6.0, level=1.0)), axis=1
    )
    sound = tone.astype(np.float32)
    for target in (-40.0, -20.0):
        plan = solve_level(sound, facts_of(sound, RATE), Level(target_lufs=target), Quietly()).plan
        finished = np.concatenate(list(levelled(sound, plan, RATE)), axis=1)
        assert facts_of(finished, RATE).loudness.integrated_lufs == pytest.approx(target, abs=0.005)

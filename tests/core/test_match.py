"""Matching a version's tone to a reference's: measured, limited, level, and in preview as in the file."""

from pathlib import Path

import numpy as np
import pytest
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.analysis.tone import CENTRES, Spectrum, decibels_of, edges_of, spectrum_of
from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.filters.cascade import FilterCascade, bell, high_pass, low_pass
from latespin.errors import Unusable
from latespin.jobs import Quietly
from latespin.media.track import Track
from latespin.model.documents.documents import Session, read_session, to_json
from latespin.model.tone_match import Match, Tone, averaged, powers_of, tone_of, tone_warnings
from latespin.model.version import Level, Stages, Version
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.measure import measure, solve
from latespin.render.mastering.tone_match import match_gains, width_change_db
from latespin.render.playback.programme import PlaybackRequest
from tests.conftest import level_db, noise, sine, track_of

RATE = 44_100
BELLS = ((80.0, 8.0), (300.0, -8.0), (1000.0, 8.0), (3500.0, -8.0), (10_000.0, 8.0))
FULL = Match(amount_percent=100.0, smoothing_octaves=1 / 12, boost_db=12.0, cut_db=12.0, sides="match")


def tone(sound: Audio) -> Tone:
    """The tone of a sound."""
    return tone_of(spectrum_of(sound, RATE), "Reference")


def finished(sound: Audio, match: Match, level: Level | None = None) -> Audio:
    """A sound through a version that does nothing but match."""
    stages = Stages(level=replace(level or Level(target_lufs=None, ceiling_dbtp=0.0), match=match))
    return np.concatenate(list(solve(TrackRenderer(track_of(sound)), stages, Quietly()).blocks()), axis=1)


def apart(sound: Audio, reference: Tone, low: float, high: float) -> tuple[Floats, Floats]:
    """How far thirds of an octave of middle and sides are from a reference's, dB, apart from the level."""
    found, inside = spectrum_of(sound, RATE), (low < CENTRES) & (high > CENTRES)
    rows = []
    for have, wanted in zip((found.mid, found.side), powers_of(reference), strict=True):
        have, wanted = (np.convolve(power, np.ones(4), "same") for power in (have, wanted))
        difference = (decibels_of(have) - decibels_of(wanted))[inside]
        rows.append(difference - np.median(difference))
    return rows[0], rows[1]


@pytest.mark.parametrize("phase", ["linear", "minimum"])
def test_a_song_filtered_by_a_known_curve_gets_its_tone_back(lantern: Track, phase: str) -> None:
    wanted = tone(lantern.sound)
    dull = FilterCascade([bell(hz, gain, 1.0, RATE) for hz, gain in BELLS]).process(lantern.sound) * np.float32(0.4)
    out = finished(dull, replace(FULL, reference=wanted, phase=phase))  # type: ignore[arg-type]
    assert out.shape == dull.shape
    for difference in apart(out, wanted, 45.0, 15_000.0):
        assert np.abs(difference).max() < 1.0
    lufs = [facts_of(sound, RATE).loudness.integrated_lufs for sound in (dull, out)]
    assert lufs[0] == pytest.approx(lufs[1], abs=0.05)
    half = finished(dull, replace(FULL, reference=wanted, amount_percent=50.0))
    worst = np.abs(apart(half, wanted, 45.0, 15_000.0)[0]).max()
    assert 3.0 < worst < 5.5


def test_nothing_is_raised_where_the_song_has_nothing() -> None:
    """A song cut at 9 kHz towards a full one: above it stays as it is, below it rises."""
    full = noise(12.0)
    cut = FilterCascade(
        [*low_pass(9_000.0, RATE, 48), *low_pass(9_000.0, RATE, 48), bell(4_000.0, -6.0, 1.0, RATE)]
    ).process(full)
    mid, side = match_gains(spectrum_of(cut, RATE), replace(FULL, reference=tone(full), high_hz=20_000.0), RATE)
    top = CENTRES > 15_000.0
    assert max(mid[top].max(), side[top].max()) < 0.5
    assert mid[np.argmin(np.abs(CENTRES - 4_000.0))] - mid[np.argmin(np.abs(CENTRES - 1_000.0))] > 4.0


def test_boost_cut_and_frequencies_keep_to_their_limits() -> None:
    flat = noise(12.0)
    far = FilterCascade(
        [bell(200.0, 15.0, 1.0, RATE), bell(2_000.0, -15.0, 1.0, RATE), *high_pass(60.0, RATE, 24)]
    ).process(flat)
    match = replace(FULL, reference=tone(far), boost_db=4.0, cut_db=5.0, low_hz=150.0, high_hz=6_000.0)
    mid, _ = match_gains(spectrum_of(flat, RATE), match, RATE)
    outside = (CENTRES < 100.0) | (CENTRES > 9_000.0)
    assert np.ptp(mid[outside]) < 1e-6
    assert mid.max() - mid[outside][0] == pytest.approx(4.0, abs=0.05)
    assert mid.min() - mid[outside][0] == pytest.approx(-5.0, abs=0.05)


def test_an_old_reference_does_not_silence_the_sides_unless_asked_to() -> None:
    wide, rng = noise(12.0), np.random.default_rng(5)
    mono = np.tile(0.2 * rng.standard_normal(12 * RATE), (2, 1)).astype(np.float32)
    mono += (0.002 * rng.standard_normal(mono.shape)).astype(np.float32)
    reference = tone(mono)
    assert "practically mono" in tone_warnings(reference)[0]
    assert tone_warnings(tone(wide)) == ()

    def sides_less(**how: object) -> float:
        mid, side = match_gains(spectrum_of(wide, RATE), replace(FULL, reference=reference, **how), RATE)
        return float(np.median((mid - side)[(CENTRES > 100.0) & (CENTRES < 10_000.0)]))

    assert sides_less(sides="match", cut_db=18.0) > 12.0
    narrow = np.stack((0.5 * wide[0] + 0.5 * wide[1], 0.5 * wide[0] + 0.5 * wide[1])) + 0.25 * (wide - wide[::-1]) / 2.0
    towards = replace(FULL, reference=tone(narrow.astype(np.float32)), sides="match", cut_db=18.0)
    assert tone_warnings(towards.reference) == (), "12 dB below the middle is not mono"
    matched = finished(wide, towards)
    widths = [level_db(x[:1] - x[1:]) - level_db(x[:1] + x[1:]) for x in (wide, matched)]
    said = width_change_db(spectrum_of(wide, RATE), towards, RATE)
    assert said == pytest.approx(widths[1] - widths[0], abs=1.0), "above its bands the filter leaves the noise alone"
    assert said < -9.0
    assert width_change_db(spectrum_of(wide, RATE), replace(towards, sides="leave"), RATE) == pytest.approx(
        0.0, abs=0.1
    )
    assert sides_less(sides="leave") == pytest.approx(0.0, abs=1e-9)
    assert sides_less(sides="limit", narrowing_db=2.0) == pytest.approx(2.0, abs=0.05)


@pytest.mark.parametrize(
    ("low", "high"), [(20.0, 2_000.0), (20.0, 6_000.0), (20.0, 11_000.0), (150.0, 20_000.0), (400.0, 4_000.0)]
)
def test_the_edges_of_a_band_limited_song_are_found_within_a_tenth_of_an_octave(low: float, high: float) -> None:
    """Of music, whose spectrum falls by itself, through filters as steep as those of codecs."""
    sound = noise(8.0)
    spectrum = np.fft.rfft(sound, axis=1)
    hz = np.fft.rfftfreq(sound.shape[1], 1.0 / RATE)
    spectrum *= 1.0 / np.sqrt(np.maximum(hz, 100.0)) * ((hz >= low) & (hz <= high))
    limited = np.fft.irfft(spectrum, sound.shape[1], axis=1)
    measured = spectrum_of((0.2 * limited / np.abs(limited).max()).astype(np.float32), RATE)
    bottom, top = edges_of(measured.mid + measured.side)
    if high < 20_000.0:
        assert abs(np.log2(top / high)) < 0.1
    if low > 20.0:
        assert abs(np.log2(bottom / low)) < 0.1


def test_an_average_is_the_mean_in_decibels_at_the_same_loudness_of_those_that_have_something_there() -> None:
    """Two songs, one 12 dB louder and with a bell of +6 dB: the bell is +3; what one lacks above its edge is the other's."""
    plain = noise(8.0, level=0.05)
    coloured = 4.0 * FilterCascade([bell(1_000.0, 6.0, 1.0, RATE)]).process(plain)
    mean, one = averaged([tone(plain), tone(coloured)]), tone(plain)
    difference = np.array(mean.mid_db) - np.array(one.mid_db)
    at = [int(np.argmin(np.abs(CENTRES - hz))) for hz in (1_000.0, 60.0, 12_000.0)]
    shape = difference[at] - difference[at[1]]
    assert shape[0] == pytest.approx(3.0, abs=0.2)
    assert shape[2] == pytest.approx(0.0, abs=0.2)
    dull = FilterCascade([*low_pass(4_000.0, RATE, 48)] * 3).process(plain)
    mixed = averaged([tone(plain), tone(dull)])
    high = CENTRES > 6_000.0
    fall = np.array(mixed.mid_db)[high] - np.array(one.mid_db)[high]
    assert np.ptp(fall) < 0.5, "as in the song that has something there"
    assert averaged([one, one]).title == "Average of 2 songs"
    with pytest.raises(ValueError, match="two tones"):
        averaged([one])


def test_band_limits_short_and_silent_references_are_said() -> None:
    old = FilterCascade(
        [*high_pass(250.0, RATE, 48), *low_pass(5_000.0, RATE, 48), *low_pass(5_000.0, RATE, 48)]
    ).process(noise(8.0))
    said = " ".join(tone_warnings(tone(old)))
    assert "nothing above" in said
    assert "nothing below" in said
    with pytest.raises(Unusable, match="too little"):
        spectrum_of(noise(2.0), RATE)
    with pytest.raises(Unusable, match="silent"):
        spectrum_of(np.zeros((2, 10 * RATE), np.float32), RATE)


def test_a_tone_is_measured_where_the_song_is_full(lantern: Track) -> None:
    """A thin opening has no say, and the same places are found whatever filter the song went through."""
    full, thin = noise(20.0), sine(200.0, 30.0, level=0.3)
    found = spectrum_of(np.concatenate((thin, full), axis=1), RATE)
    assert found.passages[0][0] > 28.0
    filtered = FilterCascade([bell(60.0, 12.0, 0.7, RATE)]).process(lantern.sound)
    places = [
        np.concatenate([np.arange(round(a * 10), round(b * 10)) for a, b in spectrum_of(s, RATE).passages])
        for s in (filtered, lantern.sound)
    ]
    assert len(np.intersect1d(*places)) > 0.9 * len(places[1])


def test_preview_is_the_file_with_a_match_and_a_limiter(lantern: Track) -> None:
    """Both begun at the start and entered in the middle."""
    sound = lantern.sound[:, 30 * RATE : 42 * RATE]
    bright = tone(FilterCascade([bell(5_000.0, 6.0, 0.7, RATE)]).process(sound))
    stages = Stages(level=Level(target_lufs=-9.0, allowance_db=6.0, match=replace(FULL, reference=bright)))
    readers = TrackRenderer(track_of(sound))
    measured, solved = measure(readers, stages, Quietly()), solve(readers, stages, Quietly())
    whole = np.concatenate(list(solved.blocks()), axis=1)
    assert measured.plan == solved.plan
    assert measured.plan.ceiling is not None
    assert facts_of(whole, RATE).loudness.integrated_lufs == pytest.approx(-9.0, abs=0.1)
    stream = PlaybackRequest(readers, "after", stages, measured.plan).open()
    stream.seek(0)
    assert level_db(stream.read(whole.shape[1]) - whole) < -75.0
    stream.seek(5 * RATE)
    assert level_db(stream.read(RATE) - whole[:, 5 * RATE : 6 * RATE]) < -60.0


def test_a_match_and_its_reference_come_back_from_a_session() -> None:
    reference = Tone(
        title="Rink", path="songs/rink.flac", mid_db=(-20.0,) * 120, side_db=(-30.0,) * 120, passages=((1.0, 9.0),)
    )
    version = Version(id="a", name="A", stages=Stages(level=Level(match=Match(reference=reference))))
    session = Session(versions=(version,), chosen="a", references=(reference,))
    assert read_session(to_json(session), "s") == session
    moved = session.with_sounds(lambda path: "/elsewhere/" + path)
    assert moved.references[0].path == "/elsewhere/songs/rink.flac"
    found = moved.versions[0].stages.level.match
    assert found is not None
    assert found.reference == moved.references[0]
    with pytest.raises(ValueError, match="120 bands"):
        Tone(title="x", mid_db=(0.0,), side_db=(0.0,))


def test_gains_leave_the_loudness_as_it_is() -> None:
    have = Spectrum(np.ones(120), 0.5 * np.ones(120), ())
    reference = tone_of(Spectrum(np.linspace(0.1, 4.0, 120), np.linspace(2.0, 0.1, 120), ()), "x")
    mid, side = match_gains(have, replace(FULL, reference=reference), RATE)
    from latespin.dsp.metering.k_weighting import power_response

    weights = power_response(CENTRES, RATE)
    now = np.sum(weights * (have.mid * 10 ** (mid / 10) + have.side * 10 ** (side / 10)))
    assert 10 * np.log10(now / np.sum(weights * (have.mid + have.side))) == pytest.approx(0.0, abs=1e-6)


@pytest.mark.parametrize("level", [0.005, 1.0])
def test_loudnesses_that_cannot_be_asked_for_can_be_kept(level: float, tmp_path: Path) -> None:
    """Far below and above the targets there are: by a match alone, and as loud as before in a format that loses something."""
    sound = np.float32(level) * (sine(997.0, 6.0, level=0.6) + noise(6.0, level=0.03))
    track = track_of(sound)
    before = facts_of(sound, RATE).loudness.integrated_lufs
    assert not -40.0 < before < -5.0
    reference = tone(FilterCascade(low_pass(3_000.0, RATE)).process(noise(6.0)))
    matched = Stages(
        level=Level(target_lufs=None, ceiling_dbtp=0.0, allowance_db=12.0, match=Match(reference=reference))
    )
    kept = measure(TrackRenderer(track), matched, Quietly()).facts.loudness.integrated_lufs
    assert kept == pytest.approx(before, abs=0.1)
    as_before = Stages(level=Level(as_before=True, ceiling_dbtp=0.0, allowance_db=12.0))
    result = export(TrackRenderer(track), as_before, tmp_path / "kept.ogg", Quietly())
    assert result.facts.loudness.integrated_lufs == pytest.approx(before, abs=0.1) or result.plan.note
    assert result.facts.true_peak_dbtp < 0.05

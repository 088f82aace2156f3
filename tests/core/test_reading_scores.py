"""Pieces for fitting the reading: what is known of them is true of their notes."""

import io
import json
import sys
from pathlib import Path

import mido
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

sys.path.insert(0, str(Path(__file__).resolve().parents[2] / "tools"))

import make_reading_corpus
import reading_scores
from accompanied_scores import lumps, notated, sequenced
from drawn_scores import KINDS, drawn_style
from reading_scores import FIRST_HALF, SECOND_HALF, Score, composed, in_bar

STYLES = {**FIRST_HALF, **SECOND_HALF}


def test_the_halves_share_no_style_and_both_have_all_kinds() -> None:
    """Triple and odd metres, parts of three, swing, no drums and tempo jumps are in either half."""
    assert not FIRST_HALF.keys() & SECOND_HALF.keys()
    for half in (FIRST_HALF, SECOND_HALF):
        styles = half.values()
        assert {2, 3, 4, 5, 7} <= {style.beats for style in styles}
        assert any(style.parts == 3 for style in styles)
        assert any(style.swing[1] > 0.6 for style in styles)
        assert sum(not style.drums for style in styles) >= 3
        assert any(style.jump for style in styles)


@pytest.mark.parametrize("name", STYLES)
def test_a_piece_keeps_to_its_style_and_its_truth_is_that_of_its_notes(name: str) -> None:
    style, score = STYLES[name], composed(name, STYLES[name], 4)
    periods = np.diff(score.times)
    assert (periods > 0.0).all()
    assert 0.6 * style.bpm[0] < 60.0 / np.median(periods) < 1.6 * style.bpm[1]
    assert np.isin(score.downbeats, score.beats).all()
    assert np.allclose(np.diff(np.flatnonzero(np.isin(score.beats, score.downbeats))), style.beats)
    starts = [beat for _, beat in score.sections]
    assert starts[0] == score.first_downbeat
    assert all((beat - score.first_downbeat) % style.beats == 0 for beat in starts)
    on_beats = {round(event.at) for event in score.events if abs(event.at - round(event.at)) < 0.1}
    assert len(on_beats) > 0.8 * len(score.beats)
    assert max(event.at for event in score.events) < len(score.times)
    drums = {event.number for event in score.events if event.channel == 9}
    assert bool(drums) == bool(style.drums)
    tonic, mode = score.key.split()
    scale = reading_scores.MAJOR if mode == "major" else reading_scores.MINOR
    own = {(int(tonic) + step) % 12 for step in scale}
    chords = [event.number % 12 for event in score.events if event.channel in (0, 1, 3)]
    assert np.mean([note in own for note in chords]) > 0.6  # the last part may be a tone higher
    assert composed(name, style, 4).events == score.events
    assert composed(name, style, 5).events != score.events


@pytest.mark.parametrize("kind", KINDS)
def test_drawn_styles_differ_and_their_notes_keep_to_the_grid_they_are_drawn_on(kind: str) -> None:
    """Tempo and metre are those of the kind; riffs and drums come round after the bar or two they are drawn for."""
    source, drawn = KINDS[kind], [drawn_style(kind, seed) for seed in range(6)]
    assert drawn_style(kind, 3) == drawn[3]
    assert len({style.bpm for style in drawn}) == 6
    assert len({style.comp for style in drawn}) == 6
    for seed, style in enumerate(drawn):
        assert source.bpm[0] <= style.bpm[0] <= source.bpm[1]
        assert style.beats in source.metres
        steps = {1.0 / step for step in (*source.steps, 2)} | {1.0 / style.parts}
        for way in (*style.comp, *style.bass):
            places = [] if isinstance(way, str) else [at for at, *_ in way]
            assert places == sorted(set(places))
            assert all(any(abs(at / step - round(at / step)) < 1e-3 for step in steps) for at in places)
            assert all(0.0 <= at < 2 * style.beats for at in places)
        for pattern in style.drums:
            hit = [set(places) for places in pattern.values()]
            assert all(places and max(places) < 2 * style.beats for places in hit)
        score = composed(kind, style, seed)
        assert np.allclose(np.diff(np.flatnonzero(np.isin(score.beats, score.downbeats))), style.beats)
        assert any(event.channel == 9 for event in score.events) <= any(style.drums), "a part may have none"


def test_what_is_drawn_for_two_bars_is_played_in_turn() -> None:
    places = ((0.0, 1.0, 0), (3.5, 0.5, 1), (4.0, 1.0, 2), (7.75, 0.25, 3))
    assert in_bar(places, 6, 4) == [(0.0, 1.0, 0), (3.5, 0.5, 1)]
    assert in_bar(places, 7, 4) == [(0.0, 1.0, 2), (3.75, 0.25, 3)]
    assert in_bar(places[:2], 7, 4) == list(places[:2])


@given(swing=st.floats(0.5, 0.7), beat=st.integers(0, 20), part=st.floats(0.0, 0.999))
def test_off_beats_come_where_the_swing_puts_them_and_beats_where_they_are(
    swing: float, beat: int, part: float
) -> None:
    score = Score("a", 4, np.arange(25) * 0.5, swing=swing)
    assert score.seconds_at(float(beat)) == pytest.approx(0.5 * beat)
    assert score.seconds_at(beat + 0.5) == pytest.approx(0.5 * (beat + swing))
    assert score.seconds_at(beat + part) <= score.seconds_at(beat + min(0.9999, part + 1e-4))


def test_midi_has_every_note_at_its_second() -> None:
    score = composed("waltz", STYLES["waltz"], 1)
    song = make_reading_corpus.midi_of(score)
    assert [m.program for m in song.tracks[0] if m.type == "program_change"] == list(score.programs.values())
    seconds, heard = 0.0, []
    for message in song:
        seconds += message.time
        if message.type == "note_on":
            heard.append((message.channel, message.note, seconds))
    wanted = [(e.channel, e.number, score.seconds_at(e.at)) for e in score.events]
    assert len(heard) == len(wanted)
    for (channel, number, at), (its_channel, its_number, its) in zip(sorted(heard), sorted(wanted), strict=True):
        assert (channel, number) == (its_channel, its_number)
        assert at == pytest.approx(its, abs=0.002)
    assert isinstance(song, mido.MidiFile)


def midi_file(
    signature: tuple[int, int], tempi: list[tuple[int, int]], beats: int, *, every: float = 1.0, late: float = 0.0
) -> bytes:
    """A file with notes ``every`` quarter from the one at ``late`` on, and tempo changes at quarters."""
    track = mido.MidiTrack([mido.MetaMessage("time_signature", numerator=signature[0], denominator=signature[1])])
    timed = [(96 * at, mido.MetaMessage("set_tempo", tempo=mido.bpm2tempo(bpm))) for at, bpm in tempi]
    for beat in range(round(beats / every)):
        at = round(96 * (beat * every + late))
        timed += [
            (at, mido.Message("note_on", note=60 + beat % 5, velocity=90)),
            (at + 48, mido.Message("note_on", note=60 + beat % 5, velocity=0)),
        ]
    now = 0
    for at, message in sorted(timed, key=lambda each: each[0]):
        track.append(message.copy(time=at - now))
        now = at
    file = io.BytesIO()
    mido.MidiFile(tracks=[track], ticks_per_beat=96).save(file=file)
    return file.getvalue()


def test_a_sequenced_piece_has_its_beats_where_its_tempo_puts_them() -> None:
    score = sequenced(midi_file((3, 4), [(0, 120), (12, 60)], 30), "a")
    assert score is not None
    assert score.beats_per_bar == 3
    assert np.diff(score.times)[:12] == pytest.approx(0.5)
    assert np.diff(score.times)[12:29] == pytest.approx(1.0)
    assert [event.at for event in score.events][:20] == list(range(20))
    assert all(event.lasts == pytest.approx(0.5) for event in score.events)


def test_six_eight_is_beaten_in_dotted_quarters_and_a_changing_metre_left_out() -> None:
    score = sequenced(midi_file((6, 8), [(0, 90)], 30), "a")
    assert score is not None
    assert score.beats_per_bar == 2
    assert np.diff(score.times) == pytest.approx(1.5 * 60 / 90)
    both = mido.MidiFile(file=io.BytesIO(midi_file((4, 4), [(0, 90)], 8)))
    both.tracks[0].append(mido.MetaMessage("time_signature", numerator=3, denominator=4))
    file = io.BytesIO()
    both.save(file=file)
    assert sequenced(file.getvalue(), "a") is None


def test_beats_of_a_sequenced_piece_are_where_it_was_played() -> None:
    """Half a beat after its grid, bars begin there too; the tempo changes where it did."""
    score = sequenced(midi_file((4, 4), [(0, 120), (12, 60)], 30, late=0.5), "a")
    assert score is not None
    assert score.downbeats[0] == score.beats[1] == pytest.approx(score.seconds_at(score.events[0].at))
    assert [event.at for event in score.events][:20] == list(range(1, 21))
    heard = [score.seconds_at(event.at) for event in score.events]
    assert np.diff(heard)[:11] == pytest.approx(0.5)
    assert heard[12] - heard[11] == pytest.approx(0.75), "half a beat at either tempo"


@pytest.mark.parametrize(("every", "known"), [(1.0, True), (0.5, True), (0.25, True), (3 / 8, False), (5 / 13, False)])
def test_a_piece_played_without_regard_to_its_grid_has_no_known_beats(every: float, known: bool) -> None:
    assert (sequenced(midi_file((4, 4), [(0, 120)], 60, every=every), "a") is not None) == known


def test_the_midi_files_in_a_data_file_are_found_by_name(tmp_path: Path) -> None:
    song, other = midi_file((4, 4), [(0, 120)], 4), b"something else"
    start = 12
    entries = [(start, len(other), b"E1M1"), (start + len(other), len(song), b"D_E1M1")]
    directory = b"".join(
        at.to_bytes(4, "little") + size.to_bytes(4, "little") + name.ljust(8, b"\0") for at, size, name in entries
    )
    table = start + len(other) + len(song)
    path = tmp_path / "a.wad"
    path.write_bytes(b"IWAD" + (2).to_bytes(4, "little") + table.to_bytes(4, "little") + other + song + directory)
    assert lumps(path) == {"D_E1M1": song}


def test_a_tune_is_accompanied_on_its_own_bars(tmp_path: Path) -> None:
    """Its notes are kept, its pick-up comes before the first bar line, and what is added keeps to the beats."""
    events = [[0.0, 1.0, 0, 67], *([1.0 + i, 1.0, 0, 60 + (0, 4, 7, 4, 5, 9)[i % 6]] for i in range(60))]
    piece = {"kind": "tune", "metre": 3, "unit": 1.0, "pick_up": 1.0, "key": "0 major", "events": events}
    path = tmp_path / "a.notes.json"
    path.write_text(json.dumps(piece))
    for seed in range(6):
        score = notated(path, seed)
        assert (score.beats_per_bar, score.first_downbeat, score.key) == (3, 1, "0 major")
        tune = sorted(event.at for event in score.events if event.channel == 0)
        assert len(tune) >= 58
        assert np.abs(np.array(tune) - np.round(tune)).max() < 0.15
        chords = [event for event in score.events if event.channel == 5]
        assert all(event.at >= 1.0 for event in chords)
        assert {event.number % 12 for event in chords} <= {0, 2, 4, 5, 7, 9, 11}

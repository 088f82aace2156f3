"""Pieces for fitting the reading: what is known of them is true of their notes."""

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
from reading_scores import FIRST_HALF, SECOND_HALF, Score, composed

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

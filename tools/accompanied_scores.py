"""Notated pieces and MIDI files of others made into scores with known beats: single tunes get chords, bass and drums; development only."""

import io
import json
from pathlib import Path

import mido
import numpy as np

import reading_scores as styles
from reading_scores import Event, Score

PERCUSSION = {
    2: ({styles.KICK: (0,), styles.SNARE: (1,), styles.CLOSED: (0, 0.5, 1, 1.5)}, {styles.KICK: (0, 1), styles.SIDE: (0.5, 1.5)}, {styles.TAMB: (0, 0.5, 1, 1.5), styles.LOW_TOM: (0,)}),
    3: ({styles.KICK: (0,), styles.SNARE: (1, 2)}, {styles.KICK: (0,), styles.RIDE: (0, 1, 2), styles.SIDE: (2,)}),
    4: ({styles.KICK: (0, 2), styles.SNARE: (1, 3), styles.CLOSED: styles.E4}, {styles.KICK: (0, 2.5), styles.SNARE: (1, 3), styles.RIDE: styles.B4}, {styles.SHAKER: styles.E4, styles.CONGA: (1, 3)}),
}  # fmt: skip
ENSEMBLES = (
    (40, 40, 41, 42, 43),
    (48, 48, 48, 48, 48),
    (19, 19, 19, 19, 19),
    (52, 52, 52, 52, 52),
    (73, 68, 71, 70, 58),
    (0, 0, 0, 0, 0),
    (56, 56, 60, 57, 58),
    (25, 25, 24, 32, 32),
    (11, 4, 4, 32, 32),
)
# A note this near to a beat, in beats, is on it. Some who play do not mind the grid that their notes are written to: their beats hold hardly more
# than the twelfth of the notes that would be there by chance; or half a beat later is where most notes are.
ON_BEAT, LEAST_ON_BEAT, MUCH_MORE = 1 / 24, 0.2, 1.2
USUAL_BPM = {"tune": (84, 190), "chorale": (60, 100), "quartet": (70, 150), "varied": (60, 130)}


def notated(path: Path, seed: int) -> Score:
    """A piece written by ``notated_scores.py``, played by some instruments at some tempo."""
    piece = json.loads(path.read_text())
    draw = np.random.default_rng([seed, sum(map(ord, path.name))])
    metre, compound = piece["metre"], piece["unit"] == 1.5
    low, high = USUAL_BPM[piece["kind"]]
    bpm = draw.uniform(low, high) * (0.65 if compound else 1.0)
    pick_up = int(np.ceil(piece["pick_up"] - 1e-6))
    shift = pick_up - piece["pick_up"]
    end = int(max(at + lasts for at, lasts, _, _ in piece["events"]) + shift) + 1
    end = min(end, round(90 * bpm / 60))
    score = Score(piece["kind"], metre, key=piece["key"], first_downbeat=pick_up)
    period = np.full(end + 1, 60.0 / bpm)
    if draw.random() < 0.5:
        stray = np.cumsum(draw.standard_normal(end + 1)) * draw.uniform(0.01, 0.05) / np.sqrt(8.0)
        period *= np.exp(np.clip(stray - np.linspace(0, stray[-1], end + 1), -0.25, 0.25))
    score.times = draw.uniform(0.1, 1.5) + np.concatenate(([0.0], np.cumsum(period[:end])))
    ensemble = ENSEMBLES[draw.integers(len(ENSEMBLES))]
    single = piece["kind"] == "tune"
    score.programs = {channel: int(program) for channel, program in enumerate(ensemble)}
    for at, lasts, channel, number in piece["events"]:
        late = 0.008 * draw.standard_normal() * bpm / 60
        if at + shift < end - 1:
            accent = 8 if (at + shift - pick_up) % metre < 0.01 else 0
            score.events.append(
                Event(max(0.0, at + shift + late), lasts * 0.95, channel, number, int(80 + accent + draw.normal(0, 5)))
            )
    if single and draw.random() < 0.85:
        _accompany(score, piece, shift, end, draw, compound=compound)
    elif not single and metre in PERCUSSION and not compound and draw.random() < 0.25:
        _drum(score, end, draw, compound=compound)
    score.sections = []
    return score


def _accompany(score: Score, piece: dict, shift: float, end: int, draw: np.random.Generator, *, compound: bool) -> None:  # type: ignore[type-arg]
    """Chords that fit the tune best, a bass, and mostly drums."""
    metre, first = score.beats_per_bar, score.first_downbeat
    tonic = int(piece["key"].split()[0]) if piece["key"] else min(n for *_, n in piece["events"]) % 12
    minor = piece["key"].endswith("minor")
    scale = styles.MINOR if minor else styles.MAJOR
    triads = [[(tonic + scale[(d + s) % 7]) % 12 for s in (0, 2, 4)] for d in (0, 3, 4, 5, 1)]
    likes = (0.5, 0.2, 0.2, 0.0, 0.0)
    comp = styles.comp_places(
        str(draw.choice(["held", "beats", "oompah", "broken"] + (["offbeats"] if not compound else []))),
        metre,
        3 if compound else 2,
    )
    bass = styles.bass_places(str(draw.choice(["root", "fifths", "walking"])), metre, 3 if compound else 2)
    score.programs |= {5: int(draw.choice(styles.GUITARS + styles.PIANOS)), 6: int(draw.choice(styles.BASSES))}
    for bar in range((end - first) // metre):
        start = first + bar * metre
        inside = [(lasts, n % 12) for at, lasts, _, n in piece["events"] if start <= at + shift < start + metre]
        fits = [
            sum(lasts for lasts, n in inside if n in triad) + like for triad, like in zip(triads, likes, strict=True)
        ]
        chord = triads[int(np.argmax(fits))]
        for at, lasts, kind in comp:
            for note in chord if kind < 0 else [chord[kind % 3]]:
                score.events.append(Event(start + at, lasts, 5, 55 + (note - 55) % 12, int(66 + draw.normal(0, 4))))
        for at, lasts, step in bass:
            score.events.append(
                Event(start + at, lasts, 6, 36 + (chord[0 if step < 4 else 2] - 36) % 12, int(86 + draw.normal(0, 4)))
            )
    if draw.random() < 0.75:
        _drum(score, end, draw, compound=compound)


def _drum(score: Score, end: int, draw: np.random.Generator, *, compound: bool) -> None:
    patterns = PERCUSSION.get(score.beats_per_bar)
    if patterns is None:
        return
    pattern = patterns[draw.integers(len(patterns))]
    enter = int(draw.choice([0, 0, 0, 8])) * score.beats_per_bar
    for start in range(score.first_downbeat + enter, end - score.beats_per_bar, score.beats_per_bar):
        for drum, places in pattern.items():
            for at in places:
                part = at % 1.0
                place = start + (at if not compound or part == 0.0 else np.floor(at) + 2 / 3)
                score.events.append(Event(float(place), 0.2, 9, drum, int(80 + draw.normal(0, 6))))


def sequenced(data: bytes, name: str) -> Score | None:
    """A MIDI file of somebody's, as far as it has one metre and was played to its grid; beats are its quarters (dotted ones in six-eight)."""
    song = mido.MidiFile(file=io.BytesIO(data))
    signatures, events, programs = set(), [], {}
    tempi = [(0, 500_000)]
    for track in song.tracks:
        now = 0
        held: dict[tuple[int, int], tuple[int, int]] = {}
        for message in track:
            now += message.time
            if message.type == "time_signature":
                signatures.add((message.numerator, message.denominator))
            elif message.type == "set_tempo":
                tempi.append((now, message.tempo))
            elif message.type == "program_change":
                programs.setdefault(message.channel, message.program)
            elif message.type == "note_on" and message.velocity:
                held[message.channel, message.note] = (now, message.velocity)
            elif message.type in ("note_on", "note_off") and (message.channel, message.note) in held:
                start, velocity = held.pop((message.channel, message.note))
                events.append((start, now, message.channel, message.note, velocity))
    if len(signatures) != 1 or not events:
        return None
    numerator, denominator = signatures.pop()
    compound = denominator == 8 and numerator % 3 == 0
    unit = song.ticks_per_beat * 4 // denominator * (3 if compound else 1)
    metre = numerator // 3 if compound else numerator
    late = _lateness(np.array([start for start, *_ in events]) / unit)
    if late is None:
        return None
    later = round(late * unit)
    events = [(start + later, stop + later, *note) for start, stop, *note in events]
    tempi = [(at + later if at else 0, tempo) for at, tempo in tempi]
    last = min(max(stop for _, stop, *_ in events) // unit + 1, 400)
    tempi.sort()
    ticks = np.array([at for at, _ in tempi] + [max((last + 2) * unit, tempi[-1][0] + 1)])
    seconds = np.concatenate(
        ([0.0], np.cumsum(np.diff(ticks) * np.array([tempo for _, tempo in tempi]) / 1e6 / song.ticks_per_beat))
    )
    score = Score(name, metre, first_downbeat=int(late > 0.0))
    score.times = 0.3 + np.interp(np.arange(last + 1) * unit, ticks, seconds)
    keep = score.times < 100.0
    score.times = score.times[keep]
    score.programs = programs
    score.events = [
        Event(start / unit, (stop - start) / unit, channel, note, velocity)
        for start, stop, channel, note, velocity in events
        if start / unit < len(score.times) - 1
    ]
    return score


def _lateness(starts: np.ndarray) -> float | None:
    """How much later than the grid, in beats, a piece was played: 0 or ½; None where its notes know nothing of the grid. starts : of notes, in beats."""
    on, between = (np.mean(np.abs((starts - late + 0.5) % 1.0 - 0.5) <= ON_BEAT) for late in (0.0, 0.5))
    if max(on, between) < LEAST_ON_BEAT:
        return None
    return 0.5 if between > MUCH_MORE * on else 0.0


def lumps(path: Path) -> dict[str, bytes]:
    """The MIDI files inside a game's data file (WAD), by name."""
    data = path.read_bytes()
    count, at = int.from_bytes(data[4:8], "little"), int.from_bytes(data[8:12], "little")
    found = {}
    for i in range(count):
        entry = data[at + 16 * i : at + 16 * i + 16]
        start, size = int.from_bytes(entry[:4], "little"), int.from_bytes(entry[4:8], "little")
        if data[start : start + 4] == b"MThd":
            found[entry[8:].rstrip(b"\0").decode("ascii", "replace")] = data[start : start + size]
    return found

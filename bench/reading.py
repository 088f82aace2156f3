"""How right the reading is, and how quick: on the demo songs, on composed pieces, and on folders of pieces with known beats.

Run ``python bench/reading.py [FOLDER …]``; a folder holds NAME.wav or NAME.flac beside NAME.json with ``beats``, ``downbeats``, perhaps ``key``, ``sections`` and ``style``, as
``tools/make_reading_corpus.py`` makes them. Scores are mir_eval's: F within ±70 ms, AMLt (any metrical level, continuity not needed), weighted key score, borders
within 3 s, V measure of the letters. *Follows*: a piece resampled by −3 and +4 semitones has its key moved likewise, and beats at the same places (F).
"""

import json
import sys
import time
from collections import defaultdict
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import mir_eval
import numpy as np
import soundfile
import soxr

import reading_songs
from latespin.analysis.reading import read_song
from latespin.analysis.results import Reading
from latespin.dsp.arrays import Audio
from latespin.jobs import Quietly

DEMO = Path(__file__).resolve().parent.parent / "demo"
TURNED = (-3, 4)  # semitones
NAMES = ("C", "C#", "D", "Eb", "E", "F", "F#", "G", "Ab", "A", "Bb", "B")


@dataclass(frozen=True)
class Known:
    """A piece and what is right about it."""

    group: str
    name: str
    beats: np.ndarray
    downbeats: np.ndarray
    key: str = ""
    sections: tuple[tuple[float, float], ...] = ()
    letters: tuple[str, ...] = ()
    steady: bool = True
    swing: float | None = None
    drums_enter: float | None = None


def group_of(plan: reading_songs.Plan) -> str:
    """What a composed piece is a trial of."""
    if not plan.drums:
        return "without drums"
    if plan.drift or plan.slowing:
        return "tempo moves"
    if plan.noise_db > -np.inf:
        return "noisy, mono, pick-up"
    return {"four": "swing" if plan.feel == "swing" else "4/4", "three": "3/4", "six": "6/8", "two": "2/4"}[plan.metre]


def piece_of(job: object) -> tuple[Known, Audio, int]:
    """A demo song, a composed piece or a recording."""
    if isinstance(job, dict):
        sound, rate = soundfile.read(DEMO / job["file"], dtype="float32", always_2d=True)
        sections = tuple((part["start"], part["end"]) for part in job["sections"])
        return (
            Known("demo songs", job["title"], np.array(job["beats"]), np.array(job["downbeats"]), job["key"], sections),
            sound.T,
            rate,
        )
    if isinstance(job, Path):
        sound, rate = soundfile.read(job, dtype="float32", always_2d=True)
        truth = json.loads(job.with_suffix(".json").read_text())
        parts = truth.get("sections", [])
        known = Known(
            truth.get("style", job.parent.name), job.stem, np.array(truth["beats"]), np.array(truth["downbeats"]), truth.get("key", ""),
            tuple((part["start"], part["end"]) for part in parts), tuple(part["label"] for part in parts), steady=truth.get("steady", False),
            swing=truth.get("swing"), drums_enter=truth.get("drums_enter"),
        )  # fmt: skip
        return known, sound.T, rate
    piece = reading_songs.Segment(job)  # type: ignore[arg-type]
    plan = piece.plan
    sections = tuple((start, end) for _, start, end in piece.sections)
    letters = tuple(letter for letter, _, _ in piece.sections)
    steady = not (plan.drift or plan.slowing)
    return (
        Known(group_of(plan), f"seed {plan.seed}", piece.beats, piece.downbeats, piece.key, sections, letters, steady),
        piece.sound,
        reading_songs.RATE,
    )


def scored(job: object) -> tuple[Known, dict[str, float]]:
    """The scores of one piece."""
    known, sound, rate = piece_of(job)
    started = time.process_time()
    reading = read_song(sound, rate, Quietly())
    took = time.process_time() - started
    found: dict[str, float] = {"s / 4 min": took * 240.0 / (sound.shape[1] / rate)}
    end = known.beats[-1] + 0.1
    beats = np.array(reading.beats.times if reading.beats else ())
    down = np.array(reading.beats.downbeats if reading.beats else ())
    right, right_down = (mir_eval.beat.trim_beats(part) for part in (known.beats, known.downbeats))
    beats, down = (mir_eval.beat.trim_beats(part[part < end]) for part in (beats, down))
    found["beats F"] = mir_eval.beat.f_measure(right, beats)
    found["AMLt"] = mir_eval.beat.continuity(right, beats)[3]
    found["downbeats F"] = mir_eval.beat.f_measure(right_down, down)
    bpm = 60.0 / np.mean(np.diff(known.beats))
    if reading.beats is not None:
        found["octave"] = float(abs(np.log(reading.beats.bpm / bpm)) < 0.04)
        if known.steady:
            levels = np.array([1 / 3, 1 / 2, 2 / 3, 1, 3 / 2, 2, 3])
            found["BPM error %"] = float(np.min(np.abs(reading.beats.bpm / (bpm * levels) - 1.0)) * 100.0)
    if known.key:
        guess = f"{NAMES[reading.keys[0].tonic]} {reading.keys[0].mode}" if reading.keys else "X"
        found["key"] = mir_eval.key.evaluate(ascii_key(known.key), guess)["Weighted Score"]
        found["key exact"] = float(found["key"] == 1.0)
    if known.sections and reading.sections:
        found |= section_scores(known, reading)
    found |= rhythm_scores(known, reading) | following(sound, rate, reading)
    return known, found


def section_scores(known: Known, reading: Reading) -> dict[str, float]:
    """How right borders and letters are."""
    right, names = mir_eval.util.adjust_intervals(np.array(known.sections), list(known.letters) or None, t_min=0.0)
    parts, letters = mir_eval.util.adjust_intervals(
        np.array([(s.start, s.end) for s in reading.sections]),
        [s.label for s in reading.sections],
        t_min=0.0,
        t_max=right[-1, 1],
    )
    found = {"borders F": mir_eval.segment.detection(right, parts, window=3.0, trim=True)[2]}
    if known.letters:
        found["letters V"] = mir_eval.segment.vmeasure(right, names, parts, letters)[2]
    return found


def rhythm_scores(known: Known, reading: Reading) -> dict[str, float]:
    """Whether swing is told within 2 % of the beat where it is 55 % or more, and is not told of less than 53; and the bar at which drums enter, within one."""
    found = {}
    if known.swing is not None and reading.beats is not None and not 0.53 <= known.swing < 0.55:
        told = reading.beats.swing
        found["swing"] = float(
            told is None if known.swing < 0.53 else told is not None and abs(told - known.swing) < 0.02
        )
        bar = float(np.median(np.diff(known.downbeats)))
        enters, known_enters = (
            place if place is not None else -9.0 * bar for place in (reading.drums_enter, known.drums_enter)
        )
        found["drums enter"] = float(abs(enters - known_enters) < 1.1 * bar)
    return found


def following(sound: Audio, rate: int, reading: Reading) -> dict[str, float]:
    """Whether key and beats go along when a piece is resampled."""
    keys, beats = [], []
    for semitones in TURNED:
        ratio = 2.0 ** (semitones / 12.0)
        turned = soxr.resample(sound.T, rate * ratio, rate).astype(np.float32)
        other = read_song(np.ascontiguousarray(turned.T), rate, Quietly())
        if reading.keys:
            own, its = reading.keys[0], other.keys[0] if other.keys else None
            keys.append(float(its is not None and its.mode == own.mode and its.tonic == (own.tonic + semitones) % 12))
        if reading.beats:
            there = np.array(other.beats.times) * ratio if other.beats else np.zeros(0)
            beats.append(mir_eval.beat.f_measure(np.array(reading.beats.times), there))
    found = {"key follows": float(np.mean(keys))} if keys else {}
    return found | ({"beats follow F": float(np.mean(beats))} if beats else {})


def ascii_key(key: str) -> str:
    """A key as mir_eval spells it."""
    return key.replace("♯", "#").replace("♭", "b")


def main() -> None:
    """Print a table, a row for each group."""
    arguments = [Path(argument) for argument in sys.argv[1:]]
    own: list[object] = [*json.loads((DEMO / "truth.json").read_text()), *reading_songs.plans()]
    jobs: list[object] = [] if arguments else own
    jobs += [path for folder in arguments for path in sorted(folder.iterdir()) if path.suffix in (".wav", ".flac")]
    groups: dict[str, list[dict[str, float]]] = defaultdict(list)
    with ProcessPoolExecutor() as pool:
        for known, found in pool.map(scored, jobs, chunksize=2):
            for group in (known.group, "all"):
                groups[group].append(found)
            if found["beats F"] < 0.8 or found["downbeats F"] < 0.8:
                print(known.group, known.name, {name: round(value, 2) for name, value in found.items()})
    names = (
        "octave",
        "BPM error %",
        "beats F",
        "AMLt",
        "downbeats F",
        "key",
        "key exact",
        "borders F",
        "letters V",
        "swing",
        "drums enter",
        "key follows",
        "beats follow F",
        "s / 4 min",
    )
    print(f"{'':22} {'n':>4}" + "".join(f"{name:>15}" for name in names))
    for group, rows in groups.items():
        means = [np.mean([row[name] for row in rows if name in row] or [np.nan]) for name in names]
        print(f"{group:22} {len(rows):4}" + "".join(f"{value:15.3f}" for value in means))


if __name__ == "__main__":
    main()

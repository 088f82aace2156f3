"""Fits the weights with which the reading chooses beats and bars, on pieces whose beats are known.

Run ``.venv/bin/python tools/fit_reading.py [FOLDER …]``. Pieces are composed with the bench's instruments, from other
seeds than the bench's; each FOLDER may add recordings with known beats: NAME.wav beside NAME.json with
``{"beats": [seconds, …], "downbeats": [seconds, …]}``. Writes ``src/latespin/analysis/choices.npz``.
"""

import json
import sys
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path

import mir_eval.beat
import numpy as np
import soundfile

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "bench"))

import reading_songs
from latespin.analysis.bars import find_bar_candidates
from latespin.analysis.beats import evidence, find_candidates
from latespin.analysis.candidate_scorer import FARTHEST, WEIGHTS, Choice
from latespin.analysis.pulse import find_pulses, onset_strength
from latespin.analysis.spectra import FPS, find_spectra
from latespin.dsp.arrays import Audio, Floats
from latespin.jobs import Quietly

TARGET = Path(__file__).resolve().parent.parent / "src/latespin/analysis" / WEIGHTS
SEEDS = range(1000, 1260)
RIGHT = 0.85  # F-measure of the best beats from which a piece teaches bars
Described = tuple[Floats, Floats]  # of a piece: candidates [n, k], and how right each is [n]


def main() -> None:
    """Describe every piece, fit, write."""
    jobs: list[object] = [*SEEDS, *(wav for folder in sys.argv[1:] for wav in sorted(Path(folder).glob("*.wav")))]
    with ProcessPoolExecutor() as pool:
        found = list(pool.map(described, jobs, chunksize=4))
    beats = [piece for piece, _ in found if len(piece[0])]
    bars = [piece for _, piece in found if piece is not None]
    print(f"{len(beats)} pieces, the best beats to be had {np.mean([right.max() for _, right in beats]):.3f}")
    weights = {}
    for kind, choice in (("beats", fit(beats, 16, 2e-3, 0.5)), ("bars", fit(bars, 0, 1e-2, 0.0))):
        pieces = beats if kind == "beats" else bars
        print(kind, f"chosen {np.mean([right[np.argmax(choice.scores(x))] for x, right in pieces]):.3f}")
        weights |= {f"{kind}_{name}": np.float32(value) for name, value in vars(choice).items()}
    np.savez_compressed(TARGET, **weights)


def described(job: object) -> tuple[Described, Described | None]:
    """A piece's candidates for beats and, where its beats were found, for bars."""
    sound, rate, beats, downbeats = piece_of(job)
    spectra = find_spectra(sound, rate, Quietly())
    strength, seen = onset_strength(spectra.onsets, spectra.notes), evidence(spectra)
    found = find_candidates(seen, find_pulses(strength))
    end = beats[-1] + 0.1
    right = [agreement(beats, candidate.beats[candidate.beats < end * FPS] / FPS) for candidate in found]
    first = np.array([candidate.described for candidate in found]), np.array(right)
    if not right or max(right) < RIGHT:
        return first, None
    best = found[int(np.argmax(right))].beats
    best = best[(best > (beats[0] - 0.1) * FPS) & (best < end * FPS)]
    bars = find_bar_candidates(seen, best)
    right = [agreement(downbeats, best[bar.first :: bar.metre] / FPS) for bar in bars]
    return first, (np.array([bar.described for bar in bars]), np.array(right))


def piece_of(job: object) -> tuple[Audio, int, Floats, Floats]:
    """Sound, rate, beats and downbeats of a seed's piece or of a recording."""
    if isinstance(job, Path):
        sound, rate = soundfile.read(job, dtype="float32", always_2d=True)
        truth = json.loads(job.with_suffix(".json").read_text())
        return sound.T, rate, np.array(truth["beats"]), np.array(truth["downbeats"])
    piece = reading_songs.Segment(reading_songs.drawn_plan(int(job)))  # type: ignore[call-overload]
    return piece.sound, reading_songs.RATE, piece.beats, piece.downbeats


def agreement(known: Floats, found: Floats) -> float:
    """F-measure (±70 ms) without the first five seconds."""
    return float(mir_eval.beat.f_measure(mir_eval.beat.trim_beats(known), mir_eval.beat.trim_beats(found)))


def fit(
    pieces: list[Described], hidden: int, decay: float, dropout: float, steps: int = 800, rate: float = 0.01
) -> Choice:
    """Weights for the highest expected square of how right the choice is."""
    draw = np.random.default_rng(0)
    joined = np.concatenate([x for x, _ in pieces])
    mean, scale = joined.mean(axis=0), joined.std(axis=0) + 1e-3
    x = np.clip((joined - mean) / scale, -FARTHEST, FARTHEST)
    right = np.concatenate([r for _, r in pieces]) ** 2
    sizes = [len(r) for _, r in pieces]
    starts, of = np.concatenate(([0], np.cumsum(sizes)[:-1])), np.repeat(np.arange(len(pieces)), sizes)
    k = x.shape[1]
    now = [draw.standard_normal((k, hidden)) / np.sqrt(k), np.zeros(hidden),
           draw.standard_normal(hidden) * 0.3 / np.sqrt(max(1, hidden)), np.zeros(k)]  # fmt: skip
    decays = (decay, 0.0, decay, 3.0 * decay)
    first, second = [0.0 * part for part in now], [0.0 * part for part in now]
    for step in range(1, steps + 1):
        seen = x * (draw.random(k) >= dropout) / (1.0 - dropout)
        active = np.tanh(seen @ now[0] + now[1])
        score = active @ now[2] + seen @ now[3]
        likely = np.exp(score - np.maximum.reduceat(score, starts)[of])
        chance = likely / np.add.reduceat(likely, starts)[of]
        expected = np.add.reduceat(chance * right, starts)
        slope = -(chance * (right - expected[of]) / (expected[of] + 0.02)) / len(pieces)
        inner = slope[:, None] * now[2] * (1.0 - active**2)
        slopes = (seen.T @ inner, inner.sum(axis=0), active.T @ slope, seen.T @ slope)
        for i, part in enumerate(slopes):
            part = part + decays[i] * now[i]
            first[i] = 0.9 * first[i] + 0.1 * part
            second[i] = 0.999 * second[i] + 0.001 * part**2
            away = first[i] / (1 - 0.9**step) / (np.sqrt(second[i] / (1 - 0.999**step)) + 1e-8)
            now[i] = now[i] - rate * away
    return Choice(mean, scale, *now)


if __name__ == "__main__":
    main()

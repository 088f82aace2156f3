"""Fits the weights with which the reading chooses beats and bars, on pieces whose beats are known.

Run ``.venv/bin/python tools/fit_reading.py FOLDER …``. Each FOLDER holds recordings with known beats, NAME.wav or NAME.flac beside NAME.json with
``{"beats": [seconds, …], "downbeats": [seconds, …], "style": "waltz"}``, as ``tools/make_reading_corpus.py`` makes them; pieces composed with the bench's instruments, from
other seeds than the bench's, are added. First every quarter of the styles is read with weights fitted on the other three, which gives the figures printed and the
temperature that makes chances true (C. Guo et al., "On calibration of modern neural networks", ICML 2017). Then the weights are fitted on all, and written to
``src/latespin/analysis/rhythm/choices.npz``.
"""

import json
import sys
import zlib
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from pathlib import Path

import mir_eval.beat
import numpy as np
import soundfile
from scipy.optimize import minimize_scalar

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "bench"))

import reading_songs
from latespin.analysis.rhythm.bars import find_bar_candidates
from latespin.analysis.rhythm.beats import evidence, find_candidates
from latespin.analysis.rhythm.candidate_scorer import FARTHEST, WEIGHTS, Choice, chances
from latespin.analysis.rhythm.pulse import find_pulses, onset_strength
from latespin.analysis.spectra import FPS, find_spectra
from latespin.dsp.arrays import Audio, Floats
from latespin.jobs import Quietly

TARGET = Path(__file__).resolve().parent.parent / "src/latespin/analysis/rhythm" / WEIGHTS
SEEDS = range(1000, 1140)
RIGHT = 0.85  # F-measure from which a choice is right
FOLDS, NETWORKS = 4, 3
Described = tuple[Floats, Floats]  # of a piece: candidates [n, k], and how right each is [n]


@dataclass(frozen=True)
class Piece:
    """Candidates for beats and for bars of a piece, the fold it is in, and its style."""

    beats: Described
    bars: Described
    style: str

    @property
    def fold(self) -> int:
        """Pieces of a style are in one fold."""
        return zlib.crc32(self.style.encode()) % FOLDS


def main() -> None:
    """Describe every piece, fit with a quarter left out each time, then on all; write."""
    wavs = [
        path for folder in sys.argv[1:] for path in sorted(Path(folder).iterdir()) if path.suffix in (".wav", ".flac")
    ]
    with ProcessPoolExecutor() as pool:
        pieces = list(pool.map(described, [*SEEDS, *wavs], chunksize=4))
    print(f"{len(pieces)} pieces, the best beats to be had {np.mean([piece.beats[1].max() for piece in pieces]):.3f}")
    weights = {}
    for kind, fitted in (("beats", fit_beats), ("bars", fit_bars)):
        held = []
        for fold in range(FOLDS):
            choice = fitted([getattr(piece, kind) for piece in pieces if piece.fold != fold])
            held += [
                (piece.style, choice.scores(getattr(piece, kind)[0]), getattr(piece, kind)[1])
                for piece in pieces
                if piece.fold == fold
            ]
        temperature = calibrated([(scores, right) for _, scores, right in held])
        report(kind, held, temperature)
        choice = fitted([getattr(piece, kind) for piece in pieces])
        choice = replace(choice, out=choice.out / temperature, straight=choice.straight / temperature)
        weights |= {f"{kind}_{name}": np.float32(value) for name, value in vars(choice).items()}
    np.savez_compressed(TARGET, **weights)


def report(kind: str, held: list[tuple[str, Floats, Floats]], temperature: float) -> None:
    """How right the choice is by style, with weights fitted on other styles; and how often it is right when it says so."""
    styles = sorted({style for style, *_ in held})
    chosen = [(style, right[np.argmax(scores)], chances(scores / temperature).max()) for style, scores, right in held]
    print(f"{kind}: chosen {np.mean([right for _, right, _ in chosen]):.3f}, temperature {temperature:.2f}")
    for style in styles:
        print(f"  {style:16} {np.mean([right for own, right, _ in chosen if own == style]):.3f}")
    for low in (0.0, 0.4, 0.6, 0.8, 0.9):
        high = {0.0: 0.4, 0.4: 0.6, 0.6: 0.8, 0.8: 0.9, 0.9: 1.01}[low]
        there = [(sure, right >= RIGHT) for _, right, sure in chosen if low <= sure < high]
        if there:
            print(
                f"  sure {low:.1f} to {high:.1f}: {len(there):4} pieces, said {np.mean([s for s, _ in there]):.2f}, right {np.mean([r for _, r in there]):.2f}"
            )


def calibrated(held: list[Described]) -> float:
    """The temperature by which scores have to be divided for the chances of the choices to be as often right as they say."""
    chosen = [(scores - scores.max(), right[np.argmax(scores)] >= RIGHT, right >= RIGHT) for scores, right in held]

    def loss(log_temperature: float) -> float:
        total = 0.0
        for scores, _, right in chosen:
            likely = np.exp(scores / np.exp(log_temperature))
            total -= np.log(1e-6 + likely[right].sum() / likely.sum()) if right.any() else 0.0
        return float(total)

    return float(np.exp(minimize_scalar(loss, bounds=(-3.0, 3.0), method="bounded").x))


def fit_beats(pieces: list[Described]) -> Choice:
    """Some networks, their scores averaged: as one that is as wide as all of them."""
    each = [fit(pieces, 16, 5e-3, 0.5, seed) for seed in range(NETWORKS)]
    return Choice(
        each[0].mean, each[0].scale, np.concatenate([c.hidden for c in each], axis=1), np.concatenate([c.bias for c in each]),
        np.concatenate([c.out for c in each]) / NETWORKS, np.mean([c.straight for c in each], axis=0),
    )  # fmt: skip


def fit_bars(pieces: list[Described]) -> Choice:
    """A linear model, strongly regularised."""
    return fit(pieces, 0, 1e-2, 0.0, 0)


def described(job: object) -> Piece:
    """A piece's candidates: for beats as they are found, for bars by its true beats."""
    sound, rate, beats, downbeats, style = piece_of(job)
    spectra = find_spectra(sound, rate, Quietly())
    strength, seen = onset_strength(spectra.onsets, spectra.notes), evidence(spectra)
    found = find_candidates(seen, find_pulses(strength))
    end = beats[-1] + 0.1
    right = [agreement(beats, candidate.beats[candidate.beats < end * FPS] / FPS) for candidate in found]
    bars = find_bar_candidates(seen, beats[beats * FPS < seen.shape[1] - 1] * FPS)
    right_bars = [agreement(downbeats, beats[bar.first :: bar.metre]) for bar in bars]
    return Piece(
        (np.array([candidate.described for candidate in found]), np.array(right)),
        (np.array([bar.described for bar in bars]), np.array(right_bars)),
        style,
    )


def piece_of(job: object) -> tuple[Audio, int, Floats, Floats, str]:
    """Sound, rate, beats, downbeats and style of a seed's piece or of a recording."""
    if isinstance(job, Path):
        sound, rate = soundfile.read(job, dtype="float32", always_2d=True)
        truth = json.loads(job.with_suffix(".json").read_text())
        return sound.T, rate, np.array(truth["beats"]), np.array(truth["downbeats"]), truth.get("style", "")
    piece = reading_songs.Segment(reading_songs.drawn_plan(int(job)))  # type: ignore[call-overload]
    return piece.sound, reading_songs.RATE, piece.beats, piece.downbeats, f"own {piece.plan.metre}"


def agreement(known: Floats, found: Floats) -> float:
    """F-measure (±70 ms) without the first five seconds."""
    return float(mir_eval.beat.f_measure(*(mir_eval.beat.trim_beats(beats) for beats in (known, found))))


def fit(
    pieces: list[Described], hidden: int, decay: float, dropout: float, seed: int, steps: int = 800, rate: float = 0.01
) -> Choice:
    """Weights for the highest expected square of how right the choice is."""
    draw = np.random.default_rng(seed)
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

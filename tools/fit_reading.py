"""Fits the weights with which the reading chooses beats and bars, on pieces whose beats are known.

Run ``.venv/bin/python tools/fit_reading.py FOLDER …``. Each FOLDER holds recordings with known beats, NAME.wav or NAME.flac beside NAME.json with
``{"beats": [seconds, …], "downbeats": [seconds, …], "style": "waltz"}``, as ``tools/make_reading_corpus.py`` makes them; pieces composed with the bench's instruments, from
other seeds than the bench's, are added, and sounds without a beat, by which *presence* learns when none of the candidates is right (among them, the choice itself is learnt less well). First every quarter of the styles is read with weights fitted on the other three, which gives the figures printed and the
temperature that makes chances true (C. Guo et al., "On calibration of modern neural networks", ICML 2017). Then the weights are fitted on all, and written to
``src/latespin/analysis/rhythm/choices.npz``.
"""

import json
import sys
import zlib
from collections import Counter
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from itertools import pairwise
from pathlib import Path

import mir_eval.beat
import numpy as np
import soundfile
from scipy.optimize import minimize_scalar

sys.path.insert(0, str(Path(__file__).resolve().parent.parent / "bench"))

import reading_songs
from beatless_sounds import RATE as BEATLESS_RATE
from beatless_sounds import beatless
from latespin.analysis.rhythm.bars import find_bar_candidates
from latespin.analysis.rhythm.beats import Candidate, are_alike, evidence, find_candidates
from latespin.analysis.rhythm.candidate_scorer import FARTHEST, NO_BEAT, WEIGHTS, Choice, chances
from latespin.analysis.rhythm.pulse import find_pulses, onset_strength
from latespin.analysis.spectra import FPS, find_spectra
from latespin.dsp.arrays import Audio, Floats
from latespin.jobs import Quietly

TARGET = Path(__file__).resolve().parent.parent / "src/latespin/analysis/rhythm" / WEIGHTS
SEEDS = range(1000, 1140)
BEATLESS_SEEDS = range(140)
BEATLESS = "no beat"
OTHERS = "each its own style"
SEQUENCED = "sequenced"  # the folder of pieces that others sequenced
SEQUENCED_WEIGHT = 4  # of each; their rhythms come from people, not from our generators
RIGHT = 0.85  # F-measure from which a choice is right
FOLDS, NETWORKS = 4, 6
NETWORK = 16, 5e-3, 0.3  # hidden units, decay of the weights, share of the inputs left out at a time
EPOCHS, TOGETHER, RATE, LEAST_RATE = 40, 32, 0.01, 1e-4
Described = tuple[
    Floats, Floats
]  # of a piece: candidates [n, k], and how right each is [n]; one more where it may be right to choose none


@dataclass(frozen=True)
class Piece:
    """Candidates for beats and for bars of a piece, the fold it is in, and its style."""

    beats: Described
    bars: Described
    style: str
    alike: Floats  # a number for each candidate for beats, the same for those that are heard alike
    weight: int = 1  # in the fits of beats and their presence

    def groups(self, kind: str) -> Floats:
        """A number for each that can be chosen, the same for those that are one choice."""
        return self.alike if kind == "beats" else np.arange(len(getattr(self, kind)[1]))

    @property
    def presence(self) -> Described:
        """The candidates for beats, and none of them: right where the sound has no beat."""
        seen, right = self.beats
        return seen, np.append(right, float(self.style.startswith(BEATLESS)))

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
        silent = [piece for piece in pool.map(described_beatless, BEATLESS_SEEDS, chunksize=4) if len(piece.beats[0])]
        print(
            f"{len(pieces)} pieces, the best beats to be had {np.mean([piece.beats[1].max() for piece in pieces]):.3f}"
        )
        weights = {}
        for kind, fitted in (("beats", fit_beats), ("presence", fit_beats), ("bars", fit_bars)):
            known = [*pieces, *silent] if kind == "presence" else pieces
            *without, choice = pool.map(fitted, [weighted(kind, known, fold) for fold in (*range(FOLDS), None)])
            held = [
                Held(piece.style, *scored(without[piece.fold], getattr(piece, kind)), piece.groups(kind))
                for piece in known
            ]
            temperature = calibrated(held)
            report(kind, held, temperature)
            choice = replace(choice, out=choice.out / temperature, straight=choice.straight / temperature)
            weights |= {f"{kind}_{name}": np.float32(value) for name, value in vars(choice).items()}
    np.savez_compressed(TARGET, **weights)


def weighted(kind: str, pieces: list[Piece], left_out: int | None) -> list[Described]:
    """The pieces outside a fold, each as often as it weighs. In the fit of bars each counts once, which gives better bars."""
    kept = [piece for piece in pieces if piece.fold != left_out]
    return [getattr(piece, kind) for piece in kept for _ in range(1 if kind == "bars" else piece.weight)]


@dataclass(frozen=True)
class Held:
    """A piece left out of the fit: its style, the scores of all that can be chosen, how right each is, and which are one choice."""

    style: str
    scores: Floats
    right: Floats
    groups: Floats

    @property
    def chosen(self) -> int:
        """The number of what is chosen."""
        return int(np.argmax(self.scores))

    def sure(self, temperature: float) -> float:
        """The chance of what is chosen, and all that is the same choice."""
        return float(chances(self.scores / temperature)[self.groups == self.groups[self.chosen]].sum())


def scored(choice: Choice, described: Described) -> tuple[Floats, Floats]:
    """The scores of all that can be chosen, and how right each is."""
    seen, right = described
    scores = choice.scores(seen)
    return np.append(scores, NO_BEAT) if len(right) > len(scores) else scores, right


def report(kind: str, held: list[Held], temperature: float) -> None:
    """How right the choice is by style, with weights fitted on other styles; and how often it is right when it says so."""
    count = Counter(piece.style for piece in held)
    chosen = [
        (piece.style if count[piece.style] > 1 else OTHERS, piece.right[piece.chosen], piece.sure(temperature))
        for piece in held
    ]
    print(f"{kind}: chosen {np.mean([right for _, right, _ in chosen]):.3f}, temperature {temperature:.2f}")
    for style in sorted({style for style, *_ in chosen}):
        print(f"  {style:16} {np.mean([right for own, right, _ in chosen if own == style]):.3f}")
    for low, high in pairwise((0.0, 0.4, 0.6, 0.8, 0.9, 1.01)):
        there = [(sure, right >= RIGHT) for _, right, sure in chosen if low <= sure < high]
        if there:
            print(
                f"  sure {low:.1f} to {high:.1f}: {len(there):4} pieces, said {np.mean([s for s, _ in there]):.2f}, right {np.mean([r for _, r in there]):.2f}"
            )


def calibrated(held: list[Held]) -> float:
    """The temperature by which scores have to be divided for the chances of the choices to be as often right as they say."""

    def loss(log_temperature: float) -> float:
        sure = np.clip([piece.sure(float(np.exp(log_temperature))) for piece in held], 1e-6, 1.0 - 1e-6)
        return float(-np.where(right, np.log(sure), np.log(1.0 - sure)).sum())

    right = np.array([piece.right[piece.chosen] >= RIGHT for piece in held])
    return float(np.exp(minimize_scalar(loss, bounds=(-3.0, 3.0), method="bounded").x))


def fit_beats(pieces: list[Described]) -> Choice:
    """Some networks, their scores averaged: as one that is as wide as all of them."""
    each = [fit(pieces, *NETWORK, seed) for seed in range(NETWORKS)]
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
        alike(found),
        SEQUENCED_WEIGHT if isinstance(job, Path) and job.parent.name == SEQUENCED else 1,
    )


def described_beatless(seed: int) -> Piece:
    """The candidates for beats of a sound that has none."""
    kind, sound = beatless(seed)
    spectra = find_spectra(sound[None], BEATLESS_RATE, Quietly())
    seen, strength = evidence(spectra), onset_strength(spectra.onsets, spectra.notes)
    found = [candidate.described for candidate in find_candidates(seen, find_pulses(strength))]
    return Piece(
        (np.array(found), np.zeros(len(found))),
        (np.zeros((0, 0)), np.zeros(0)),
        f"{BEATLESS}: {kind}",
        np.arange(len(found)),
    )


def alike(found: list[Candidate]) -> Floats:
    """A number for each candidate, the same for those that are heard alike."""
    out = np.full(len(found), -1)
    for number, candidate in enumerate(found):
        if out[number] < 0:
            out[[k for k in range(number, len(found)) if out[k] < 0 and are_alike(candidate, found[k])]] = number
    return out


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


def fit(pieces: list[Described], hidden: int, decay: float, dropout: float, seed: int) -> Choice:
    """Weights for the highest expected square of how right the choice is: Adam on a few pieces at a time, its rate falling along a cosine."""
    draw = np.random.default_rng(seed)
    joined = np.concatenate([x for x, _ in pieces])
    mean, scale = joined.mean(axis=0), joined.std(axis=0) + 1e-3
    seen = [np.clip((x - mean) / scale, -FARTHEST, FARTHEST).astype(np.float32) for x, _ in pieces]
    right = [r.astype(np.float32) ** 2 for _, r in pieces]
    k, steps = joined.shape[1], EPOCHS * -(-len(pieces) // TOGETHER)
    now = [draw.standard_normal((k, hidden)) / np.sqrt(k), np.zeros(hidden),
           draw.standard_normal(hidden) * 0.3 / np.sqrt(max(1, hidden)), np.zeros(k)]  # fmt: skip
    decays = (decay, 0.0, decay, 3.0 * decay)
    first, second = [0.0 * part for part in now], [0.0 * part for part in now]
    order = (i for _ in range(EPOCHS) for i in np.array_split(draw.permutation(len(pieces)), steps // EPOCHS))
    for step, chosen in enumerate(order, 1):
        kept = (draw.random(k) >= dropout).astype(np.float32) / np.float32(1.0 - dropout)
        slopes = _slopes(
            [np.float32(part) for part in now], [seen[i] * kept for i in chosen], [right[i] for i in chosen]
        )
        rate = RATE * (0.5 + 0.5 * np.cos(np.pi * step / steps)) + LEAST_RATE
        for i, part in enumerate(slopes):
            part = part + decays[i] * now[i]
            first[i] = 0.9 * first[i] + 0.1 * part
            second[i] = 0.999 * second[i] + 0.001 * part**2
            away = first[i] / (1 - 0.9**step) / (np.sqrt(second[i] / (1 - 0.999**step)) + 1e-8)
            now[i] = now[i] - rate * away
    return Choice(mean, scale, *now)


def _slopes(now: list[Floats], seen: list[Floats], right: list[Floats]) -> tuple[Floats, ...]:
    """The gradient of the logarithm of what is right of the choice on average, over some pieces."""
    x, sizes = np.concatenate(seen), [len(each) for each in seen]
    starts, of = np.concatenate(([0], np.cumsum(sizes)[:-1])), np.repeat(np.arange(len(sizes)), sizes)
    active = np.tanh(x @ now[0] + now[1])
    score = active @ now[2] + x @ now[3]
    none_right = np.array([r[size] if len(r) > size else 0.0 for r, size in zip(right, sizes, strict=True)])
    offered = np.array([len(r) > size for r, size in zip(right, sizes, strict=True)])
    top = np.maximum(np.maximum.reduceat(score, starts), np.where(offered, NO_BEAT, -np.inf))
    likely, none = np.exp(score - top[of]), np.where(offered, np.exp(NO_BEAT - top), 0.0)
    total = np.add.reduceat(likely, starts) + none
    chance, wanted = likely / total[of], np.concatenate([r[:size] for r, size in zip(right, sizes, strict=True)])
    expected = np.add.reduceat(chance * wanted, starts) + none / total * none_right
    slope = -(chance * (wanted - expected[of]) / (expected[of] + 0.02)) / len(sizes)
    inner = slope[:, None] * now[2] * (1.0 - active**2)
    return x.T @ inner, inner.sum(axis=0), active.T @ slope, x.T @ slope


if __name__ == "__main__":
    main()

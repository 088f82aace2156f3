"""Styles whose rhythms nobody wrote down: drums, riffs, ostinati and instruments drawn by chance, so that the reading learns music and not its makers' patterns.

Development only; ``tools/make_reading_corpus.py`` renders pieces of them. Every seed is a style of its own, of one of the ``KINDS``.
"""

from dataclasses import dataclass

import numpy as np

import reading_scores as styles
from reading_scores import Pattern, Place, Style, every

HATS = (
    styles.CLOSED,
    styles.CLOSED,
    styles.OPEN,
    styles.RIDE,
    styles.BELL,
    styles.PEDAL,
    styles.SHAKER,
    styles.TAMB,
    styles.CRASH,
)
SKINS = (
    styles.LOW_TOM,
    styles.MID_TOM,
    styles.HIGH_TOM,
    styles.HIGH_CONGA,
    styles.CONGA,
    styles.CLAVES,
    styles.COWBELL,
)
FASTEST_HALF = 110.0  # BPM from which half time is heard as half the tempo
DISTORTED, ORCHESTRAL, MALLETS = (29, 30, 27, 28), (44, 45, 48, 49, 60, 61), (9, 11, 12, 13, 46, 108)


@dataclass(frozen=True)
class Kind:
    """What is drawn from: tempi, chance of a kit, ways of the backbeat, finest steps to a beat, instruments, and how often a step is played."""

    bpm: tuple[float, float]
    kit: float
    feels: tuple[str, ...]
    steps: tuple[int, ...]
    chords: tuple[int, ...]
    basses: tuple[int, ...]
    leads: tuple[int, ...]
    dense: tuple[float, float]
    metres: tuple[int, ...] = (4,)
    parts: int = 2
    swing: tuple[float, float] = (0.5, 0.5)
    unison: float = 0.2
    loose: float = 0.006
    drift: float = 0.0
    low: bool = False


KINDS = {
    "drawn-metal": Kind((92, 200), 1.0, ("back", "half", "double", "skank", "blast"), (2, 4, 4), DISTORTED, (33, 34), (29, 30, 81, 48), (0.4, 0.95), unison=0.8, low=True),
    "drawn-rock": Kind((70, 160), 0.95, ("back", "back", "half", "late"), (2, 2, 4), styles.GUITARS + DISTORTED + (16, 0), (33, 34, 32), styles.LEADS, (0.3, 0.8), unison=0.4),
    "drawn-electronic": Kind((84, 180), 0.9, ("floor", "back", "half", "broken"), (2, 4, 4), (4, 62, 63, 81, 88, 90, 80, 87), styles.SYNTH_BASSES, (80, 81, 87, 53), (0.3, 1.0), loose=0.0),
    "drawn-groove": Kind((72, 130), 1.0, ("back", "back", "broken", "late", "half"), (4,), styles.PIANOS + styles.GUITARS + (16, 17), styles.BASSES, styles.LEADS + styles.WINDS, (0.25, 0.6), swing=(0.5, 0.6), unison=0.3),
    "drawn-shuffle": Kind((66, 176), 0.9, ("back", "back", "half"), (2,), styles.PIANOS + styles.GUITARS + (16, 29), (32, 33, 34), styles.LEADS + styles.WINDS, (0.4, 0.9), swing=(0.58, 0.68), loose=0.009),
    "drawn-skins": Kind((70, 150), 1.0, ("skins",), (2, 4), styles.GUITARS + MALLETS + (48,), styles.BASSES, styles.WINDS + MALLETS, (0.25, 0.7)),
    "drawn-triplets": Kind((50, 130), 0.7, ("back", "half", "none"), (3,), styles.PIANOS + styles.GUITARS + styles.STRINGS, styles.BASSES, styles.WINDS + styles.LEADS, (0.4, 1.0), metres=(2, 4, 4, 3), parts=3),
    "drawn-orchestra": Kind((66, 168), 0.3, ("march", "skins", "none"), (1, 2, 2, 4), ORCHESTRAL + styles.STRINGS, (43, 42, 58, 47), styles.BRASS + styles.WINDS + (40,), (0.4, 1.0), metres=(4, 4, 4, 3), loose=0.012, drift=0.02),
    "drawn-ostinato": Kind((56, 150), 0.15, ("none", "half"), (2, 2, 4), styles.PLUCKS + styles.PIANOS + MALLETS + styles.PADS, (32, 39, 43, 89), styles.PADS + styles.WINDS, (0.6, 1.0), metres=(4, 4, 3), loose=0.004),
    "drawn-slow": Kind((48, 88), 0.5, ("half", "back", "late"), (1, 2, 2), styles.PADS + styles.PIANOS + styles.STRINGS, (32, 35, 39, 43), styles.WINDS + styles.PADS, (0.15, 0.5), metres=(4, 4, 3), drift=0.01),
    "drawn-odd": Kind((90, 200), 0.8, ("scattered",), (1, 2, 2), styles.PIANOS + styles.GUITARS + DISTORTED, styles.BASSES, styles.LEADS + styles.WINDS, (0.3, 0.9), metres=(3, 5, 7, 6)),
}  # fmt: skip


def drawn_style(kind: str, seed: int) -> Style:
    """A style of a kind, drawn from a seed."""
    draw, source = np.random.default_rng([seed, sum(map(ord, kind)), 7]), KINDS[kind]
    beats = int(draw.choice(source.metres))
    step = 1.0 / int(draw.choice(source.steps))
    dense = float(draw.uniform(*source.dense))
    riffs = tuple(_riff(draw, beats, step, dense) for _ in range(3))
    together = draw.random() < source.unison
    basses = tuple(
        _line(draw, riff)
        if together
        else _line(draw, _riff(draw, beats, max(step, 0.5) if source.parts == 2 else step, dense * 0.7))
        for riff in riffs
    )
    kit = draw.random() < source.kit
    low, high = np.log(source.bpm)
    bpm = float(np.exp(draw.uniform(low, high)))
    return Style(
        beats, (bpm, bpm), tuple(_drums(draw, source, beats, step, bpm) for _ in range(3)) if kit else (), (*riffs, *(("held",) if draw.random() < 0.4 else ())), basses,
        parts=source.parts, swing=source.swing, chords=source.chords, basses=source.basses, leads=source.leads,
        loose=float(draw.uniform(0.0, 2.0)) * source.loose, drift=source.drift, soft=bool(draw.random() < 0.25),
        bars_a_chord=(0.5, 1.0, 1.0, 2.0, 4.0), voicing=(0, 4, 7) if source.low else (0, 2, 4), around=43 if source.low else 55,
    )  # fmt: skip


def _riff(draw: np.random.Generator, beats: int, step: float, dense: float) -> tuple[Place, ...]:
    """Chords or broken chords over one bar or two: places by chance, likelier on beats, or all of them."""
    bars = int(draw.choice((1, 2)))
    grid = np.array(every(step, beats * bars))
    likely = np.where(grid % beats == 0, 0.95, np.where(grid % 1.0 == 0, dense, dense * draw.uniform(0.3, 1.0)))
    places = grid if draw.random() < 0.3 else grid[draw.random(len(grid)) < likely]
    if not len(places):
        places = grid[:1]
    cycle = int(draw.choice((1, 2, 3, 4, 5, 6, 8)))
    notes = draw.integers(0, 6, cycle) if draw.random() < 0.5 else np.full(cycle, -1)
    lasts = np.diff([*places, beats * bars]) * draw.choice((0.4, 0.9))
    return tuple(
        (float(at), float(long), int(notes[i % cycle])) for i, (at, long) in enumerate(zip(places, lasts, strict=True))
    )


def _line(draw: np.random.Generator, riff: tuple[Place, ...]) -> tuple[Place, ...]:
    """A bass at the places of a riff, mostly on the root."""
    return tuple((at, lasts, int(draw.choice((0, 0, 0, 0, 4, 7, 2)))) for at, lasts, _ in riff)


def _drums(draw: np.random.Generator, source: Kind, beats: int, step: float, bpm: float) -> Pattern:
    """A pattern of one bar or two: a backbeat by its feel, kicks and ghost notes by chance, and a hat."""
    feel = str(draw.choice(source.feels))
    feel = "back" if feel == "half" and bpm > FASTEST_HALF else feel
    bars = int(draw.choice((1, 1, 2)))
    long = beats * bars
    grid = np.array(every(min(step, 0.5) if source.parts == 2 else step, long))
    if feel == "none":
        return {}
    if feel == "skins":
        chosen = draw.choice(SKINS, 3, replace=False)
        return {int(drum): _some(draw, grid, beats, 0.6, draw.uniform(0.2, 0.5)) for drum in chosen}
    if feel == "march":
        return {styles.SNARE: _some(draw, grid, beats, 0.9, 0.4), styles.KICK: every(2, long)}
    snares = _backbeat(draw, feel, beats, long, source.parts)
    ghosts = tuple(float(at) for at in grid[draw.random(len(grid)) < draw.choice((0.0, 0.0, 0.08))] if at not in snares)
    kicks = (
        every(1, long)
        if feel == "floor"
        else every(0.25, long)
        if feel in ("double", "blast") and draw.random() < 0.5 and source.parts == 2
        else _some(draw, grid, beats, 0.5, draw.uniform(0.1, 0.35))
    )
    kicks = tuple(at for at in kicks if at not in snares) or (0.0,)
    hat = int(draw.choice(HATS))
    spacing = float(draw.choice((1.0, 1.0 / source.parts, 1.0 / source.parts, step)))
    first = 0.5 if source.parts == 2 and draw.random() < 0.15 else 0.0
    hats = tuple(
        at for at in every(max(spacing, 0.25), long, first) if draw.random() < (1.0 if spacing >= 0.5 else 0.9)
    )
    snare = int(draw.choice((styles.SNARE, styles.SNARE, styles.SIDE, styles.CLAP)))
    return {styles.KICK: kicks, snare: tuple(sorted({*snares, *ghosts})), hat: hats}


def _backbeat(draw: np.random.Generator, feel: str, beats: int, long: int, parts: int) -> tuple[float, ...]:
    """Where the snare is: the other beats, the middle of the bar, every off-beat, or anywhere."""
    if feel == "half":
        return every(beats, long, beats // 2) if beats != 3 else every(3, long, 2)
    if feel in ("skank", "blast", "double"):
        return every(1, long, 0.5) if feel != "double" or draw.random() < 0.5 else every(2, long, 1)
    if feel == "late":
        return every(beats, long, beats - 1)
    if feel == "scattered" or beats in (3, 5, 7):
        chosen = [at for at in range(1, beats) if draw.random() < 0.45] or [beats - 1]
        return tuple(float(bar + at) for bar in range(0, long, beats) for at in chosen)
    if feel == "broken" and parts == 2:
        return tuple(
            float(bar + at)
            for bar in range(0, long, beats)
            for at in sorted({1.0, float(draw.choice((1.75, 2.25, 2.5, 3.0))), float(draw.choice((3.0, 3.5, 3.25)))})
        )
    return every(2, long, 1)


def _some(draw: np.random.Generator, grid: np.ndarray, beats: int, on: float, between: float) -> tuple[float, ...]:
    """Places by chance, the first of a bar nearly always."""
    likely = np.where(grid % beats == 0, 0.93, np.where(grid % 1.0 < 1e-6, on, between))
    return tuple(float(at) for at in grid[draw.random(len(grid)) < likely])

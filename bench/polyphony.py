"""How well the stretch keeps onsets on real polyphony: six pieces made note by note, against themselves at the new tempo.

*Itself* is the piece played twice, with other noise and other phases: what the measure can tell apart at best. ``--character NAME``
for another than the full mix.
"""

from dataclasses import replace

import numpy as np

from latespin.dsp.arrays import Audio
from music import distance
from stretch import RATIOS, stretched
from stretch_onsets import onset_figures
from stretch_pieces import PIECES, SECONDS, Note, rendered

ROWS = ("off, median, ms", "off, 95th percentile, ms", "attack loss, median, dB", "attack loss, 90th percentile, dB", "log-mel distance, dB")  # fmt: skip


def main() -> None:
    print(f"{'length ratio':52}{'itself':>8}" + "".join(f"{r:8}" for r in RATIOS) + f"{'mean':>8}")
    everything = []
    for make in PIECES:
        notes = make()
        source = rendered(notes, 1.0)
        again = rendered([replace(note, seed=note.seed + 1000) for note in notes], 1.0)
        columns = [figures(again, source, notes, 1.0)]
        columns += [figures(stretched(source, r).astype(np.float32), rendered(notes, r), notes, r) for r in RATIOS]
        show(make.__name__, columns)
        everything.append(columns)
    show("mean", list(np.mean(everything, axis=0)))


def show(name: str, columns: list[tuple[float, ...]]) -> None:
    """Print a piece's rows."""
    for row, values in zip(ROWS, zip(*columns, strict=True), strict=True):
        print(f"{name:18}{row:34}" + "".join(f"{v:8.2f}" for v in values) + f"{np.mean(values[1:]):8.2f}", flush=True)


def figures(out: Audio, truth: Audio, notes: list[Note], length_ratio: float) -> tuple[float, ...]:
    """A column of the table."""
    found = onset_figures(out, truth, notes, length_ratio)
    off, lost = np.abs(found.displacement), found.attack_loss
    apart = distance(out, truth, (0.5, SECONDS * length_ratio - 0.5))
    return (
        float(np.median(off)),
        float(np.quantile(off, 0.95)),
        float(np.median(lost)),
        float(np.quantile(lost, 0.9)),
        apart,
    )


if __name__ == "__main__":
    main()

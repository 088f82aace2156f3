"""Notated pieces by many hands, from the corpus inside the ``music21`` package, as notes with known beats; development only.

Run with a Python that has music21: ``python tools/notated_scores.py FOLDER [TUNES]``. Writes NAME.notes.json for
``tools/make_reading_corpus.py``, which accompanies single tunes and renders everything.
"""

import json
import random
import sys
from pathlib import Path

from music21 import converter, corpus, meter

COLLECTIONS = {
    "tune": ("ryansMammoth", 90), "chorale": ("bach", 40), "quartet": ("opus|k1|k4|k8", 40), "varied": ("joplin|schumann|chopin|schubert|weber|beach|johnson|liliuokalani|verdi|cpebach", 20),
}  # fmt: skip
LONGEST_BEATS = 160
BEAT_OF = {
    "2/4": 1.0,
    "3/4": 1.0,
    "4/4": 1.0,
    "2/2": 1.0,
    "3/8": 1.5,
    "6/8": 1.5,
    "9/8": 1.5,
    "12/8": 1.5,
    "5/4": 1.0,
    "3/2": 1.0,
    "6/4": 1.5,
}


def main() -> None:
    """A file for every piece that can be used."""
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    random.seed(1)
    for kind, (where, most) in COLLECTIONS.items():
        names = where.split("|")
        paths = [p for p in corpus.getPaths() if any(p.parent.name.startswith(n) for n in names)]
        random.shuffle(paths)
        done = 0
        for path in paths:
            if done >= most:
                break
            try:
                piece = notes_of(path, kind)
            except Exception as error:  # corpus files fail in many ways; another is taken
                print(path.name, "left out:", error)
                continue
            if piece:
                (folder / f"{kind}-{path.stem}.notes.json").write_text(json.dumps(piece))
                done += 1
        print(kind, done)


def notes_of(path: Path, kind: str) -> dict | None:  # type: ignore[type-arg]
    """Notes in beats, metre, first bar line and key; None where the metre changes or is not usual."""
    score = converter.parse(path)
    if score.__class__.__name__ == "Opus":
        score = score.scores[0]
    parts = list(score.parts)
    if not parts or (kind == "tune" and len(parts) != 1):
        return None
    signatures = {s.ratioString for s in score.recurse().getElementsByClass(meter.TimeSignature)}
    if len(signatures) != 1:
        return None
    signature = signatures.pop()
    unit = BEAT_OF.get(signature)
    if unit is None:
        return None
    top, bottom = map(int, signature.split("/"))
    if kind == "tune":
        score = score.expandRepeats() if hasattr(score, "expandRepeats") else score
        parts = list(score.parts)
    bar_quarters = top * 4 / bottom
    first = parts[0].getElementsByClass("Measure")[0]
    short = first.duration.quarterLength
    pick_up = short if 0 < short < bar_quarters - 1e-6 else 0.0
    events = []
    for channel, part in enumerate(parts[:5]):
        events += [
            (float(note.offset) / unit, float(note.quarterLength) / unit, channel, int(pitch.midi))
            for note in part.flatten().stripTies().notes
            for pitch in note.pitches
        ]
    events = [e for e in events if e[0] < LONGEST_BEATS and e[1] > 0]
    if len(events) < 40:
        return None
    signature_key = score.recurse().getElementsByClass("KeySignature").first()
    lowest = min((e for e in events if e[0] >= max(x[0] for x in events) - 0.01), key=lambda e: e[3])[3] % 12
    key = ""
    if signature_key is not None:
        major = (7 * signature_key.sharps) % 12
        key = f"{major} major" if lowest == major else f"{(major + 9) % 12} minor" if lowest == (major + 9) % 12 else ""
    return {
        "kind": kind, "metre": round(bar_quarters / unit), "unit": unit, "pick_up": pick_up / unit, "key": key, "events": events,
    }  # fmt: skip


if __name__ == "__main__":
    main()

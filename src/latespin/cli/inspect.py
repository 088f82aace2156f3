"""``latespin inspect``: the facts and the reading of a song."""

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from latespin.cli.output import print_facts, say_warnings
from latespin.cli.progress import progress
from latespin.jobs import Share
from latespin.model.values.key_names import key_name

if TYPE_CHECKING:
    from latespin.analysis.results import Reading


@click.command()
@click.argument("song", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print the facts as JSON.")
def inspect(song: Path, as_json: bool) -> None:
    """Print SONG's length, loudness and true peak, all channels measured as they are, and its tempo, bars, key and sections."""
    from latespin.analysis.facts import facts_of
    from latespin.media.storage.analysis_cache import read_track
    from latespin.media.track import open_track

    with progress("Reading", as_json) as work:
        track = open_track(song, Share(work, 0.0, 0.5), fold=False)
        facts = facts_of(track.sound, track.rate)
        reading = read_track(track, Share(work, 0.5, 1.0))
    say_warnings(track.warnings)
    print_facts(
        {
            "file": str(song),
            "title": track.title,
            "duration_s": facts.seconds,
            "frames": facts.frames,
            "sample_rate": facts.rate,
            "channels": facts.channels,
            "integrated_lufs": facts.loudness.integrated_lufs,
            "max_momentary_lufs": facts.loudness.max_momentary_lufs,
            "max_short_term_lufs": facts.loudness.max_short_term_lufs,
            "lra_lu": facts.loudness.range_lu,
            "true_peak_dbtp": facts.true_peak_dbtp,
            "loudest_s": facts.loudest_seconds,
            **_read(reading),
            "sha256": track.sha256,
            "warnings": list(track.warnings),
        },
        as_json,
    )


def _read(reading: "Reading") -> dict[str, Any]:
    """Detected facts as plain values; null if the song has no steady beat or no key."""
    import numpy as np

    from latespin.analysis.rhythm.held_tempi import held_tempi

    beats, key = reading.beats, reading.keys[0] if reading.keys else None
    return {
        "bpm": beats.bpm if beats else None,
        "bpm_confidence": beats.bpm_confidence if beats else 0.0,
        "beats_confidence": beats.confidence if beats else 0.0,
        "other_beats": [
            {"bpm": other.bpm, "metre": other.beats_per_bar, "confidence": other.confidence}
            for other in reading.other_beats
        ],
        "steady": beats.steady if beats else None,
        "tempi": [
            {"start": round(held.start, 3), "bpm": round(held.bpm, 2)}
            for held in (held_tempi(np.array(beats.times)) if beats else ())
        ],
        "swing": beats.swing if beats else None,
        "metre": beats.beats_per_bar if beats else None,
        "beats": list(beats.times) if beats else [],
        "downbeats": list(beats.downbeats) if beats else [],
        "key": key_name(key) if key else None,
        "key_confidence": key.confidence if key else 0.0,
        "tuning_cents": reading.tuning_cents,
        "sections": [
            {"start": part.start, "end": part.end, "label": part.label, "kind": part.kind, "energy": part.energy}
            for part in reading.sections
        ],
        "drums_enter_s": reading.drums_enter,
    }

"""The tags of a finished version: the song's own, and measured facts of the version; nothing is invented."""

from pathlib import Path

from latespin.analysis.facts import Facts
from latespin.analysis.results import Reading
from latespin.media.tags import Tags
from latespin.model.text.describe import shift_semitones, title_suffix
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.key_names import key_name
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.effects.problems import version_problems

GAIN_REFERENCE_LUFS, R128_REFERENCE_LUFS = -18.0, -23.0  # of ReplayGain 2.0, and of RFC 7845 (Opus)
_SHORT_NAMES = str.maketrans({"♯": "#", "♭": "b"})


def version_tags(
    readers: TrackRenderer, stages: Stages, reading: Reading | None, facts: Facts, target: Path, credit: str = ""
) -> Tags:
    """Title with the changes, tempo and key of the version, its ReplayGain, the original artist, and a line of credits."""
    track, grid = readers.track, readers.grid
    suffix = version_words(readers, stages)
    made = track.tags.having(title=f"{track.title} ({suffix})" if suffix else track.title)
    made = made.having(bpm=_bpm(stages, grid), initialkey=_key(stages, reading), credits=credit)
    if suffix:
        artist = track.tags.first("artist")
        made = made.having(version_of=f"{track.title} – {artist}" if artist else track.title)
    return made.having(**_gains(facts, target))


def version_words(readers: TrackRenderer, stages: Stages) -> str:
    """What a title says was done, without what had to be left out."""
    problems = version_problems(stages, readers.arrangement(stages), readers.context(stages))
    return title_suffix(stages, {problem.id for problem in problems if problem.left_out})


def _bpm(stages: Stages, grid: Grid | None) -> str:
    """The tempo as a whole number; empty if it is unsteady or unknown."""
    low, high = stages.time.speeds
    return str(round(grid.bpm * low)) if grid is not None and high - low < 1e-6 else ""


def _key(stages: Stages, reading: Reading | None) -> str:
    """``Am``, ``F#``; none where the pitch moves, or the key is not known."""
    low, high = shift_semitones(stages.time.heard)
    if reading is None or not reading.keys or high - low > 0.05:
        return ""
    tonic, _, mode = key_name(reading.keys[0], round(low + reading.tuning_cents / 100.0)).partition(" ")
    return tonic.translate(_SHORT_NAMES) + ("m" if mode == "minor" else "")


def _gains(facts: Facts, target: Path) -> dict[str, str]:
    """ReplayGain tags of the version; the song's own would be wrong."""
    none = dict.fromkeys(
        ("replaygain_track_gain", "replaygain_track_peak", "replaygain_reference_loudness", "r128_track_gain"), ""
    )
    lufs, peak = facts.loudness.integrated_lufs, facts.true_peak_dbtp
    if lufs == float("-inf"):
        return none
    if target.suffix.lower() == ".opus":
        return {**none, "r128_track_gain": str(round((R128_REFERENCE_LUFS - lufs) * 256))}
    return {
        **none, "replaygain_track_gain": f"{GAIN_REFERENCE_LUFS - lufs:.2f} dB", "replaygain_track_peak": f"{10.0 ** (peak / 20.0):.6f}",
        "replaygain_reference_loudness": f"{GAIN_REFERENCE_LUFS:.2f} LUFS",
    }  # fmt: skip

"""What the limiter leaves behind, how near a match comes, and how lossy files hold their level.

Run ``python bench/level.py``; the demo songs are used, each brought so that its true peak is at the ceiling before more is asked.
"""

import tempfile
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from latespin.analysis.facts import facts_of
from latespin.analysis.tone import CENTRES, decibels_of, spectrum_of
from latespin.demo import demo_folder
from latespin.dsp.arrays import Audio, amplitude
from latespin.dsp.filters.cascade import FilterCascade, bell
from latespin.jobs import Quietly
from latespin.media.track import Track, open_track
from latespin.model.tone_match import Match, powers_of, tone_of
from latespin.model.version import Level, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export.export import export
from latespin.render.mastering.level import LevelPlan, levelled
from latespin.render.mastering.measure import solve

CEILING_DB = -1.0
EXCESSES_DB = (0.3, 0.5, 1.0, 2.0, 5.0)
BELLS = ((80.0, 8.0), (300.0, -8.0), (1000.0, 8.0), (3500.0, -8.0), (10_000.0, 8.0))


def residual_db(made: Audio, wanted: Audio) -> float:
    """What is left of a sound when the scaled original is taken away, against the sound."""
    made, wanted = made.astype(np.float64), wanted.astype(np.float64)
    scale = float(np.sum(made * wanted) / np.sum(wanted**2))
    return 10.0 * float(np.log10(np.mean((made - scale * wanted) ** 2) / np.mean(made**2)))


def limiter(track: Track) -> None:
    """Residual for so much more than fits below the ceiling; and of cutting the peaks off, which nothing that holds them can undercut by much."""
    base = CEILING_DB - facts_of(track.sound, track.rate).true_peak_dbtp
    rows: dict[str, list[str]] = {"limiter": [], "peaks cut off": []}
    for excess in EXCESSES_DB:
        louder = track.sound * np.float32(amplitude(base + excess))
        plan = LevelPlan(base + excess, amplitude(CEILING_DB))
        limited = np.concatenate(list(levelled(track.sound, plan, track.rate)), axis=1)
        cut = np.clip(louder, -amplitude(CEILING_DB), amplitude(CEILING_DB))
        rows["limiter"].append(f"{residual_db(limited, louder):6.1f}")
        rows["peaks cut off"].append(f"{residual_db(cut, louder):6.1f}")
    for name, values in rows.items():
        print(f"  {name:14} {'  '.join(values)} dB at {', '.join(map(str, EXCESSES_DB))} dB too much")


def match(track: Track) -> None:
    """How far a song filtered by known bells is from its own tone after a match, thirds of an octave from 45 Hz to 15 kHz."""
    reference = tone_of(spectrum_of(track.sound, track.rate), track.title)
    bells = [bell(hz, gain, 1.0, track.rate) for hz, gain in BELLS]
    filtered = Track(track.path, FilterCascade(bells).process(track.sound) * np.float32(0.4), track.rate, 2, "")
    full = Match(
        reference=reference, amount_percent=100.0, smoothing_octaves=1 / 12, boost_db=12.0, cut_db=12.0, sides="match"
    )
    inside = (CENTRES > 45.0) & (CENTRES < 15_000.0)
    for phase in ("linear", "minimum"):
        stages = Stages(level=Level(target_lufs=None, ceiling_dbtp=0.0, match=replace(full, phase=phase)))
        found = spectrum_of(solve(TrackRenderer(filtered), stages, Quietly()).sound, track.rate)
        worst = []
        for have, wanted in zip((found.mid, found.side), powers_of(reference), strict=True):
            apart = (
                decibels_of(np.convolve(have, np.ones(4), "same"))
                - decibels_of(np.convolve(wanted, np.ones(4), "same"))
            )[inside]
            worst.append(float(np.abs(apart - np.median(apart)).max()))
        print(f"  match, {phase:8} within {worst[0]:.2f} dB in the middle, {worst[1]:.2f} dB at the sides")


def lossy(track: Track) -> None:
    """Loudness and true peak of decoded files at −9 LUFS, the limiter working."""
    stages = Stages(level=Level(target_lufs=-9.0, allowance_db=6.0))
    with tempfile.TemporaryDirectory() as folder:
        for suffix in (".flac", ".ogg", ".opus", ".mp3"):
            result = export(TrackRenderer(track), stages, Path(folder) / f"a{suffix}", Quietly())
            decoded = open_track(result.target)
            facts = facts_of(decoded.sound, decoded.rate)
            print(
                f"  {suffix:6} {facts.loudness.integrated_lufs:7.2f} LUFS {facts.true_peak_dbtp:6.2f} dBTP in {result.seconds_taken:.1f} s"
            )


def main() -> None:
    """All figures for all demo songs."""
    for path in sorted(demo_folder().glob("*.ogg")):
        track = open_track(path)
        if track.seconds < 60.0:
            continue
        print(f"{track.title}: {facts_of(track.sound, track.rate).loudness.integrated_lufs:.1f} LUFS as it comes")
        limiter(track)
        match(track)
        lossy(track)


if __name__ == "__main__":
    main()

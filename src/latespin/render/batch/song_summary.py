"""A summary of a song for planning: facts, tags, beats and key."""

from dataclasses import dataclass, replace
from pathlib import Path

from latespin.analysis.facts import facts_of
from latespin.analysis.results import Reading, SectionKind
from latespin.jobs import Share, Work
from latespin.media.storage.analysis_cache import read_track
from latespin.media.track import Track
from latespin.model.timing.beat_grid import Grid, grid_of
from latespin.model.timing.positions import Layout, layout_of
from latespin.model.timing.song_sections import Sections, placed


@dataclass(frozen=True)
class SongSummary:
    """Of one song. lufs, true_peak_dbtp : of it as it came.  sections : starts and kinds where they were corrected."""

    path: Path
    sha256: str
    title: str
    artist: str
    album: str
    frames: int
    rate: int
    channels: int
    lufs: float
    true_peak_dbtp: float
    reading: Reading
    grid: Grid | None
    warnings: tuple[str, ...]
    sections: tuple[tuple[float, SectionKind], ...] = ()

    def corrected(self, grid: Grid | None, sections: Sections) -> "SongSummary":
        """The same with beats and sections as they were corrected in a session; none where they were not."""
        return replace(self, grid=grid or self.grid, sections=placed(sections, grid))

    @property
    def layout(self) -> Layout:
        """The layout of the song."""
        return layout_of(self.frames, self.rate, self.grid, self.reading, self.sections)


def survey(track: Track, work: Work, grid: Grid | None = None) -> SongSummary:
    """Look at an opened song. grid : in place of the one that is read. Raises Cancelled."""
    facts = facts_of(track.sound, track.rate)
    reading = read_track(track, Share(work, 0.2, 1.0))
    return SongSummary(
        track.path, track.sha256, track.title, track.tags.first("artist"), track.tags.first("album"), track.frames,
        track.rate, int(track.sound.shape[0]), facts.loudness.integrated_lufs, facts.true_peak_dbtp, reading,
        grid or grid_of(reading), track.warnings,
    )  # fmt: skip

"""The document: the session being worked on, its undo, the decoded track, and what has been measured of it."""

import dataclasses
import math
import uuid
from collections import OrderedDict
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal

from latespin.demo import demo_session
from latespin.desktop.session.loading import FoundSession, LoadedTrack, digest_of, find_session, load_track, song_path
from latespin.desktop.session.tasks import Task, WorkQueue
from latespin.errors import LateSpinError
from latespin.media.files.guard import Sources
from latespin.media.files.regular import read_regular
from latespin.model.arranging.arrangement import Arrangement, arrange
from latespin.model.arranging.placement import Problem
from latespin.model.documents.documents import MOST_SESSION_BYTES, Session, TrackReference, to_json
from latespin.model.documents.history import History
from latespin.model.moments.endings import NoEnding
from latespin.model.timing.beat_grid import Grid, grid_of
from latespin.model.timing.positions import Layout, layout_of
from latespin.model.timing.time_map import TimeMap
from latespin.model.version import HALFTIME_BARS, Stages, Version
from latespin.paths import resolved

if TYPE_CHECKING:  # imported where they are used: the first window does not wait for them
    from latespin.analysis.results import Reading
    from latespin.analysis.tone import Spectrum
    from latespin.media.audio.peaks import Peaks
    from latespin.render.mastering.level import LevelPlan
    from latespin.render.mastering.measure import Measured

MEASURE_DELAY_MS, PLAYING_DELAY_MS = 300, 1_000  # after a change; more of it while that has to be heard at once
KEPT_MEASUREMENTS, ARRANGED = 24, 40
FIRST_VERSION = Version(id="first", name="Slowed + reverb")


@dataclass
class _Measurements:
    """What was measured, for the versions touched last."""

    kept: "OrderedDict[Stages, Measured]" = field(default_factory=OrderedDict)

    def put(self, stages: Stages, measured: "Measured") -> None:
        self.kept[stages] = measured
        self.kept.move_to_end(stages)
        while len(self.kept) > KEPT_MEASUREMENTS:
            self.kept.popitem(last=False)

    def forget_bars(self) -> None:
        """Drop what depends on where bars lie."""
        for stages in [s for s in self.kept if goes_by_bars(s)]:
            del self.kept[stages]

    def before_level(self, stages: Stages) -> "Measured | None":
        """What was measured before Level, of any version whose other stages are the same; else of the one measured last."""
        for other, measured in reversed(self.kept.items()):
            if replace(other, level=stages.level) == stages:
                return measured
        return next(reversed(self.kept.values()), None)


def goes_by_bars(stages: Stages) -> bool:
    """Whether a version sounds otherwise where bars lie elsewhere."""
    from latespin.render.effects.problems import goes_by_beats

    ends = not isinstance(stages.ending.heard, NoEnding) or any(goes_by_beats(effect) for effect in stages.colour.heard)
    return stages.time.heard.halftime in HALFTIME_BARS or bool(stages.moments.heard) or ends


class Document(QObject):
    """Main thread only. Edits replace the session by another value; signals say what to draw anew."""

    session_changed = Signal()
    track_changed = Signal()
    measured_changed = Signal()
    reading_changed = Signal()
    problem = Signal(str)
    notice = Signal(str)
    song_wanted = Signal(object)
    song_differs = Signal(object)

    def __init__(self, work: WorkQueue, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.work = work
        self.loaded: LoadedTrack | None = None
        self.path: Path | None = None
        self._file_digest: str | None = None
        self._history: History[Session] = History(Session())
        self._saved = self._history.value
        self._measurements = _Measurements()
        self.reading: Reading | None = None
        self.tone_before: Spectrum | None = None
        self._read_grid: Grid | None = None
        self._found_at: Path | None = None
        self._layout: tuple[tuple[object, ...], Layout] | None = None
        self._expected: tuple[Arrangement, float, Peaks] | None = None
        self._arranged: dict[int, tuple[Stages, Layout, Arrangement]] = {}
        self._reading: Task | None = None
        self._opening: Task | None = None
        self._measuring: tuple[Stages, Task] | None = None
        self._tried: Stages | None = None
        self.playing = False
        self._delay = QTimer(self, singleShot=True)
        self._delay.timeout.connect(self._measure_next)
        self.session_changed.connect(self._follow_grid)
        self.session_changed.connect(self._want_measuring)

    # -- the session --------------------------------------------------------------------------------------

    @property
    def session(self) -> Session:
        """The session as it is now."""
        return self._history.value

    @property
    def version(self) -> Version | None:
        """The version being worked on."""
        return self.session.version(self.session.chosen)

    @property
    def stages(self) -> Stages:
        """The stages of the version being worked on."""
        return self.version.stages if self.version else Stages()

    @property
    def modified(self) -> bool:
        """Whether there is anything that is not in the session's file."""
        return self.session != self._saved

    def edit_stages(self, label: str, stages: Stages, merge: str = "") -> None:
        """Change the version being worked on; equal ``merge`` words in a row are one step of undo."""
        if self.version:
            self._edit_version(label, replace(self.version, stages=stages), merge)

    @property
    def grid(self) -> Grid | None:
        """Where the track's beats and bars lie: as put right in this session, else as read."""
        return self.session.grid or self._read_grid

    @property
    def layout(self) -> Layout | None:
        """What versions are placed on."""
        if self.loaded is None:
            return None
        key = self.loaded.track, self.grid, self.reading
        if self._layout is None or any(a is not b for a, b in zip(self._layout[0], key, strict=True)):
            self._layout = key, layout_of(self.loaded.track.frames, self.loaded.track.rate, self.grid, self.reading)
        return self._layout[1]

    def set_grid(self, label: str, grid: Grid | None, merge: str = "") -> None:
        """Say where the track's beats and bars lie; what was placed on them stays on them."""
        moved = self.session.on_grid(self.grid, grid or self._read_grid)
        self._edit(label, replace(moved, grid=grid), merge)

    def _follow_grid(self) -> None:
        """Versions that go by bars are read and measured anew where the bars lie elsewhere."""
        loaded, layout = self.loaded, self.layout
        if loaded is not None and layout is not None and loaded.readers.layout != layout:
            self.loaded = dataclasses.replace(loaded, readers=loaded.readers.laid_out(layout))
            self._measurements.forget_bars()
            if self._measuring:
                self._measuring[1].cancel()

    def edit_session(self, label: str, session: Session, merge: str = "") -> None:
        """Change the session as a whole: its markers, or several versions at once."""
        self._edit(label, session, merge)

    def _edit_version(self, label: str, version: Version, merge: str = "") -> None:
        versions = tuple(version if v.id == version.id else v for v in self.session.versions)
        self._edit(label, replace(self.session, versions=versions), merge)

    def _edit(self, label: str, session: Session, merge: str = "") -> None:
        if self._history.edit(label, session, merge):
            self.session_changed.emit()

    def end_drag(self) -> None:
        """The next edit is a step of its own."""
        self._history.seal()

    def choose(self, ident: str) -> None:
        """Work on another version. Choosing is not a step of undo."""
        if ident != self.session.chosen and self.session.version(ident):
            was_modified = self.modified
            self._history.value = replace(self.session, chosen=ident)
            if not was_modified:
                self._saved = self._history.value
            self._history.seal()
            self.session_changed.emit()

    def add_version(self, name: str, stages: Stages) -> None:
        """Add a version after the chosen one and choose it."""
        self._insert("Add version", Version(id=uuid.uuid4().hex[:8], name=self._free_name(name), stages=stages))

    def duplicate_version(self) -> None:
        """Add a copy of the chosen version and choose it."""
        if self.version:
            name = self._free_name(self.version.name)
            self._insert("Duplicate version", replace(self.version, id=uuid.uuid4().hex[:8], name=name))

    def _insert(self, label: str, version: Version) -> None:
        versions = list(self.session.versions)
        at = next((i + 1 for i, v in enumerate(versions) if v.id == self.session.chosen), len(versions))
        versions.insert(at, version)
        self._edit(label, replace(self.session, versions=tuple(versions), chosen=version.id))

    def rename_version(self, ident: str, name: str) -> None:
        """Give a version another name; an empty one is ignored."""
        version = self.session.version(ident)
        if version and name.strip():
            self._edit_version("Rename version", replace(version, name=name.strip()))

    def delete_version(self, ident: str) -> None:
        """Take a version off the shelf; undo brings it back."""
        versions = [v for v in self.session.versions if v.id != ident]
        if len(versions) == len(self.session.versions):
            return
        chosen = self.session.chosen
        if chosen == ident:
            at = next(i for i, v in enumerate(self.session.versions) if v.id == ident)
            chosen = versions[min(at, len(versions) - 1)].id if versions else ""
        self._edit("Delete version", replace(self.session, versions=tuple(versions), chosen=chosen))

    def move_version(self, ident: str, by: int) -> None:
        """Move a version up (−1) or down (+1) the shelf."""
        versions = list(self.session.versions)
        at = next((i for i, v in enumerate(versions) if v.id == ident), -1)
        to = at + by
        if at >= 0 and 0 <= to < len(versions):
            versions.insert(to, versions.pop(at))
            self._edit("Move version", replace(self.session, versions=tuple(versions)))

    def _free_name(self, name: str) -> str:
        taken = {v.name for v in self.session.versions}
        if name not in taken:
            return name
        stem = name.rsplit(" ", 1)[0] if name.rsplit(" ", 1)[-1].isdigit() else name
        return next(f"{stem} {n}" for n in range(2, 10_000) if f"{stem} {n}" not in taken)

    def undo(self) -> None:
        """One step back."""
        self._history.undo()
        self._mend_choice()

    def redo(self) -> None:
        """One step forward."""
        self._history.redo()
        self._mend_choice()

    def _mend_choice(self) -> None:
        if self.session.versions and not self.version:
            self._history.value = replace(self.session, chosen=self.session.versions[0].id)
        self.session_changed.emit()

    @property
    def undo_label(self) -> str:
        """What undo would take back."""
        return self._history.undo_label()

    @property
    def redo_label(self) -> str:
        """What redo would bring again."""
        return self._history.redo_label()

    # -- opening and saving -------------------------------------------------------------------------------

    def open_song(self, path: Path) -> None:
        """Open a song in a new session, in the background."""
        self._submit_opening(path, lambda work: (None, load_track(path, work)))

    def open_session(self, path: Path) -> None:
        """Open a saved session and its song, in the background."""
        self._submit_opening(path, lambda work: (find_session(path, work), None))

    def adopt(self, found: FoundSession, song: Path) -> None:
        """Open a found session with a song chosen by the person."""
        self._submit_opening(song, lambda work: (None, load_track(song, work)), found)

    def _submit_opening(self, path: Path, function: Any, found: FoundSession | None = None) -> None:
        if self._opening:
            self._opening.cancel()

        def done(result: tuple[FoundSession | None, LoadedTrack | None]) -> None:
            read, loaded = result
            if read is not None and (read.song is None or read.loaded is None):
                self.song_wanted.emit(read)
            elif (
                read is not None
                and read.loaded
                and read.session.track
                and read.loaded.track.sha256 != read.session.track.sha256
            ):
                self.song_differs.emit(read)
            elif read is not None and read.loaded:
                self._found_at = read.path
                demo = resolved(read.path) == resolved(demo_session())  # a starting point, not to be saved over
                self.begin(read.session, None if demo else read.path, read.loaded, read.digest)
            elif loaded is not None and found is not None:
                self.begin(found.session, found.path, loaded, found.digest)
            elif loaded is not None:
                self.begin_with_song(loaded)

        self._opening = self.work.submit(
            Task(f"Opening {path.name}", "open", function, on_done=done, on_failed=self.problem.emit)
        )

    def begin_with_song(self, loaded: LoadedTrack) -> None:
        """A new session on a song, with a first version made from the first recipe."""
        from latespin.render.recipes import find_recipe

        version = replace(FIRST_VERSION, stages=find_recipe("slowed-reverb").stages)
        reference = TrackReference(path=str(resolved(loaded.track.path)), sha256=loaded.track.sha256)
        self.begin(Session(track=reference, versions=(version,), chosen=version.id), None, loaded)

    def begin(self, session: Session, path: Path | None, loaded: LoadedTrack, digest: str | None = None) -> None:
        """Take over an opened session and song; where the song has moved or changed, that is something to save.

        digest : of the session's file as it was read.
        """
        if session.versions and not session.version(session.chosen):
            session = replace(session, chosen=session.versions[0].id)
        reference = TrackReference(path=str(resolved(loaded.track.path)), sha256=loaded.track.sha256)
        kept = session.track
        as_saved = path is None or (
            kept is not None
            and song_path(kept, path.parent) == Path(reference.path)
            and kept.sha256 == reference.sha256
        )
        # In memory paths are absolute, so that no step of undo depends on where the session was saved last.
        folder = (path or self._found_at or Path(reference.path)).parent
        opened = replace(session, track=reference).with_sounds(lambda sound: str(resolved(folder / sound)))
        self._saved = opened if as_saved else session
        self._history = History(opened)
        self.path, self.loaded, self._file_digest = path, loaded, digest
        self._measurements = _Measurements()
        self.reading = self._read_grid = self.tone_before = None
        self.track_changed.emit()
        self.session_changed.emit()
        self.read()
        for warning in loaded.track.warnings:
            self.notice.emit(warning)

    def read(self, *, anew: bool = False) -> None:
        """Find out the track's beats, key and sections in the background. anew : not as kept from before."""
        if self._reading is not None:
            self._reading.cancel()
        if self.loaded is None:
            return
        track = self.loaded.track

        def function(work: Task) -> "Reading":
            from latespin.media.storage.analysis_cache import read_track

            return read_track(track, work, anew=anew)

        def done(reading: "Reading") -> None:
            if self.loaded is not None and self.loaded.track is track:
                self.reading, self._read_grid = reading, grid_of(reading)
                task.shown = False  # what it found is seen everywhere; the list of work need not say it
                self.reading_changed.emit()
                self.session_changed.emit()

        title = f"Reading {track.title}"
        task = Task(title, "read", function, on_done=done, on_failed=self.problem.emit)
        self._reading = self.work.submit(task)

    @property
    def is_reading(self) -> bool:
        """Whether the track is still being read."""
        return self._reading is not None and self._reading.active

    def save(self, path: Path) -> bool:
        """Write the session; paths of songs beside or below it are kept relative. False where it failed."""
        from latespin.media.files.atomic import write_bytes

        written = replace(self.session, grid=self.grid)
        if written.track:
            song, folder = Path(written.track.path), resolved(path.absolute().parent)
            written = replace(written, track=replace(written.track, path=_beside(song, folder)))
            written = written.with_sounds(lambda sound: _beside(Path(sound), folder))
        data = to_json(written)
        try:
            write_bytes(path, data, overwrite=True, sources=self.session.files())
        except LateSpinError as error:
            self.problem.emit(str(error))
            return False
        self._saved, self.path, self._file_digest = self.session, path, digest_of(data)
        self.session_changed.emit()
        return True

    @property
    def sources(self) -> Sources:
        """The files that the session is made from, whichever it is by the time they are asked for; for background work that writes."""
        return _SessionFiles(self)

    def changed_elsewhere(self, path: Path) -> bool:
        """Whether the session's file holds something else than was opened from it or saved to it here."""
        if path != self.path or self._file_digest is None:
            return False
        try:
            return digest_of(read_regular(path, MOST_SESSION_BYTES)) != self._file_digest
        except LateSpinError:
            return False  # it is gone, so that nothing is lost by writing it

    def collect(self, path: Path) -> None:
        """Write the session with copies of all its files beside it, in the background."""
        session = replace(self.session, grid=self.grid)

        def function(work: Task) -> tuple[int, list[str]]:
            from latespin.media.storage.bundle import collect

            return collect(session, path, work, overwrite=True)

        def done(result: tuple[int, list[str]]) -> None:
            copied, missing = result
            message = f"{path.name} is written, with {copied} file{'' if copied == 1 else 's'} copied beside it."
            if missing:
                message += f" Not there, and so not copied: {', '.join(missing)}."
            self.notice.emit(message)

        self.work.submit(
            Task(f"Collecting {path.name}", "collect", function, on_done=done, on_failed=self.problem.emit)
        )

    def take_for_unsaved(self) -> None:
        """Take the session for one that has changes which are not in its file."""
        self._saved = Session()
        self.session_changed.emit()

    def forget_changes(self) -> None:
        """Take the session as it is for saved."""
        self._saved = self.session

    # -- what is known of it ------------------------------------------------------------------------------

    def time_map(self, stages: Stages | None = None) -> TimeMap | None:
        """The time map of a version (the chosen one) of the track."""
        made = self.arrangement(stages)
        return made.map if made else None

    def arrangement(self, stages: Stages | None = None) -> Arrangement | None:
        """What happens when in a version (the chosen one) of the track."""
        layout = self.layout
        if layout is None:
            return None
        wanted = stages or self.stages
        kept = self._arranged.get(id(wanted))
        if kept is None or kept[0] is not wanted or kept[1] is not layout:
            kept = wanted, layout, arrange(replace(wanted, level=Stages().level), layout)
            self._arranged = dict([*self._arranged.items()][-ARRANGED:]) | {id(wanted): kept}
        return kept[2]

    def peaks(self) -> "Peaks | None":
        """The chosen version's peaks as measured, or what they will roughly be until it has been."""
        from latespin.desktop.canvas.waveform_image import expected_peaks
        from latespin.render.timeline.tail_lengths import tail_after

        measured, made = self.measured(), self.arrangement()
        if measured is not None or made is None or self.loaded is None:
            return measured.peaks if measured else None
        gain = 10.0 ** (self.plan().gain_db / 20.0)
        if self._expected is None or self._expected[0] is not made or self._expected[1] != gain:
            tail = tail_after(self.stages, made, self.loaded.readers.context(self.stages))
            self._expected = made, gain, expected_peaks(self.loaded.peaks, made.map, gain, tail)
        return self._expected[2]

    def problems(self) -> tuple[Problem, ...]:
        """What of the chosen version's moments and ending cannot be done as asked."""
        made = self.arrangement()
        if made is None:
            return ()
        assert self.loaded is not None
        from latespin.render.effects.problems import version_problems

        return version_problems(self.stages, made, self.loaded.readers.context(self.stages))

    def measured(self, stages: Stages | None = None) -> "Measured | None":
        """What was measured of a version (the chosen one), if it has been."""
        return self._measurements.kept.get(stages or self.stages)

    def plan(self, stages: Stages | None = None) -> "LevelPlan":
        """What Level does: as measured, or worked out from what is known until it has been measured."""
        from latespin.render.mastering.level import LevelPlan, estimate_plan

        stages = stages or self.stages
        measured = self.measured(stages)
        if measured:
            return measured.plan
        if self.loaded is None:
            return LevelPlan()
        known = self._measurements.before_level(stages)
        before = self.loaded.facts.loudness.integrated_lufs
        if known is None:
            return estimate_plan(self.loaded.facts, stages.level, before)
        return estimate_plan(known.before_level, stages.level, before, known.tone)

    def heard_lufs(self) -> tuple[float, float]:
        """Loudness heard of Before and After, measured or expected."""
        if self.loaded is None:
            return -math.inf, -math.inf
        measured = self.measured()
        if measured:
            return self.loaded.facts.heard_lufs, measured.facts.heard_lufs
        known = self._measurements.before_level(self.stages)
        facts = known.before_level if known else self.loaded.facts
        return self.loaded.facts.heard_lufs, facts.heard_lufs + self.plan().gain_db

    def _want_measuring(self) -> None:
        if self._measuring and self._measuring[0] != self.stages:
            self._measuring[1].cancel()
        self._measure_later()

    def _measure_later(self) -> None:
        self._delay.start(PLAYING_DELAY_MS if self.playing else MEASURE_DELAY_MS)

    def _measure_next(self) -> None:
        """Measure the chosen version; after it what it becomes with a stage switched off; then the others."""
        if self.loaded is None or self.work.active("measure"):
            if self.loaded is not None:
                self._measure_later()
            return
        stages = next((s for s in self._to_measure() if s not in self._measurements.kept), None)
        if stages is None:
            return
        readers = self.loaded.readers
        measurements = self._measurements

        def function(work: Task) -> Any:
            from latespin.render.mastering.measure import measure

            return measure(readers, stages, work)

        def done(measured: "Measured") -> None:
            bars_moved = goes_by_bars(stages) and not (self.loaded and self.loaded.readers is readers)
            if measurements is self._measurements and not bars_moved:
                measurements.put(stages, measured)
                self.measured_changed.emit()
                self._delay.start(0)

        task = Task("Measuring", "measure", function, on_done=done, on_failed=self.problem.emit, shown=False)
        self._measuring = (stages, self.work.submit(task))

    def _to_measure(self) -> list[Stages]:
        if not self.version:
            return []
        others = [v.stages for v in self.session.versions if v.id != self.session.chosen]
        tried = [self._tried] if self._tried is not None else []
        return [*tried, self.stages, *self.with_a_stage_switched(), *others][: KEPT_MEASUREMENTS - 2]

    def try_stages(self, stages: Stages | None) -> None:
        """Measure other stages than the version's, which are being listened to, first of all; None for none."""
        self._tried = stages
        self._measure_later()

    def with_a_stage_switched(self) -> list[Stages]:
        """What the chosen version becomes when a stage is switched off, or on again."""
        chosen, found = self.stages, []
        parts = ["time", "colour"]
        parts += ["moments"] if chosen.moments.placed else []
        parts += ["ending"] if not isinstance(chosen.ending.way, NoEnding) else []
        for part in parts:
            stage = getattr(chosen, part)
            found.append(replace(chosen, **{part: replace(stage, on=not stage.on)}))
        return found

    def quietest_lufs(self) -> float:
        """The least loudness heard of Before, After, and After with a stage switched."""
        switched = [m.facts.heard_lufs for s in self.with_a_stage_switched() if (m := self.measured(s))]
        return min(*self.heard_lufs(), *switched)


class _SessionFiles:
    """See :attr:`Document.sources`; may be gone through in any thread, since sessions are values."""

    def __init__(self, document: Document) -> None:
        self._document = document

    def __iter__(self) -> Iterator[str]:
        return iter(self._document.session.files())


def _beside(file: Path, folder: Path) -> str:
    """A path as it is kept in a session in ``folder``: relative where the file lies beside or below it."""
    return str(file.relative_to(folder)) if file.is_relative_to(folder) else str(file)

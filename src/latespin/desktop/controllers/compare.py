"""Compare: what the keys play, at which level, and the choices made."""

import math
import time
from collections import Counter
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.dialogs.compare import SLOTS, CompareDialog
from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.model.documents.documents import Preference
from latespin.model.tone_match import Tone
from latespin.model.values.units import number
from latespin.model.version import Stages

if TYPE_CHECKING:
    from latespin.render.chain.renderer import TrackRenderer
    from latespin.render.playback.programme import PlaybackRequest

BEFORE, VERSION, REFERENCE = "before", "version:", "reference:"


@dataclass(frozen=True)
class _Heard:
    """A reference opened for listening, at the track's rate."""

    readers: "TrackRenderer"
    lufs: float
    fullest: float


class CompareController(QObject):
    """``wanted`` carries the programme to be heard in place of the version's, or None."""

    message = Signal(str, bool)
    wanted = Signal(object)
    play_wanted = Signal()

    def __init__(self, document: Document, parent: QWidget) -> None:
        super().__init__(parent)
        self._document, self._window = document, parent
        self.dialog: CompareDialog | None = None
        self._references: dict[str, _Heard] = {}
        self._opening: set[str] = set()
        self._place = 0.0
        document.session_changed.connect(self._refill)
        document.measured_changed.connect(self._show_levels)
        document.track_changed.connect(self._references.clear)

    @command("compare", "Comp&are …", menu="&Play", keys="C", group=1)
    def open(self) -> None:
        """Show the dialog."""
        if self.dialog is None:
            self.dialog = CompareDialog(self._window)
            self.dialog.chosen.connect(self._hear)
            self.dialog.filled.connect(self._open_references)
            self.dialog.preferred.connect(self._prefer)
            self.dialog.play_wanted.connect(self.play_wanted)
            self.dialog.blind_button.clicked.connect(lambda _: self._show_tally())
        self._refill()
        self.dialog.show()
        self.dialog.raise_()

    # -- what there is -----------------------------------------------------------------------------------------------

    def _items(self) -> list[tuple[str, str]]:
        session = self._document.session
        found = [(BEFORE, tr("Before: the track as it came"))]
        found += [(VERSION + version.id, version.name) for version in session.versions]
        return found + [
            (REFERENCE + tone.path, tr("Reference: {0}").format(tone.title)) for tone in session.references if tone.path
        ]

    def _refill(self) -> None:
        if self.dialog is None or self._document.loaded is None:
            return
        session = self._document.session
        others = [VERSION + version.id for version in session.versions if version.id != session.chosen]
        references = [REFERENCE + tone.path for tone in session.references]
        self.dialog.offer(self._items(), [BEFORE, VERSION + session.chosen, *references, *others][:SLOTS])
        self._show_levels()
        self._show_tally()

    def _tone(self, key: str) -> Tone | None:
        path = key.removeprefix(REFERENCE)
        return next((tone for tone in self._document.session.references if tone.path == path), None)

    def _open_references(self) -> None:
        """Open the references that are in a slot, in the background."""
        assert self.dialog is not None
        for key in self.dialog.in_slots():
            if key.startswith(REFERENCE) and key not in self._references:
                self._open_reference(key)
        self._show_levels()

    def _open_reference(self, key: str) -> None:
        document, tone = self._document, self._tone(key)
        loaded = document.loaded
        if tone is None or loaded is None or key in self._opening:
            return
        self._opening.add(key)

        def function(work: Task) -> _Heard:
            from latespin.render.mastering.references import open_reference

            return _Heard(
                *open_reference(Path(tone.path), loaded.track.rate, work), tone.passages[0][0] if tone.passages else 0.0
            )

        def failed(text: str) -> None:
            self._opening.discard(key)
            self.message.emit(text, True)

        def done(heard: _Heard) -> None:
            self._opening.discard(key)
            if document.loaded is loaded:
                self._references[key] = heard
                self._show_levels()
                if self.dialog is not None and self.dialog.current == key:
                    self._hear(key)

        task = Task(
            tr("Opening {0}").format(tone.title), "compare", function, on_done=done, on_failed=failed, shown=False
        )
        document.work.submit(task)

    # -- how loud ----------------------------------------------------------------------------------------------------

    def _stages(self, key: str) -> Stages | None:
        version = self._document.session.version(key.removeprefix(VERSION))
        return version.stages if version else None

    def _lufs(self, key: str) -> float:
        """The loudness of a sound as played; −inf until it is known."""
        loaded = self._document.loaded
        if loaded is None:
            return -math.inf
        if key == BEFORE:
            return loaded.facts.heard_lufs
        if key.startswith(REFERENCE):
            heard = self._references.get(key)
            return heard.lufs if heard else -math.inf
        stages = self._stages(key)
        measured = self._document.measured(stages) if stages else None
        return measured.facts.heard_lufs if measured else -math.inf

    def _quietest(self) -> float:
        assert self.dialog is not None
        known = [lufs for key in self.dialog.in_slots() if key and math.isfinite(lufs := self._lufs(key))]
        return min(known, default=-math.inf)

    def _show_levels(self) -> None:
        if self.dialog is None or self._document.loaded is None:
            return
        quietest, texts = self._quietest(), {}
        for key in self.dialog.in_slots():
            texts[key] = _said(self._lufs(key), quietest) if key else ""
        self.dialog.show_levels(texts)
        if self.dialog.current:
            self._hear(self.dialog.current)

    # -- hearing -----------------------------------------------------------------------------------------------------

    def follow(self, seconds: float) -> None:
        """Know the place of Before that is heard."""
        self._place = seconds

    def programme(self, key: str) -> "PlaybackRequest | None":
        """The playback request of a key, turned down to the quietest."""
        from latespin.render.mastering.level import LevelPlan
        from latespin.render.playback.programme import PlaybackRequest

        loaded, lufs = self._document.loaded, self._lufs(key)
        if loaded is None:
            return None
        quietest = self._quietest()
        trim = round(quietest - lufs, 2) if math.isfinite(lufs) and math.isfinite(quietest) else 0.0
        if key == BEFORE:
            return PlaybackRequest(loaded.readers, "before", self._document.stages, LevelPlan(), trim)
        if key.startswith(REFERENCE):
            heard = self._references.get(key)
            if heard is None:
                return None
            shift = round((heard.fullest - self._place) * loaded.track.rate)
            return PlaybackRequest(heard.readers, "before", Stages(), LevelPlan(), trim, shift=shift)
        stages = self._stages(key)
        return PlaybackRequest(loaded.readers, "after", stages, self._document.plan(stages), trim) if stages else None

    def _hear(self, key: str) -> None:
        programme = self.programme(key) if key else None
        if programme is not None or not key:
            self.wanted.emit(programme)

    # -- preferences ---------------------------------------------------------------------------------------------------

    def _name(self, key: str) -> str:
        return dict(self._items()).get(key, key)

    def _prefer(self, key: str, among: list[str]) -> None:
        assert self.dialog is not None
        session = self._document.session
        noted = Preference(
            chosen=self._name(key), among=tuple(self._name(other) for other in among), blind=self.dialog.blind,
            at=time.strftime("%Y-%m-%dT%H:%M:%S"),
        )  # fmt: skip
        self._document.edit_session(tr("Preference"), replace(session, preferences=(*session.preferences, noted)))

    def _show_tally(self) -> None:
        assert self.dialog is not None
        noted = self._document.session.preferences
        if not noted:
            self.dialog.show_tally("")
            return
        if self.dialog.blind:
            self.dialog.show_tally(tr("{0} noted. Leave blind mode to see which.").format(len(noted)))
            return
        counts = Counter(preference.chosen for preference in noted).most_common()
        message = ", ".join(f"{name}: {count}" for name, count in counts)
        blind = sum(preference.blind for preference in noted)
        self.dialog.show_tally(
            tr("Liked best, in {0} choices ({1} of them blind): {2}.").format(len(noted), blind, message)
        )


def _said(lufs: float, quietest: float) -> str:
    """The loudness of a sound and its gain, in words."""
    if not math.isfinite(lufs):
        return tr("being measured …")
    down = number(lufs - quietest, 1)
    change = tr("as it is") if down == number(0.0, 1) else tr("turned down by {0} dB").format(down)
    return f"{number(lufs, 1)} LUFS, {change}"

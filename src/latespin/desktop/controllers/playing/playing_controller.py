"""Playing along: pads and knobs of the panel, keys and control surfaces; takes become steps of undo."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.controllers.playing.pad_menus import PadMenus
from latespin.desktop.controllers.playing.surface_controller import SurfaceController
from latespin.desktop.controllers.playing.take_controller import TakeController
from latespin.desktop.panels.playing.knob_row import Shown
from latespin.desktop.panels.playing.playing_panel import PlayingPanel
from latespin.desktop.session.commands import command, run
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.media.midi.surface_reader import KnobEvent, PadEvent
from latespin.model.playing.surface_map import EffectTarget, TempoTarget
from latespin.model.values.parameters import TEMPO_PERCENT
from latespin.model.values.units import number

if TYPE_CHECKING:  # loads kernels: not before a song is open
    from latespin.desktop.controllers.playing.live_session import LiveSession
    from latespin.render.playback.player import Player

LOOK_MS, SETTLE_MS = 30, 400


class PlayingController(QObject):
    """player : gives the player of the open song.  chosen_moments : ids of the moments being worked on."""

    message = Signal(str, bool)
    side_wanted = Signal(str)

    def __init__(
        self, document: Document, settings: Settings, panel: PlayingPanel, player: "Callable[[], Player | None]",
        chosen_moments: Callable[[], set[str]], parent: QWidget,
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self._document, self._settings, self._panel, self._player = document, settings, panel, player
        self.session: LiveSession | None = None
        self._open = self._was_playing = False
        self.surfaces = SurfaceController(settings, self._handle, lambda: document.sources, self)
        self.takes = TakeController(
            document, settings, panel.takes, lambda: self.surfaces.surface, chosen_moments, parent
        )
        self.takes.message.connect(self.message)
        self.menus = PadMenus(document, self.surfaces, panel)
        panel.grid.pressed.connect(lambda number: self._handle(PadEvent(number, held=True)))
        panel.grid.released.connect(lambda number: self._handle(PadEvent(number, held=False)))
        panel.grid.menu_wanted.connect(self.menus.open_pad)
        panel.knobs.menu_wanted.connect(self.menus.open_knob)
        panel.knobs.turned.connect(lambda number, by: self._handle(KnobEvent(number, None, by)))
        panel.knobs.settled.connect(self._settle)
        panel.wanted.connect(self._run)
        panel.escaped.connect(self.surfaces.stop_learning)
        panel.quantise_changed.connect(self._choose_quantise)
        self.surfaces.message.connect(self.message)
        self.surfaces.map_changed.connect(self._begin)
        self.surfaces.knob_moved.connect(self._start_settling)
        self.surfaces.connected_changed.connect(self._show_status)
        self._timer = QTimer(self, interval=LOOK_MS)
        self._timer.timeout.connect(self._look)
        self._settling = QTimer(self, singleShot=True, interval=SETTLE_MS)
        self._settling.timeout.connect(self._settle)
        document.session_changed.connect(self._follow)

    def _run(self, name: str) -> None:
        run(self if name in ("record_take", "latch_pads") else self.takes, name)

    def edit(self, on: bool) -> None:
        """Whether the panel is shown, so that pads and knobs play."""
        if on == self._open:
            return
        self._open = on
        if on:
            self.surfaces.open(self._panel)
            self._panel.show_quantise(self._settings.quantise, self._settings.quantise_strength)
            self.side_wanted.emit("after")
            self._begin()
            self._timer.start()
            self._panel.grid.setFocus()
        else:
            self._end()

    def finish(self) -> None:
        """Keep what was recorded up to here, and the knobs where they are."""
        self._settle()
        self._finish_take()

    def close(self) -> None:
        """The window closes."""
        self._end()
        self.surfaces.close()

    def _end(self) -> None:
        """Let everything go, and keep what was recorded."""
        self._timer.stop()
        self._open = False
        if self.session is not None:
            self._settle()
            self.session.release_all()
            self._finish_take()
            self.session.close()
            self.session = None

    def _begin(self) -> None:
        """Play on the player there is now, by the map there is now."""
        player = self._player()
        self._panel.grid.show_pads(self.surfaces.surface.pads)
        self._panel.latch.setChecked(all(pad.latched for pad in self.surfaces.surface.pads))
        if not self._open or player is None:
            return
        from latespin.desktop.controllers.playing.live_session import LiveSession

        armed = self.session is not None and self.session.armed
        if self.session is not None:
            self._finish_take()
            self.session.close()
        self.session = LiveSession(self._document, player, self.surfaces.surface)
        self.session.quantise, self.session.strength = self._settings.quantise, self._settings.quantise_strength
        if armed:
            self.session.arm(True)
        self._prepare()
        self._show()

    def _prepare(self) -> None:
        session = self.session
        if session is not None and not self._document.work.active("pads"):
            task = Task(tr("Preparing the pads"), "pads", lambda _: session.prepare(), shown=False)
            self._document.work.submit(task)

    def _handle(self, event: PadEvent | KnobEvent) -> None:
        """A pad or knob was moved; from any thread."""
        session = self.session
        if session is not None:
            session.handle(event)
            if isinstance(event, KnobEvent):
                self.surfaces.knob_moved.emit()

    # -- followed ----------------------------------------------------------------------------------------------

    def _look(self) -> None:
        """Show what is held and turned, and keep what was recorded."""
        player = self._player()
        if player is None:
            return
        if self.session is None or self.session.player is not player:
            self._begin()
        session = self.session
        assert session is not None
        hand = player.live.hand
        if hand.failure:
            self.message.emit(tr("That pad cannot be played: {0}").format(hand.failure), True)
            hand.failure = ""
        if session.armed and session.went_round():
            session.commit()
        if self._was_playing and not player.playing:
            session.stop()
            self._finish_take()
        elif not session.armed:
            player.live.hand.take_played()
        self._was_playing = player.playing
        self._show()

    def _finish_take(self) -> None:
        """Keep what was recorded up to here; what is played next is another take."""
        session = self.session
        if session is not None and session.armed:
            session.commit()
            self._document.end_drag()
            session.arm(True)

    def _follow(self) -> None:
        session = self.session
        if session is not None:
            session.follow()
            self._panel.takes.show_takes(self._document.stages.moments)
            self._show_knobs()

    def _settle(self) -> None:
        """Knobs rest: where they are is what the version has, unless it is being recorded."""
        session = self.session
        if session is None or (session.armed and self._was_playing):
            return
        stages, automated = session.with_turned(self._document.stages)
        if automated:
            self.message.emit(tr("That control is automated. Switch Record on to record over its automation."), False)
        if stages != self._document.stages:
            self._document.edit_stages(tr("Turn knobs"), stages, "knobs")
        self._document.end_drag()

    def _start_settling(self) -> None:
        """A knob was turned: it settles when it rests."""
        self._settling.start()

    # -- showing -----------------------------------------------------------------------------------------------

    def _show(self) -> None:
        session = self.session
        held = frozenset(session.performer.held) if session is not None else frozenset()
        if held != self._panel.grid.held:
            self.surfaces.light(held)
        self._panel.grid.show_held(held)
        self._panel.show_recording(session is not None and session.armed)
        self._show_knobs()

    def _show_knobs(self) -> None:
        session = self.session
        shown = []
        for knob_number, knob in enumerate(self.surfaces.surface.knobs):
            target = knob.target
            found = session.performer.control_of(target) if session and isinstance(target, EffectTarget) else None
            if found is not None:
                _, parameter, value = found
                shown.append(Shown(_two_lines(target), parameter.text(value), parameter.to_fraction(value)))
            elif isinstance(target, TempoTarget) and session is not None:
                tempo = session.performer.tempo
                shown.append(
                    Shown(_two_lines(target), number(tempo, 1, signed=True) + " %", TEMPO_PERCENT.to_fraction(tempo))
                )
            elif target is None:
                shown.append(Shown(tr("Nothing yet"), "", None))
            elif isinstance(target, EffectTarget):
                shown.append(Shown(_two_lines(target), tr("not in use"), None))
            else:
                note = session.performer.repeat_value(knob_number) if session else ""
                share = session.performer.share(knob_number) if session else 0.0
                shown.append(Shown(_two_lines(target), note or "–", share))
        self._panel.knobs.show_knobs(shown)

    def _show_status(self) -> None:
        self._panel.status.setText(self.surfaces.status)
        self._panel.learning = self.surfaces.learning

    # -- commands ----------------------------------------------------------------------------------------------

    @command("record_take", "&Record what you play", menu="&Play", keys="Ctrl+P", group=2, checkable=True)
    def record(self) -> None:
        """Begin or end recording a take."""
        if self.session is None:
            self.message.emit(tr("Open Play along first (P)."), False)
            return
        if self.session.armed:
            self._finish_take()
            self.session.arm(False)
        else:
            self.session.arm(True)
        self._show()

    @command("latch_pads")
    def latch(self) -> None:
        latched = not all(pad.latched for pad in self.surfaces.surface.pads)
        pads = tuple(replace(pad, latched=latched) for pad in self.surfaces.surface.pads)
        self.surfaces.change(replace(self.surfaces.surface, pads=pads))

    def _choose_quantise(self, value: str, strength: float) -> None:
        self._settings.quantise, self._settings.quantise_strength = value, strength
        if self.session is not None:
            self.session.quantise, self.session.strength = value, strength


def _two_lines(target: object) -> str:
    """An effect over its control."""
    return "\n".join(tr(word) for word in getattr(target, "words", ()))

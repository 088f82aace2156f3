"""Playback, the marked range, and the commands of the Play menu."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QWidget

from latespin.desktop.session.commands import command
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import Settings
from latespin.desktop.translation import tr
from latespin.model.timing.song_sections import starts_of
from latespin.model.version import Stages

if TYPE_CHECKING:  # loaded with the first song: the first window does not wait for it
    from latespin.desktop.session.audio_output import DeviceMaker
    from latespin.desktop.session.playback import Playback
    from latespin.dsp.arrays import Audio
    from latespin.render.playback.pad_instrument import PadInstrument
    from latespin.render.playback.player import Player
    from latespin.render.playback.programme import PlaybackRequest

PLAY, BEATS = "&Play", "&Beats"
JUST_PASSED, AHEAD = 1.0, 0.05  # seconds within which a section's start counts as the current place


class PlayCommands(QObject):
    """Owns the playback once a song is open. Places are seconds of Before.

    message : a sentence, and whether it is a problem.  started : the playback, when it is made.
    marked_changed : the marked range or None, and whether it is looped.  matched_changed, clicking_changed : whether it is on.
    """

    message = Signal(str, bool)
    started = Signal(object)
    marked_changed = Signal(object, bool)
    matched_changed = Signal(bool)
    clicking_changed = Signal(bool)

    def __init__(
        self, document: Document, settings: Settings, device_maker: "DeviceMaker | None", parent: QWidget
    ) -> None:
        super().__init__(parent)
        self._document, self._settings, self._device_maker = document, settings, device_maker
        self.playback: Playback | None = None
        self.marked: tuple[float, float] | None = None
        self.looping = self.clicking = False

    # -- playback ---------------------------------------------------------------------------------------------------

    def start_playback(self) -> None:
        """Make the playback, unless it is there, and load the song."""
        if self.playback is not None:
            return
        from latespin.desktop.session.playback import Playback

        self.playback = Playback(self._document, self._device_maker, self)
        self.playback.clicking = self.clicking
        self.started.emit(self.playback)
        self.set_matched(self._settings.matched)
        self.set_volume(self._settings.volume_percent)
        self.playback.load()

    @property
    def player(self) -> "Player | None":
        """The player of the open song."""
        return self.playback.player if self.playback else None

    def close(self) -> None:
        """Stop the sound."""
        if self.playback:
            self.playback.close()

    def place(self) -> tuple[float, bool]:
        """The playhead in seconds of Before, exactly as the player knows it, and whether it plays."""
        player = self.player
        if player is None:
            return 0.0, False
        programme, frame = player.place()
        place = programme.to_before(frame) if programme else float(frame)
        return place / player.rate, player.playing

    def seek(self, side: str, seconds: float) -> None:
        """Go to a second of one side."""
        if self.playback:
            self.playback.seek(side, seconds)

    def loop_and_play(self, start: float, end: float) -> None:
        """Loop a range and play it on the side that is heard."""
        self.mark((start, end))
        self._play_at(start)

    def play_from(self, seconds: float) -> None:
        """Play After from a place, without a loop."""
        self.mark(None)
        self.set_side("after")
        self._play_at(seconds)

    def _play_at(self, seconds: float) -> None:
        if self.player is not None:
            self.seek("before", seconds)
            self.player.play()

    def audition(self, sound: "Audio | None") -> None:
        """Play another sound in place of the song, or the song again."""
        if self.playback:
            self.playback.audition(sound)

    def set_keys(self, keys: "PadInstrument | None") -> None:
        """Play an instrument over the song, or none."""
        if self.player is not None:
            self.player.keys = keys

    def compare(self, programme: "PlaybackRequest | None") -> None:
        """Play what the compare dialog chose, or the version again."""
        if self.playback:
            self.playback.compare(programme)

    def try_stages(self, stages: Stages | None) -> None:
        """Play other stages than the version's on After, or the version again."""
        if self.playback is None or self.player is None:
            return
        self._document.try_stages(stages)
        if stages is not None:
            self.set_side("after")
        self.playback.try_stages(stages)
        if stages is not None and not self.player.playing:
            self.player.play()

    # -- settings of what is heard ----------------------------------------------------------------------------------

    def mark(self, marked: tuple[float, float] | None) -> None:
        """Mark a range, which is then looped, or none."""
        self.marked = marked
        self.set_looping(marked is not None)

    def set_looping(self, on: bool) -> None:
        """Loop the marked range, if there is one."""
        self.looping = on and self.marked is not None
        if self.playback:
            self.playback.set_loop(self.marked if self.looping else None)
        self.marked_changed.emit(self.marked, self.looping)

    def set_side(self, side: str) -> None:
        """Hear Before or After."""
        if self.playback:
            self.playback.set_side("before" if side == "before" else "after")

    def set_matched(self, on: bool) -> None:
        """Play both sides at the loudness of the quieter."""
        self._settings.matched = on
        if self.playback:
            self.playback.set_matched(on)
        self.matched_changed.emit(on)

    def set_volume(self, percent: float) -> None:
        """Volume of the output, 0 to 100 %."""
        self._settings.volume_percent = percent
        if self.playback:
            self.playback.set_volume((percent / 100.0) ** 2)

    def set_solo(self, solo: tuple[str, int] | None) -> None:
        """Hear a part of an effect alone, or the whole again."""
        if self.playback:
            self.playback.set_solo(solo)

    def set_clicking(self, on: bool) -> None:
        """Hear a click on every beat."""
        self.clicking = on
        if self.playback:
            self.playback.set_clicking(on)
        self.clicking_changed.emit(on)

    # -- commands ---------------------------------------------------------------------------------------------------

    @command("play", "&Play or pause", menu=PLAY, keys="Space")
    def play(self) -> None:
        """Play or pause."""
        if self.playback:
            self.playback.toggle()

    def hear(self) -> None:
        """Play After, from where it is; from the loudest part where the song has not begun."""
        if self.playback is None or self.player is None:
            return
        self.set_side("after")
        if not self.player.playing:
            if self.player.place()[1] == 0:
                self.to_loudest()
            self.play()

    @command("start", "To the &start", menu=PLAY, keys="Home")
    def to_start(self) -> None:
        """Go to the start of the loop, or of the song."""
        self.seek("before", self.marked[0] if self.marked and self.looping else 0.0)

    @command("loudest", "&Jump to the loudest part", menu=PLAY, keys="J")
    def to_loudest(self) -> None:
        """Go to the loudest part of the song."""
        if self._document.loaded:
            self.seek("before", self._document.loaded.facts.loudest_seconds)

    @command("loop", "&Loop the marked range", menu=PLAY, keys="L", checkable=True)
    def loop(self) -> None:
        """Loop the marked range, or stop looping."""
        if self.marked is None:
            self.message.emit(tr("Drag along a waveform to mark the range to loop."), False)
        self.set_looping(not self.looping)

    @command("unmark", "&Forget the marked range", menu=PLAY, keys="Escape")
    def unmark(self) -> None:
        """Remove the marked range."""
        self.mark(None)

    @command("side", "&Before or After", menu=PLAY, keys="B", group=1)
    def switch_side(self) -> None:
        """Hear the other side."""
        if self.playback:
            self.set_side("before" if self.playback.side == "after" else "after")

    @command("matched", "Level-&matched", menu=PLAY, keys="M", group=1, checkable=True)
    def switch_matched(self) -> None:
        """Match the loudness of both sides, or do not."""
        self.set_matched(not self._settings.matched)

    @command("next_section", "Next se&ction", menu=PLAY, keys="PgDown", group=2)
    def next_section(self) -> None:
        """Go to the next section of the song."""
        self._go_to_section(lambda starts, here: min((s for s in starts if s > here + AHEAD), default=here))

    @command("previous_section", "Previous sec&tion", menu=PLAY, keys="PgUp", group=2)
    def previous_section(self) -> None:
        """Go to the section before."""
        self._go_to_section(lambda starts, here: max((s for s in starts if s < here - JUST_PASSED), default=0.0))

    def _go_to_section(self, chosen: Callable[[list[float], float], float]) -> None:
        starts = starts_of(self._document.sections, self._document.grid)
        if starts:
            self.seek("before", chosen(starts, self.place()[0]))

    @command("drums", "Where drums &enter", menu=PLAY, group=2)
    def to_drums(self) -> None:
        """Go to where the drums come in."""
        reading = self._document.reading
        if reading is None or reading.drums_enter is None:
            self.message.emit(tr("This song has no opening without drums."), False)
        else:
            self.seek("before", reading.drums_enter)

    @command("click", "&Click on every beat", menu=BEATS, keys="K", group=2, checkable=True)
    def switch_click(self) -> None:
        """Hear a click on every beat, or not."""
        self.set_clicking(not self.clicking)

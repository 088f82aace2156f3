"""Playback for the window: which version, from which position, and at what volume."""

import math
import threading
from dataclasses import replace
from pathlib import Path

from msgspec import structs
from PySide6.QtCore import QObject, QTimer, Signal

from latespin.desktop.session import audio_output
from latespin.desktop.session.audio_output import Device, DeviceMaker
from latespin.desktop.session.document import Document
from latespin.desktop.session.settings import DEFAULT_DEVICE
from latespin.desktop.session.tasks import Task
from latespin.desktop.translation import tr
from latespin.dsp.arrays import Audio
from latespin.media.track import Track
from latespin.model.version import Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.mastering.level import LevelPlan
from latespin.render.playback.live_meter import Meters
from latespin.render.playback.player import Player
from latespin.render.playback.programme import PlaybackRequest, Side

FRAME_MS = 33
FOLLOW_MS = 50
SHORTEST_LOOP_FRAMES = 2048
NO_NUMBERS = "The sound contains invalid samples (NaN or infinity), which are silenced. Switch effects off one by one to find the cause."


class Playback(QObject):
    """Follows the document: a change while playing is heard without stopping.

    place_changed : side and seconds on it.  guarded : by how much the output guard has turned the sound down lately, dB.  solo_changed : an effect's id and its part that is heard alone, or None.  Loops are kept in seconds of Before, so that they stay at their place.
    """

    place_changed = Signal(str, float)
    playing_changed = Signal(bool)
    meters_changed = Signal(object)
    device_changed = Signal(str)
    side_changed = Signal(str)
    guarded = Signal(float)
    solo_changed = Signal(object)

    def __init__(self, document: Document, maker: DeviceMaker | None = None, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._maker = document, maker
        self.wanted_device = DEFAULT_DEVICE
        self.player: Player | None = None
        self.device: Device | None = None
        self.side: Side = "after"
        self.matched = True
        self.clicking = False
        self.loop: tuple[float, float] | None = None
        self.solo: tuple[str, int] | None = None
        self._volume = 1.0
        self._was_playing = False
        self._silenced = 0
        self._unswitched: Stages | None = None
        self._auditioned: PlaybackRequest | None = None
        self._tried: Stages | None = None
        self._compared: PlaybackRequest | None = None
        self._quietest = math.inf
        self._retired: list[tuple[threading.Thread, list[Device | Player]]] = []  # a device lives until it has ended
        self._timer = QTimer(self, interval=FRAME_MS)
        self._timer.timeout.connect(self._look)
        document.track_changed.connect(self.load)
        self._soon = QTimer(self, singleShot=True, interval=FOLLOW_MS)
        self._soon.timeout.connect(self.refresh)
        document.session_changed.connect(self._follow)
        document.measured_changed.connect(self.refresh)
        document.work.hold = self._pressed

    def _pressed(self) -> bool:
        """True while background work should yield the CPU to playback (called from its threads)."""
        player = self.player
        return player is not None and player.pressed

    # -- asked for --------------------------------------------------------------------------------------------

    def toggle(self) -> None:
        """Play or pause."""
        if self.player is None:
            return
        if self.player.playing:
            self.player.pause()
        else:
            self.refresh()
            self.player.play()
        self._look()

    def seek(self, side: str, seconds: float) -> None:
        """Go to a place given on either side; the same musical place is heard on the side that plays."""
        if self.player is None or self._document.loaded is None:
            return
        if self._soon.isActive():
            self.refresh()  # the place is one of what the document says now
        frame = seconds * self.player.rate
        time_map = self._document.time_map()
        if self._compared is not None:
            before = time_map.clock_at(frame) if side == "after" and time_map is not None else frame
            self.player.seek(round(self._compared.from_before(before)))
            self.place_changed.emit("before", before / self.player.rate)
            return
        if side != self.side and time_map is not None:
            frame = time_map.after_at(frame) if self.side == "after" else time_map.clock_at(frame)
        self.player.seek(round(frame))
        self.place_changed.emit(self.side, frame / self.player.rate)

    def set_side(self, side: Side) -> None:
        """Hear Before or After, at the same musical place."""
        if side != self.side:
            self.side = side
            self.refresh()
            self.side_changed.emit(side)

    def set_matched(self, on: bool) -> None:
        """Bring Before and After to the loudness of the quieter, so that louder never passes for better."""
        self.matched = on
        self.refresh()

    def set_clicking(self, on: bool) -> None:
        """Hear a click on every beat, over Before and After alike."""
        self.clicking = on
        self.refresh()

    def set_loop(self, loop: tuple[float, float] | None) -> None:
        """Go round a range (seconds of Before), or not."""
        self.loop = loop
        self.refresh()

    def audition(self, sound: "Audio | None") -> None:
        """Loop a separate sound instead of the song; None returns to the song, paused."""
        if self.player is None or (sound is None and self._auditioned is None):
            return
        if sound is None:
            self._auditioned = None
            self.player.pause()
            self.refresh()
            self.player.seek(0)
            return
        track = Track(Path("audition"), sound, self.player.rate, sound.shape[0], "")
        self._auditioned = PlaybackRequest(
            TrackRenderer(track), "before", Stages(), LevelPlan(), loop=(0, sound.shape[1])
        )
        self.player.change(self._auditioned)
        self.player.seek(0)
        self.player.play()

    def try_stages(self, stages: "Stages | None") -> None:
        """Hear other stages in place of the version's, level-matched to it; None to hear the version again."""
        if stages != self._tried:
            self._tried = stages
            self.refresh()

    def compare(self, programme: PlaybackRequest | None) -> None:
        """Hear a programme in place of the version's; None to hear the version again."""
        if programme != self._compared:
            self._compared = programme
            self.refresh()

    def set_solo(self, solo: tuple[str, int] | None) -> None:
        """Hear a part of an effect alone, or the whole again. Only After has effects."""
        if solo is not None:
            self.set_side("after")
        self.solo = solo
        self.refresh()
        self.solo_changed.emit(solo)

    def _end_lost_solo(self) -> None:
        """Hear the whole again where the effect or its part is not heard any more."""
        if self.solo is not None:
            ident, part = self.solo
            effect = self._document.stages.colour.find(ident)
            if self.side == "before" or effect not in self._document.stages.colour.heard or part >= len(effect.parts):
                self.solo = None
                self.solo_changed.emit(None)

    def set_volume(self, ratio: float) -> None:
        """Monitoring volume."""
        self._volume = ratio
        if self.player is not None:
            self.player.set_volume(ratio)

    def _follow(self) -> None:
        """Refresh soon: while something is dragged not at every step, since each has the player begin anew."""
        if not self._soon.isActive():
            self._soon.start()

    def refresh(self) -> None:
        """Send the document's current state to the player."""
        self._soon.stop()
        if self.player is not None and (programme := self.programme()) is not None:
            self.player.change(programme)

    def programme(self) -> PlaybackRequest | None:
        """The programme to play now."""
        loaded = self._document.loaded
        if self._auditioned is not None:
            return self._auditioned
        if self._compared is not None:
            return self._looped(self._compared)
        if loaded is None or self._document.version is None:
            return None
        self._end_lost_solo()
        trim = self._trim_db() if self.matched else 0.0
        stages = self._tried or self._document.stages
        programme = PlaybackRequest(
            loaded.readers,
            self.side,
            stages,
            self._document.plan(stages),
            round(trim, 2),
            click=self._document.grid if self.clicking else None,
            solo=self.solo,
        )
        return self._looped(programme)

    def _looped(self, programme: PlaybackRequest) -> PlaybackRequest:
        """Going round the marked range, where there is one and it is of the same song."""
        if self.loop is None or programme.shift:
            return programme
        rate = programme.readers.track.rate
        start, end = (round(programme.from_before(seconds * rate)) for seconds in self.loop)
        return replace(programme, loop=(start, end)) if end - start >= SHORTEST_LOOP_FRAMES else programme

    def _trim_db(self) -> float:
        """The gain that brings the side being heard to the quietest of those it is compared with.

        The quietest is kept while stages are only switched, so that they compare with each other too.
        """
        before, after = self._document.heard_lufs()
        unswitched = _all_on(self._document.stages)
        if unswitched != self._unswitched:
            self._unswitched, self._quietest = unswitched, math.inf
        self._quietest = min(self._quietest, self._document.quietest_lufs())
        return self._quietest - (before if self.side == "before" else after) if math.isfinite(self._quietest) else 0.0

    def close(self) -> None:
        """Stop everything; waits for the threads of player and device."""
        self._retire()
        for thread, _ in self._retired:
            thread.join()
        self._retired.clear()

    def _retire(self) -> None:
        """Stop the player and its device in the background: the window does not wait for a block being rendered."""
        self._timer.stop()
        self._soon.stop()
        self._let_go_of_ended()
        ends = [end for end in (self.device, self.player) if end is not None]
        if self.player is not None:
            self.player.pause()
        if ends:
            thread = threading.Thread(target=lambda: [end.close() for end in ends], name="player ends")
            thread.start()
            self._retired.append((thread, ends))
        self.device = self.player = None

    def _let_go_of_ended(self) -> None:
        """Free players that have ended, and the songs they held."""
        self._retired = [(thread, ends) for thread, ends in self._retired if thread.is_alive()]

    # -- followed ---------------------------------------------------------------------------------------------

    def load(self) -> None:
        """Begin anew with the document's track."""
        self._retire()
        self.loop = self._auditioned = self._tried = self._compared = None
        self.set_solo(None)
        loaded = self._document.loaded
        if loaded is None:
            return
        self.player, self._silenced = Player(loaded.track.rate), 0
        self.player.set_volume(self._volume)
        self._connect_device()
        self._timer.start()
        self.refresh()
        self.place_changed.emit(self.side, 0.0)

    def _connect_device(self) -> None:
        """Open a device for the player; which one there is, is found out in the background the first time."""
        if self._maker is None:
            task = Task(
                tr("Looking for a sound device"), "device", lambda _: audio_output.find_output(self.wanted_device), on_done=self._found,
                shown=False,
            )  # fmt: skip
            self._document.work.submit(task)
        elif self.player is not None:
            self.device = self._maker(self.player)
            self.device_changed.emit(self.device.description)

    def use_device(self, ident: str) -> None:
        """Play through another device, while the song goes on: the one before is closed in the background, and then that one opened."""
        self.wanted_device = ident
        before, self.device = self.device, None

        def function(_: Task) -> DeviceMaker:
            if before is not None:
                before.close()
            return audio_output.find_output(ident)

        self._document.work.submit(
            Task(tr("Changing the sound device"), "device", function, on_done=self._found, shown=False)
        )

    def _found(self, maker: DeviceMaker) -> None:
        self._maker = maker
        if self.device is None:
            self._connect_device()

    def _look(self) -> None:
        player = self.player
        self._let_go_of_ended()
        if player is None:
            return
        if player.failure:
            self._document.problem.emit(player.failure)
            player.failure = ""
        programme, frame = player.place()
        if programme is not None and self._compared is not None:
            if not programme.shift:  # another version's places are not those of the one on the waveforms
                self.place_changed.emit("before", programme.to_before(frame) / player.rate)
        elif programme is not None and self._auditioned is None:
            self.place_changed.emit(programme.side, frame / player.rate)
        if player.playing != self._was_playing:
            self._was_playing = self._document.playing = player.playing
            self.playing_changed.emit(player.playing)
        if player.guard.silenced > self._silenced:
            if not self._silenced:
                self._document.problem.emit(NO_NUMBERS)
            self._silenced = player.guard.silenced
        self.guarded.emit(player.guard.take_reduction())
        meters: Meters = player.meters
        self.meters_changed.emit(meters)


def _all_on(stages: Stages) -> Stages:
    """The same values with every stage switched on."""
    parts = ("time", "colour", "moments", "ending", "level")
    return structs.replace(stages, **{part: structs.replace(getattr(stages, part), on=True) for part in parts})

"""Playback without a device: one thread renders ahead into a ring buffer, and whoever plays takes frames from it.

A change is heard without a stop. The changed version is rendered from the playhead on as a draft, whose reverbs may not
be filled yet. A few hundredths of a second of it replace the frames ahead in the ring, crossfaded. An exact stream then
takes over further ahead.
"""

import logging
import math
import threading
import time
from collections import deque

import numpy as np

from latespin.dsp.arrays import Audio
from latespin.dsp.dynamics.output_guard import OutputGuard
from latespin.language import tr
from latespin.render.effects.effect_node import GainHistory
from latespin.render.playback.live_layer import LiveLayer
from latespin.render.playback.live_meter import LiveMeter, Meters
from latespin.render.playback.pad_instrument import PadInstrument
from latespin.render.playback.playback_stream import FADE_FRAMES, PlaybackStream, RingMark, entry_frame
from latespin.render.playback.programme import PlaybackRequest
from latespin.render.playback.refinement import BLOCK_FRAMES, Refinement
from latespin.render.playback.ring_buffer import RingBuffer, crossfade
from latespin.render.playback.ring_marks import RingMarks
from latespin.render.playing.legs import HISTORY_SECONDS
from latespin.render.playing.live_controls import LiveControls

LOG = logging.getLogger(__name__)
AHEAD_SECONDS = 0.5
DRUMS_AHEAD_SECONDS = 1.2
GUARD_FRAMES = 512
SPLICE_FRAMES = 6144
QUIET_SECONDS = 0.6  # without a change, after which an exact stream replaces a draft
RETRY_SECONDS = 0.05  # between two tries to do that, while what it needs is being stretched


class Player:
    """Plays one programme at a time. All methods may be called from any thread and return at once.

    rate : frames per second of everything played. At the end ``playing`` becomes False.
    """

    def __init__(self, rate: int) -> None:
        self.rate = rate
        self._ring = RingBuffer(1 << math.ceil(math.log2((HISTORY_SECONDS + DRUMS_AHEAD_SECONDS + 0.5) * rate)))
        self._lock = threading.Condition()
        self._read = self._written = 0
        self._marks = RingMarks(round(HISTORY_SECONDS * rate))
        self._playing = self._ended = self._stopping = False
        self._wanted: PlaybackRequest | None = None
        self._failed: PlaybackRequest | None = None
        self._jump: int | None = None
        self._stream: PlaybackStream | None = None
        self._refinement: Refinement | None = None
        self._heard: deque[Audio | None] = deque(maxlen=400)  # None where a change has faded in
        self._gain = np.float32(1.0)
        self.guard = OutputGuard(rate)
        self.keys: PadInstrument | None = None  # played over the song, at once
        self.live = LiveLayer(rate, self._ring, self._marks, self._lock)
        self._edited_frame = self._faded_in_frame = -1
        self.meters = Meters()
        self.underruns = 0
        self.failure = ""  # why playing was given up; whoever says so empties it
        self._asked_at = self._refined_at = 0.0
        self._changed_frame = -1
        self.change_latencies: deque[float] = deque(maxlen=1000)
        self._thread = threading.Thread(target=self._run, name="player", daemon=True)
        self._thread.start()

    # -- asked for by the window ------------------------------------------------------------------------

    def change(self, programme: PlaybackRequest) -> None:
        """Hear another programme from the same musical place on."""
        with self._lock:
            if programme != (self._wanted or self._current()):
                self._wanted, self._failed = programme, None
                self._asked_at = time.monotonic()
                self._lock.notify_all()

    def seek(self, frame: int) -> None:
        """Go to a frame of the current programme's side."""
        with self._lock:
            self._jump = max(0, frame)
            self._ended = False
            self._lock.notify_all()

    def play(self) -> None:
        """Start or resume; after the end, from the start again. A programme that failed is tried again."""
        with self._lock:
            if self._failed is not None:
                self._wanted, self._failed = self._failed, None
            elif self._ended and self._read >= self._written:
                loop = self._marks.last.programme.loop if self._marks.last else None
                self._jump = loop[0] if loop else 0
                self._ended = False
            self._playing = True
            self._lock.notify_all()

    def pause(self) -> None:
        """Stop at the current place."""
        with self._lock:
            self._playing = False

    def set_volume(self, ratio: float) -> None:
        """Set the monitor volume; changes no file."""
        self._gain = np.float32(ratio)

    @property
    def playing(self) -> bool:
        """Whether sound is being taken."""
        return self._playing

    @property
    def pressed(self) -> bool:
        """True while playback needs CPU priority: a change is awaited, or the buffer may run dry."""
        asked = self._wanted is not None or self._jump is not None
        low = self._written - self._read < AHEAD_SECONDS / 2 * self.rate
        return self._playing and (asked or (low and not self._ended))

    @property
    def exact(self) -> bool:
        """True where the stream being rendered is exact; an earlier draft may still play first."""
        with self._lock:
            stream = self._stream
            return stream is not None and not stream.draft and self._wanted is None and self._jump is None

    def place(self) -> tuple[PlaybackRequest | None, int]:
        """The programme being heard and the frame on its side that comes next."""
        with self._lock:
            mark = self._marks.at(self._read)
            if mark is None:
                return self._wanted, self._jump or 0
            if self._jump is not None:
                return self._wanted or mark.programme, self._jump
            return mark.programme, mark.frame + self._read - mark.at

    def gain_history(self, ident: str) -> GainHistory:
        """Recent gain reduction of an effect in the version being played: frames of After, and dB of each part."""
        stream = self._stream
        return stream.gain_history(ident) if stream is not None else ()

    def close(self) -> None:
        """End the render thread; waits for it up to two seconds."""
        with self._lock:
            self._stopping = True
            self._lock.notify_all()
        self._thread.join(2.0)
        self.live.close()

    def set_live(self, controls: LiveControls | None) -> None:
        """Let some controls of effects be turned while it plays, or none."""
        with self._lock:
            self.live.set_controls(controls)
            self._lock.notify_all()

    # -- taken by the device ----------------------------------------------------------------------------

    def pull(self, frames: int, *, only_ready: bool = False) -> Audio:
        """The next ``[2, frames]`` to be played: silence while paused or where nothing is ready.

        only_ready : give fewer frames instead of silence.
        """
        with self._lock:
            ready = min(frames, self._written - self._read) if self._playing and self._jump is None else 0
            block, first = self.guard.clean(self._ring.read(self._read, ready)), self._read
            edit = self._edited_frame - self._read if self._edited_frame >= 0 else ready
            edited_at = max(0, edit) if ready and edit < ready else None
            moving = self.live.hand.moves_clock
            self._read += 0 if moving else ready
            if edited_at is not None:
                self._faded_in_frame, self._edited_frame = self._edited_frame + FADE_FRAMES, -1
            if not ready and (self._jump is not None or not self._playing):
                self.guard.forget()
            if ready and 0 <= self._changed_frame < self._read:
                self.change_latencies.append(time.monotonic() - self._asked_at)
                self._changed_frame = -1
            if self._playing and ready < frames:
                self._ran_dry()
            self._lock.notify_all()
        block, taken = self.live.hand.process(block, first, lambda: self.live.whereabouts(first))
        if moving:
            with self._lock:
                self._read += taken if self._read == first else 0
        if 0 <= self._faded_in_frame <= first:
            self._heard.append(None)
            self._faded_in_frame = -1
        if ready:
            self._heard.append(block)
        heard = self.guard.process(self._with_keys(block * self._gain, frames), edited_at)
        ready = heard.shape[1]
        if only_ready or ready == frames:
            return heard
        return np.concatenate((heard, np.zeros((2, frames - ready), np.float32)), axis=1)

    def _with_keys(self, block: Audio, frames: int) -> Audio:
        """What is played, and over it what is played on keys."""
        keys = self.keys
        if keys is None or not keys.sounding:
            return block
        played = keys.pull(frames) * self._gain
        played[:, : block.shape[1]] += block
        return played

    def _ran_dry(self) -> None:
        if not self._ended:
            self.underruns += 1
        elif self._read >= self._written:
            self._playing = False

    # -- the render thread ------------------------------------------------------------------------------

    def _run(self) -> None:
        meter = LiveMeter(self.rate)
        while True:
            with self._lock:
                while not self._stopping and not self._busy():
                    self._lock.wait(0.25)
                if self._stopping:
                    return
                heard = list(self._heard)
                self._heard.clear()
            try:
                self._work()
            except Exception as error:  # a fault of ours in what is played: something else can still be played
                LOG.exception("rendering for playback failed")
                self._give_up(error)
            self.meters = meter.hear(heard)

    def _work(self) -> None:
        """Do the most urgent step."""
        with self._lock:
            wanted, jump = self._wanted, self._jump
        live = self.live
        if live.near_due(self._read, self._written):
            at, block = live.make_near()
            with self._lock:
                live.write_near(at, block, self._read)
        elif wanted is not None or jump is not None:
            self._splice(wanted, jump)
        elif self._may_adopt():
            self._adopt()
        elif self._stream is not None and not self._ended and self._room() > 0:
            self._append()
        elif self._may_refine():
            self._refine()
        elif self._may_begin_live():
            live.begin(self._read, self._written)
        if (due := self._drums_due()) is not None:
            live.separate(due)

    def _give_up(self, error: Exception) -> None:
        """Stop playing what cannot be rendered, and say why. The place is kept."""
        with self._lock:
            self._failed = self._wanted or self._current()
            self._playing = self._ended = False
            self._written = self._read
            self._wanted = self._jump = self._stream = None
            self.failure = tr("Playback stopped: {0}").format(error or type(error).__name__)

    def _busy(self) -> bool:
        something = (self._stream is not None and not self._ended and self._room() > 0) or self._may_refine()
        something = something or self._may_adopt() or self._drums_due() is not None or self._may_begin_live()
        something = something or self.live.near_due(self._read, self._written)
        jumping = self._jump is not None and bool(self._marks)  # without a programme, a jump waits for one
        return self._wanted is not None or jumping or something or bool(self._heard)

    def _may_refine(self) -> bool:
        """True while a draft plays and nothing has changed for a while."""
        now = time.monotonic()
        quiet = now - self._asked_at > QUIET_SECONDS and now - self._refined_at > RETRY_SECONDS
        return quiet and self._refinement is None and self._stream is not None and self._stream.draft

    def _drums_due(self) -> int | None:
        return None if self._ended else self.live.drums_due(self._read, self._written)

    def _may_begin_live(self) -> bool:
        settled = self._playing and not self._ended and self._jump is None and self._wanted is None
        return settled and self.live.may_begin(self._current())

    def _room(self) -> int:
        ahead = DRUMS_AHEAD_SECONDS if self.live.separates_drums else AHEAD_SECONDS
        return int(ahead * self.rate) - (self._written - self._read)

    def _append(self) -> None:
        """Render one more block at the end of the ring."""
        stream = self._stream
        assert stream is not None
        block, marks = stream.read(BLOCK_FRAMES, self._written)
        with self._lock:
            self._ring.write(self._written, block)
            self._written += block.shape[1]
            self._marks.add(marks)
            self._marks.forget_before(self._read)
            self._ended = block.shape[1] == 0

    def _splice(self, wanted: PlaybackRequest | None, jump: int | None) -> None:
        """Replace the frames ahead with another programme, or another place."""
        with self._lock:
            mark, start = self._marks.at(self._read), self.live.splice_from(self._read, wanted, jump)
            old = mark.programme if mark else None
            programme = wanted or old
            if programme is None:
                self._jump = jump
                return
            playing = self._playing
        place = entry_frame(programme, old, mark, start, jump)
        stream = PlaybackStream(programme, place, draft=True)
        block, marks = stream.read(SPLICE_FRAMES, start)
        while not self._swap(start, block, marks, stream, wanted, jump, fade=playing and jump is None):
            more, later = stream.read(SPLICE_FRAMES, start + block.shape[1])
            block, marks = np.concatenate((block, more), axis=1), [*marks, *later]

    def _refine(self) -> None:
        """Prepare an exact stream for a place further ahead, once it need not wait for stretching."""
        with self._lock:
            draft, mark = self._stream, self._marks.at(self._written)
            assert draft is not None
            self._refined_at = time.monotonic()
            if mark is None or self._ended or mark.programme.side == "before":
                draft.draft = False
                return
            lead = round(draft.lead_seconds * self.rate) if self._playing else 0
            at, frame = self._written - FADE_FRAMES + lead, draft.frame_after(lead - FADE_FRAMES)
        if draft.ready(frame):
            self._refinement = Refinement(draft, mark.programme, frame, at, self._lock)

    def _adopt(self) -> None:
        """Take the exact stream over; prepare another, further ahead, if it came too late."""
        found = self._refinement
        assert found is not None
        self._refinement = None
        with self._lock:
            if self._stream is not found.replaces:
                return
            if found.failed:
                found.replaces.draft = False  # as good as it gets
                return
            if self._read >= found.at:
                found.replaces.lead_seconds *= 2.0
                return
            found.replaces.draft = False
            if found.block.shape[1] > FADE_FRAMES and self._written >= found.at + FADE_FRAMES:
                old = self._ring.read(found.at, FADE_FRAMES)
                found.block[:, :FADE_FRAMES] = crossfade(old, found.block[:, :FADE_FRAMES])
                self._ring.write(found.at, found.block)
                self._written = found.at + found.block.shape[1]
                self._marks.replace_from(found.at, found.marks)
                self._stream, self._ended = found.stream, False

    def _may_adopt(self) -> bool:
        """True once an exact stream is ready and the draft reaches the place where it takes over."""
        found = self._refinement
        if found is None or not found.done:
            return False
        return self._ended or found.replaces is not self._stream or self._written >= found.at + FADE_FRAMES

    def _swap(
        self,
        start: int,
        block: Audio,
        marks: list[RingMark],
        stream: "PlaybackStream",
        wanted: PlaybackRequest | None,
        jump: int | None,
        *,
        fade: bool,
    ) -> bool:
        """Replace the frames ahead by ``block``, which begins at ring frame ``start``; False if it came too late."""
        with self._lock:
            if self._jump != jump or (wanted is not None and self._wanted is not wanted):
                return True  # asked for something else meanwhile: that comes next
            guarded = self._read + (GUARD_FRAMES if fade else 0)
            skip = max(0, max(self._read, min(guarded, self._written)) - start)
            if skip + FADE_FRAMES > block.shape[1] and block.shape[1] and not stream.ended:
                return False
            skip = min(skip, block.shape[1])
            at = start + skip
            new = block[:, skip:].copy()
            overlap = min(FADE_FRAMES, self._written - at, new.shape[1]) if fade else 0
            if overlap > 0:
                new[:, :overlap] = crossfade(self._ring.read(at, overlap), new[:, :overlap])
            self._ring.write(at, new)
            self._written = at + new.shape[1]
            self._marks.replace_from(at, marks)
            self._stream, self._ended = stream, False
            self._jump = None
            if wanted is not None and self._wanted is wanted:
                self._wanted = None
                self.live.hand.chunks.clear()
                self._changed_frame = at
                self._edited_frame = at if fade else -1
            self._lock.notify_all()
            return True

    def _current(self) -> PlaybackRequest | None:
        """The programme being rendered: none after a failure."""
        return self._marks.last.programme if self._marks.last and self._stream is not None else None

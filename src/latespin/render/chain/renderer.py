"""Renders the versions of one track; shared by preview, measuring and export."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace

from latespin.analysis.profile import Profile, profile_of
from latespin.caches import MEGABYTE, Cache
from latespin.dsp.arrays import Audio
from latespin.dsp.metering.loudness import measure_loudness
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.media.track import Track
from latespin.model.arranging.arrangement import Arrangement, arrange
from latespin.model.moments.endings import EchoEnd, RingOut
from latespin.model.moments.faded_effects import ColourDip
from latespin.model.moments.held import Held
from latespin.model.moments.moments import Stutter
from latespin.model.timing.beat_clock import BeatClock
from latespin.model.timing.beat_grid import Grid
from latespin.model.timing.positions import Layout
from latespin.model.version import HALFTIME_BARS, Level, Stages, Time
from latespin.render.chain.chain import Chain, OverlaySet, Solo
from latespin.render.effects.context import EffectContext
from latespin.render.effects.sound_files import SoundLibrary
from latespin.render.sources.edited_reader import EditedReader, Source
from latespin.render.sources.music_reader import MusicReader
from latespin.render.timeline.echo_ending import EchoEndOverlay
from latespin.render.timeline.overlays import (
    DroppedIn,
    Overlay,
    RingOutOverlay,
    own_hall,
    sent,
    thrown,
)
from latespin.render.timeline.tail_lengths import send_of
from latespin.render.timeline.water import WaterOverlay, has_water

if TYPE_CHECKING:
    from latespin.render.chain.played_chain import PlayedChain

FEED_WARM_UP_SECONDS = 1.5  # of a room that is heard in another one


class _SongFacts:
    """Facts about a track, computed on first use. Holds no readers, so that it keeps none of them alive."""

    def __init__(self, track: Track) -> None:
        self._track = track
        self.profile: Profile | None = None
        self.lufs: float | None = None

    def find_profile(self) -> Profile:
        """Profile of the track."""
        if self.profile is None:
            self.profile = profile_of(self._track.sound, self._track.rate)
        return self.profile

    def find_lufs(self) -> float:
        """The integrated loudness of the track as it came."""
        if self.lufs is None:
            self.lufs = measure_loudness(self._track.sound, self._track.rate).integrated_lufs
        return self.lufs


class TrackRenderer:
    """Keeps the most recently used readers of Time stages, edited readers, and overlays."""

    LIMIT, BENT_LIMIT = 3, 6

    def __init__(
        self, track: Track, grid: Grid | None = None, attacks: TransientMap | None = None, layout: Layout | None = None
    ) -> None:
        self.track = track
        self.layout = layout or Layout(track.frames, track.rate, grid)
        self.attacks = attacks or TransientMap(track.sound, track.rate)
        self.sounds = SoundLibrary(track.rate)
        self._unclear_drums: set[Stutter] = set()
        self._song = _SongFacts(track)
        self._settings: Cache[Stages, EffectContext] = Cache("settings of versions", 64 * MEGABYTE, self.BENT_LIMIT)
        self._readers: Cache[Time, MusicReader] = Cache("readers", 64 * MEGABYTE, self.LIMIT)
        self._bent: Cache[Stages, Source] = Cache("readers of bent music", 64 * MEGABYTE, self.BENT_LIMIT)
        self._laid: Cache[Stages, OverlaySet] = Cache("overlays", 96 * MEGABYTE, self.BENT_LIMIT)

    @property
    def grid(self) -> Grid | None:
        """Beat grid of the track."""
        return self.layout.grid

    def laid_out(self, layout: Layout) -> "TrackRenderer":
        """The same for another layout; readers that do not go by bars are kept."""
        other = TrackRenderer(self.track, attacks=self.attacks, layout=layout)
        for reader in self._readers.values():
            if reader.time.halftime not in HALFTIME_BARS:
                other._readers.put(reader.time, reader)
        other.sounds, other._song = self.sounds, self._song
        return other

    def arrangement(self, stages: Stages) -> Arrangement:
        """Arrangement of a version."""
        return arrange(_unlevelled(stages), self.layout)

    def reader(self, time: Time) -> MusicReader:
        """The reader of a Time stage's music; stages that sound alike share one."""
        key = time.heard
        made = lambda: MusicReader(self.track, key, self.layout.grid, self.attacks)  # noqa: E731
        return self._readers.get_or_make(key, made)

    def source(self, stages: Stages) -> Source:
        """Reader of a version's music, with its moments and ending."""
        reader, arrangement = self.reader(stages.time), self.arrangement(stages)
        if not arrangement.bends:
            return reader
        key = replace(_unplayed(stages), colour=Stages().colour)
        return self._bent.get_or_make(key, lambda: EditedReader(reader, arrangement.song))

    @property
    def before_lufs(self) -> float:
        """The integrated loudness of the track as it came; measured when it is first needed."""
        return self._song.find_lufs()

    @before_lufs.setter
    def before_lufs(self, value: float) -> None:
        self._song.lufs = value

    @property
    def profile(self) -> Profile:
        """Profile of the track, computed on first use."""
        return self._song.find_profile()

    def context(self, stages: Stages) -> EffectContext:
        """Context in which the effects of a version are built."""
        arrangement, song = self.arrangement(stages), self._song

        def make() -> EffectContext:
            rate, ratios = self.track.rate, stages.time.pitch_ratios
            clock = BeatClock(arrangement.song, self.layout.grid, rate)
            find = lambda: song.find_profile().transposed((ratios[0] * ratios[1]) ** 0.5)  # noqa: E731
            return EffectContext(
                rate, clock, self.sounds, arrangement.song.after_frames, find, lambda: song.profile is not None,
                self._unclear_drums,
            )  # fmt: skip

        key = replace(_unplayed(stages), colour=Stages().colour)
        return self._settings.get_or_make(key, make)

    def chain(self, stages: Stages, solo: Solo | None = None) -> "Chain | PlayedChain":
        """A fresh chain of a version. solo : the part of an effect that is heard alone, for listening."""
        arranged, context = self.arrangement(stages), self.context(stages)
        chain = Chain(self.source(stages), stages, arranged, context, self._laid_over(stages), solo=solo)
        if not arranged.held:
            return chain
        from latespin.render.chain.played_chain import PlayedChain  # few versions have held moments

        return PlayedChain(chain, arranged, context)

    def _laid_over(self, stages: Stages) -> OverlaySet:
        arrangement = self.arrangement(stages)
        if arrangement.plain and not isinstance(arrangement.close.way, RingOut | EchoEnd):
            return OverlaySet()
        return self._laid.get_or_make(_unplayed(stages), lambda: self._lay_over(stages, arrangement))

    def _lay_over(self, stages: Stages, arrangement: Arrangement) -> OverlaySet:
        rate, music = self.track.rate, self.reader(stages.time)
        source, context = self.source(stages), self.context(stages)
        early = self._drum_stutters(arrangement, music)

        def feed(start: int) -> Callable[[int], Audio]:
            """The version as it is before anything is laid over it, in stereo."""
            chain = Chain(source, stages, arrangement, context, OverlaySet(early))
            chain.seek(start, FEED_WARM_UP_SECONDS)
            return lambda frames: chain.read_stereo(frames)

        late: list[Overlay] = [thrown(feed, during, rate) for during in arrangement.throws]
        for during in arrangement.sounds:
            sound, throw = DroppedIn(self.sounds.load, during, rate), send_of(during)
            late += [sound, sent(sound, throw, rate)] if throw is not None else [sound]
        late += self._ticks(arrangement)
        late += [
            own_hall(feed, d, rate)
            for d in arrangement.dips
            if isinstance(d.moment, ColourDip) and d.moment.colour == "hall"
        ]
        dives = [during for during in arrangement.dips if has_water(during)]
        last = arrangement.song.after_frames
        late += [WaterOverlay(during, rate, context.profile.level, last) for during in dives]
        close = arrangement.close
        if isinstance(close.way, RingOut):
            late.append(RingOutOverlay(feed, close, rate))
        elif isinstance(close.way, EchoEnd):
            late.append(EchoEndOverlay(feed, close, rate))
        return OverlaySet(early, tuple(late))

    def _ticks(self, arrangement: Arrangement) -> list[Overlay]:
        if not arrangement.ticks:
            return []
        from latespin.render.timeline.ticks import TickOverlay  # few versions have any

        return [TickOverlay(tick, self.track.rate, arrangement.song.after_frames) for tick in arrangement.ticks]

    def _drum_stutters(self, arrangement: Arrangement, music: MusicReader) -> tuple[Overlay, ...]:
        if not arrangement.drums:
            return ()
        from latespin.render.timeline.drum_stutter import DrumStutterOverlay  # few versions have any

        rate, channels, unclear = self.track.rate, int(self.track.sound.shape[0]), self._unclear_drums
        return tuple(
            DrumStutterOverlay(music.read, drums, rate, channels, partial(unclear.add, drums.moment))
            for drums in arrangement.drums
        )


def _unlevelled(stages: Stages) -> Stages:
    """The same values with a neutral Level stage, which cannot affect anything before it."""
    return replace(stages, level=Level())


def _unplayed(stages: Stages) -> Stages:
    """The same values without held moves and level: nothing before those depends on them."""
    moments = stages.moments
    if any(isinstance(moment, Held) for moment in moments.placed):
        moments = replace(moments, placed=tuple(m for m in moments.placed if not isinstance(m, Held)))
    return replace(stages, level=Level(), moments=moments)

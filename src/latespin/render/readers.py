"""The readers of one track, its layout, and what its versions are made of; shared by preview, measuring and export."""

import threading
from collections import OrderedDict
from collections.abc import Callable
from typing import TypeVar

from msgspec.structs import replace

from latespin.analysis.profile import Profile, profile_of
from latespin.dsp.attacks import AttackMap
from latespin.dsp.loudness import measure_loudness
from latespin.dsp.types import Audio
from latespin.media.track import Track
from latespin.model.arrangement import Arrangement, arrange
from latespin.model.clock import Clock
from latespin.model.endings import EchoEnd, RingOut
from latespin.model.grid import Grid
from latespin.model.place import Layout
from latespin.model.version import HALFTIME_BARS, Level, Stages, Time
from latespin.render.bent import BentReader, Source
from latespin.render.chain import Chain, Laid
from latespin.render.overlays import DroppedIn, DrumsStuttered, Overlay, RungOut, WoundDown, own_hall, thrown
from latespin.render.reader import Reader
from latespin.render.setting import Setting
from latespin.render.sounds import Sounds

FEED_WARM_UP_SECONDS = 1.5  # of a room that is heard in another one
Key = TypeVar("Key")
Kept = TypeVar("Kept")


class Readers:
    """What was used last is kept: readers of Time stages, bent readers, and what is laid over versions."""

    LIMIT, BENT_LIMIT = 3, 6

    def __init__(
        self, track: Track, grid: Grid | None = None, attacks: AttackMap | None = None, layout: Layout | None = None
    ) -> None:
        self.track = track
        self.layout = layout or Layout(track.frames, track.rate, grid)
        self.attacks = attacks or AttackMap(track.sound, track.rate)
        self.sounds = Sounds(track.rate)
        self._profile: Profile | None = None
        self._before_lufs: float | None = None
        self._settings: OrderedDict[Stages, Setting] = OrderedDict()
        self._lock = threading.Lock()
        self._readers: OrderedDict[Time, Reader] = OrderedDict()
        self._bent: OrderedDict[Stages, Source] = OrderedDict()
        self._laid: OrderedDict[Stages, Laid] = OrderedDict()

    @property
    def grid(self) -> Grid | None:
        """Where the track's beats lie."""
        return self.layout.grid

    def laid_out(self, layout: Layout) -> "Readers":
        """The same for another layout; readers that do not go by bars are kept."""
        other = Readers(self.track, attacks=self.attacks, layout=layout)
        with self._lock:
            kept = {time: reader for time, reader in self._readers.items() if time.halftime not in HALFTIME_BARS}
        other._readers.update(kept)
        other.sounds, other._profile, other._before_lufs = self.sounds, self._profile, self._before_lufs
        return other

    def arrangement(self, stages: Stages) -> Arrangement:
        """What happens when in a version."""
        return arrange(_unlevelled(stages), self.layout)

    def reader(self, time: Time) -> Reader:
        """The reader of a Time stage's music; stages that sound alike share one."""
        key = time.heard
        made = lambda: Reader(self.track, key, self.layout.grid, self.attacks)  # noqa: E731
        return self._keep(self._readers, key, made, self.LIMIT)

    def source(self, stages: Stages) -> Source:
        """What gives a version's music, its time bent by moments and the ending."""
        reader, arrangement = self.reader(stages.time), self.arrangement(stages)
        if not arrangement.bends:
            return reader
        key = replace(_unlevelled(stages), colour=Stages().colour)
        return self._keep(self._bent, key, lambda: BentReader(reader, arrangement.map), self.BENT_LIMIT)

    @property
    def before_lufs(self) -> float:
        """The integrated loudness of the track as it came; measured when it is first needed."""
        if self._before_lufs is None:
            self._before_lufs = measure_loudness(self.track.sound, self.track.rate).integrated_lufs
        return self._before_lufs

    @before_lufs.setter
    def before_lufs(self, value: float) -> None:
        self._before_lufs = value

    @property
    def profile(self) -> Profile:
        """What the track is like; worked out when it is first needed."""
        if self._profile is None:
            self._profile = profile_of(self.track.sound, self.track.rate)
        return self._profile

    def setting(self, stages: Stages) -> Setting:
        """What the colours of a version are made in."""
        arrangement = self.arrangement(stages)

        def make() -> Setting:
            rate, ratios = self.track.rate, stages.time.pitch_ratios
            clock = Clock(arrangement.map, self.layout.grid, rate)
            find = lambda: self.profile.transposed((ratios[0] * ratios[1]) ** 0.5)  # noqa: E731
            return Setting(
                rate, clock, self.sounds, arrangement.map.after_frames, find, lambda: self._profile is not None
            )

        key = replace(_unlevelled(stages), colour=Stages().colour)
        return self._keep(self._settings, key, make, self.BENT_LIMIT)

    def chain(self, stages: Stages) -> Chain:
        """A fresh chain of a version."""
        return Chain(
            self.source(stages), stages, self.arrangement(stages), self.setting(stages), self._laid_over(stages)
        )

    def _laid_over(self, stages: Stages) -> Laid:
        arrangement = self.arrangement(stages)
        if arrangement.plain and not isinstance(arrangement.close.way, RingOut | EchoEnd):
            return Laid()
        return self._keep(self._laid, _unlevelled(stages), lambda: self._lay_over(stages, arrangement), self.BENT_LIMIT)

    def _lay_over(self, stages: Stages, arrangement: Arrangement) -> Laid:
        rate, music = self.track.rate, self.reader(stages.time)
        channels = int(self.track.sound.shape[0])
        early = tuple(DrumsStuttered(music.read, drums, rate, channels) for drums in arrangement.drums)

        def feed(start: int) -> Callable[[int], Audio]:
            """The version as it is before anything is laid over it, in stereo."""
            chain = Chain(self.source(stages), stages, arrangement, self.setting(stages), Laid(early))
            chain.seek(start, FEED_WARM_UP_SECONDS)
            return lambda frames: chain.read_stereo(frames)

        late: list[Overlay] = [thrown(feed, during, rate) for during in arrangement.throws]
        late += [DroppedIn(self.sounds.load, during, rate) for during in arrangement.sounds]
        late += [own_hall(feed, d, rate) for d in arrangement.dips if d.moment.colour == "hall"]  # type: ignore[union-attr]
        close = arrangement.close
        if isinstance(close.way, RingOut):
            late.append(RungOut(feed, close, rate))
        elif isinstance(close.way, EchoEnd):
            late.append(WoundDown(feed, close, rate))
        return Laid(early, tuple(late))

    def _keep(self, kept: "OrderedDict[Key, Kept]", key: Key, make: Callable[[], Kept], limit: int) -> Kept:
        with self._lock:
            found = kept.get(key)
        if found is None:
            found = make()
        with self._lock:
            found = kept.setdefault(key, found)
            kept.move_to_end(key)
            while len(kept) > limit:
                kept.popitem(last=False)
        return found


def _unlevelled(stages: Stages) -> Stages:
    """The same values with a Level stage that all share, since it has no say in what lies before it."""
    return replace(stages, level=Level())

"""Time-stretching at constant pitch: a phase vocoder with phase locking.

* Phase advances are measured over exactly one synthesis hop, from two analysis frames that far apart,
  so nothing has to be unwrapped (M. Puckette, "Phase-locked vocoder", WASPAA 1995); the two lie evenly
  around the middle between the frames to be joined, so that gliding tones are followed without a lag.
* All bins around a spectral peak turn by one angle, which keeps their phases related as they were
  (identity phase locking: J. Laroche and M. Dolson, "Improved phase vocoder time-scale modification of
  audio", IEEE Trans. Speech and Audio Processing 7(3), 1999).
* The angle is taken from the cross-spectra of all channels added up and applied to all of them alike, so
  that the phase between left and right stays what it was.
* The partials of a voice are turned as one (see :mod:`latespin.dsp.stretching.shape_lock`).
* The lows have a longer window where no attack is near (see :mod:`latespin.dsp.stretching.low_band`).
* Tones that glide get the spectrum of the slower or faster glide they become (see :mod:`latespin.dsp.stretching.chirps`).
* Own design: the result is made in segments of a few seconds. All that takes long in one is done without the others;
  only the phases with which it begins come from the one before. Where they are kept, any segment can be made
  again by itself and is always the same.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import scipy.fft

from latespin.caches import MEGABYTE, Cache
from latespin.dsp.arrays import Audio, Floats, Spectra, check_audio, check_range
from latespin.dsp.control.fades import hann
from latespin.dsp.onsets.transient_map import TransientMap
from latespin.dsp.stretching import phase_kernels as phases
from latespin.dsp.stretching.characters import FULL_MIX, Character
from latespin.dsp.stretching.low_band import SIZE, LowBatch, low_band_for
from latespin.dsp.stretching.noise_phases import randomise_noise
from latespin.dsp.stretching.regions import Frames, Regions, find_regions
from latespin.dsp.stretching.rereading import Rereading, reread
from latespin.dsp.stretching.spectral_envelope import formant_gain
from latespin.dsp.stretching.transient_holds import TransientAlignment, TransientHold
from latespin.dsp.timing.speed_by_position import SpeedByPosition

FormantWarp = Callable[[Floats], Floats]
OVERLAP = 4
LEAST_BATCH = 16  # frames of a forward stretch made at once
SEGMENT_SECONDS = 4.0
KEPT_ATTACKS = 64
LEAST_LIFT = 1.12  # of the lows: an attack that raises them less is none of theirs
LOWEST_RATE, HIGHEST_RATE = 1.0 / 1024.0, 64.0


@dataclass(frozen=True)
class Segment:
    """A part of the result: ``sound`` is to be added from frame ``start`` on."""

    start: int
    sound: Audio

    def kept_bytes(self) -> int:
        """How much memory it takes."""
        return int(self.sound.nbytes)


@dataclass(frozen=True)
class FrameBatch(Frames):
    """Frames from the one with number ``first`` on; ``low`` : their lows, where these are made apart."""

    first: int
    low: LowBatch | None = None


class Stretcher:
    """Reads a song at changing speeds, its pitch unchanged.

    song : float32 ``[channels, frames]``, silent outside; kept, not changed.
    sample_rate : frames per second.  speeds : over source frames, 1/1024 to 64.
    start, stop : the frames of the result that are right.  transients : those of the song, where they are kept for several
    stretchers.  warp : where the spectral envelope at f shall become what it was at warp · f: the factor at source frames.
    Raises OutOfRange for speeds.
    """

    def __init__(
        self,
        song: Audio,
        sample_rate: float,
        speeds: SpeedByPosition,
        start: int,
        stop: int,
        transients: TransientMap | None = None,
        character: Character = FULL_MIX,
        warp: FormantWarp | None = None,
    ) -> None:
        check_audio(song)
        for piece in speeds.pieces:
            check_range("rate", piece.speed, LOWEST_RATE, HIGHEST_RATE, "×")
        self._song = np.ascontiguousarray(song)  # else its kernel would be compiled once more, with the sound stopped
        self.channels = int(song.shape[0])
        self.window = max(64, _quick_size(character.window_seconds * sample_rate))
        self.hop = self.window // OVERLAP
        self._alignment = TransientAlignment(
            speeds,
            transients or TransientMap(song, sample_rate),
            round(character.hold * self.window),
            round(character.recover_seconds * sample_rate),
        )
        self._powers: Cache[int, np.ndarray] = Cache("powers about attacks", MEGABYTE, KEPT_ATTACKS)
        self._character, self._warp, self._rate = character, warp, sample_rate
        self._low = None if character.randomise_noise else low_band_for(sample_rate, self.hop, self.window)
        self.reach = max(self.window // 2, self._low.reach if self._low else 0)
        self._kept = self._low.left if self._low else np.zeros(0, np.float32)
        self._period = max(4, round(SEGMENT_SECONDS * sample_rate / self.hop))
        self._first = (start - self.reach) // self.hop + 1
        self._last = max(self._first, -((-stop - self.reach) // self.hop) - 1)
        self._shape = hann(self.window)
        self._gain = np.float32(1.0 / (0.375 * OVERLAP))

    # -- segments ------------------------------------------------------------------------------------------

    def segments(self, start: int, stop: int) -> range:
        """The numbers of the segments that sound between frames ``start`` and ``stop`` of the result."""
        first = ((start - self.reach) // self.hop + 1 - self._first) // self._period
        last = (-((-stop - self.reach) // self.hop) - 1 - self._first) // self._period
        return range(max(0, first), min(last + 1, self.count))

    @property
    def count(self) -> int:
        """How many segments there are, numbered from 0."""
        return (self._last - self._first) // self._period + 1

    def prepare(self, number: int) -> FrameBatch:
        """All of a segment that does not depend on the one before."""
        first = self._first + number * self._period
        return self.grains(first, min(first + self._period, self._last + 1))

    def entry(self) -> Spectra:
        """The turns with which segment 0 begins; not to be changed."""
        return _no_turns(self.window // 2 + 1 + (SIZE // 2 + 1 if self._low else 0))

    def grains(self, first: int, last: int) -> FrameBatch:
        """All that is known of the frames ``first`` to ``last``, looking one frame further to both sides."""
        more, near = (self._low.margin, self._low.near + self.hop) if self._low else (0, 0)
        all_times = np.arange(first - 2 - more, last + 3 + more) * self.hop
        holds = self._alignment.holds(int(all_times[0]) - near, int(all_times[-1]) + near)
        soft_holds = self._alignment.soft_holds(int(all_times[0]) - near, int(all_times[-1]) + near)
        all_around = self._alignment.places(all_times, holds)
        times, around = all_times[more : len(all_times) - more], all_around[more : len(all_times) - more]
        stretch_ratio = (2.0 * self.hop) / np.maximum(1.0, around[2:] - around[:-2])
        between = (around[1:-1] + around[:-2]) // 2
        now, advance = self._spectra(around[1:-1]), self._spectra(between + self.hop // 2)
        advance *= np.conj(self._spectra(between - self.hop // 2))
        phase_reset = self._phase_reset(holds + soft_holds, times[1:-1], now.shape[2])
        rereadings = self._rereadings(soft_holds, times)
        reread(rereadings, lambda centres, _: self._spectra(centres), np.arange(now.shape[2]), now, advance)
        regions = find_regions(now, stretch_ratio, self.hop)
        regions.phase_slopes[phase_reset] = 1.0
        if self._character.randomise_noise:
            self._randomise(regions, around[1:-1], phase_reset, first - 1)
        formants = None
        if self._warp is not None:
            formants = formant_gain(regions.powers, self._rate, self._warp(around[1:-1].astype(np.float64)))
            regions.gain[:] *= formants
        low = None
        if self._low is not None:
            places = (around[1:-1], between + self.hop // 2, between - self.hop // 2)
            struck = self._near_low_attacks(holds + soft_holds, near, all_times[1:-1], all_around[1:-1])
            low = self._low.grains(
                self._song, places, all_around[1:-1], struck, rereadings, stretch_ratio, phase_reset, formants
            )
        inner = slice(1, -1)
        return FrameBatch(
            now[inner], advance[inner], regions.peak_of_bin[inner], phase_reset[inner], regions.phase_slopes[inner],
            regions.via[inner], regions.ahead[inner], regions.gain[inner], first, low,
        )  # fmt: skip

    def _randomise(self, regions: Regions, centres: np.ndarray, phase_reset: np.ndarray, first: int) -> None:
        """Give what is not a tone fresh phases."""
        half = self.window // 2
        before, after = self._spectra(centres - half), self._spectra(centres + half)
        randomise_noise(
            regions.powers, before, after, regions.peak_of_bin, first, phase_reset, regions.phase_slopes, regions.gain,
        )  # fmt: skip

    def turns(self, grains: FrameBatch, entry: Spectra) -> Spectra:
        """How much each bin of each frame is turned, ``[frames, bins]``, the first frame by ``entry``."""
        low, bins = grains.low, grains.now.shape[2]
        rate = 0.0 if self._character.randomise_noise else float(self._rate)
        turns = grains.phase_slopes.copy()
        turns[0] = entry[:bins]
        if self._low is None or low is None:
            phases.propagate_phases(*grains.parts(), rate, turns)
            return turns
        low_turns = low.phase_slopes.copy()
        low_turns[0] = entry[bins:]
        phases.propagate_with_lows(
            *grains.parts(), rate, turns, *low.parts(), self._low.ratio, self._low.adopted, low_turns
        )
        return np.concatenate((turns, low_turns), axis=1)

    def finish(self, grains: FrameBatch, turns: Spectra) -> Segment:
        """The sound of all frames but the last, which is the first of the next segment."""
        spectra, bins = grains.now[:-1], grains.now.shape[2]
        gains = turns[:-1, :bins] * grains.gain[:-1]
        gains[:, : len(self._kept)] *= self._kept
        phases.rotate(spectra, gains)
        waves = scipy.fft.irfft(spectra, axis=-1, overwrite_x=True)
        out = np.zeros((self.channels, (len(waves) - 1) * self.hop + self.window), np.float32)
        phases.overlap_add(waves, self._shape * self._gain, self.hop, out)
        if self._low is None or grains.low is None:
            return Segment(grains.first * self.hop - self.window // 2, out)
        lows = self._low.finish(grains.low, turns[:, bins:])[:, : out.shape[1] + 2 * self.reach - self.window]
        inside = self.reach - self.window // 2
        lows[:, inside : inside + out.shape[1]] += out
        return Segment(grains.first * self.hop - self.reach, lows)

    def forward(self, start: int) -> "ForwardStretch":
        """The result from a frame on, at once, without what comes before."""
        return ForwardStretch(self, start)

    # -- frames --------------------------------------------------------------------------------------------

    def _phase_reset(self, holds: list[TransientHold], times: np.ndarray, bins: int) -> np.ndarray:
        """Where phases start afresh, bool ``[frames, bins]``: bins that an attack lifts, while it is heard."""
        phase_reset = np.zeros((len(times), bins), np.bool_)
        for hold in holds:
            covered = hold.covers(times)
            if covered.any():
                phase_reset[covered] |= self._lifted(hold)
        return phase_reset

    def _rereadings(self, holds: list[TransientHold], times: np.ndarray) -> list[Rereading]:
        """The bins of soft onsets; ``times`` reach one frame further than the frames to both sides."""
        found = []
        for hold in holds:
            near = np.flatnonzero(hold.reaches(times[1:-1]))
            if len(near) == 0:
                continue
            spots = times[near[0] : near[-1] + 2]
            around = self._alignment.places(spots, [hold])
            between = (around[1:] + around[:-1]) // 2
            half = self.hop // 2
            found.append(
                Rereading(
                    int(near[0]),
                    around[1:],
                    between + half,
                    between - half,
                    ~hold.covers(spots[1:]),
                    self._lifted(hold),
                )
            )
        return found

    def _near_low_attacks(
        self, holds: list[TransientHold], reach: int, times: np.ndarray, places: np.ndarray
    ) -> np.ndarray:
        """Which frames have an attack of the lows so near that the long window would spread it."""
        near = np.zeros(len(times), np.bool_)
        for hold in holds:
            close = (np.abs(times - hold.output_frame) < reach) | (np.abs(places - hold.place) < reach)
            if close.any() and self._lifts_lows(hold):
                near |= close
        return near

    def _lifts_lows(self, hold: TransientHold) -> bool:
        """Whether an attack raises the lows."""
        before, after = self._around(hold)[:, : len(self._kept)].sum(axis=1)
        return bool(after > LEAST_LIFT * before)

    def _lifted(self, hold: TransientHold) -> np.ndarray:
        """Bins with clearly more power just after an attack than just before it."""
        before, after = self._around(hold)
        return np.asarray(after > hold.lift * before)

    def _around(self, hold: TransientHold) -> np.ndarray:
        """Power of every bin just before and just after an attack, ``[2, bins]``."""

        def measured() -> np.ndarray:
            around = np.array([hold.place - self.window // 2, hold.place + self.window // 4])
            return np.asarray(np.sum(np.abs(self._spectra(around)) ** 2, axis=1))

        return self._powers.get_or_make(hold.place, measured)

    def _spectra(self, centres: np.ndarray) -> Spectra:
        """Windowed spectra ``[frames, channels, bins]`` around the given source frames."""
        grains = np.empty((len(centres), self.channels, self.window), np.float32)
        phases.cut_grains(self._song, centres - self.window // 2, self._shape, grains)
        return np.asarray(scipy.fft.rfft(grains, axis=-1, overwrite_x=True), dtype=np.complex64)


@lru_cache(maxsize=8)
def _no_turns(bins: int) -> Spectra:
    return np.ones(bins, np.complex64)


def _quick_size(wanted: float) -> int:
    """The size nearest to the one wanted that is 4, 5, 6 or 7 times a power of two."""
    power = 2 ** max(2, int(np.floor(np.log2(wanted / 4.0))))
    return int(min((times * power for times in (4, 5, 6, 7, 8)), key=lambda size: abs(size - wanted)))


class ForwardStretch:
    """A stretcher's result read in order from one frame on, without waiting for whole segments.

    It sounds as good, but its phases are not those of the segments.
    """

    def __init__(self, stretcher: Stretcher, start: int) -> None:
        self._stretcher = stretcher
        self._frame = (start - stretcher.reach) // stretcher.hop
        self._ready = np.zeros((stretcher.channels, 0), np.float32)
        self._open = np.zeros((stretcher.channels, 2 * stretcher.reach - stretcher.hop), np.float32)
        self._entry = stretcher.entry()
        self._skip = start - (self._frame * stretcher.hop - stretcher.reach)

    def read(self, frames: int) -> Audio:
        """The next ``[channels, frames]``."""
        missing = frames + self._skip - self._ready.shape[1]
        if missing > 0:
            batch = max(LEAST_BATCH, -(-missing // self._stretcher.hop))
            self._ready = np.concatenate((self._ready, self._next(batch)), axis=1)
        self._ready = self._ready[:, self._skip :]
        self._skip = 0
        out, self._ready = self._ready[:, :frames], self._ready[:, frames:]
        return out

    def _next(self, batch: int) -> Audio:
        """Frames finished by one more batch of grains; the first grain carries on from the batch before."""
        grains = self._stretcher.grains(self._frame, self._frame + batch)
        turns = self._stretcher.turns(grains, self._entry)
        self._entry = turns[-1].copy()
        sound = self._stretcher.finish(grains, turns).sound
        kept = self._open.shape[1]
        sound[:, :kept] += self._open
        done = batch * self._stretcher.hop
        self._open = sound[:, done:]
        self._frame += batch
        return sound[:, :done]

"""Encoding only those passages of an Opus file again that are over the ceiling.

Encoding the whole file again moves the peaks elsewhere, because the encoder then distributes its bits differently. Here the rest of the file stays as it is:
the gain drops a little around each peak, for about a tenth of a second, and the packets of that passage are replaced by those of a trial that holds the ceiling.

Decoding a packet needs state from the packet before it (pitch filter, window overlap). A seam is therefore placed where two packets in a row begin with the
same bytes in both encodings: they carry the same decisions. The error at such a seam is the codec's own; at other seams we measured up to 15 dB more.
"""

import contextlib
import math
import shutil
import tempfile
from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from latespin.ahead import made_ahead
from latespin.dsp.arrays import Audio, Floats, amplitude
from latespin.dsp.dynamics.limiter import PLACE_SECONDS
from latespin.errors import LateSpinError
from latespin.jobs import Work, step
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import Encoding
from latespin.media.audio.opus_packets import (
    CELT_ONLY,
    PACKET_FRAMES,
    RATE,
    OpusPackets,
    exchange_packets,
    packet_heads,
)
from latespin.media.tags import Tags
from latespin.media.track import open_track
from latespin.render.export.codec_headroom import (
    MORE,
    PEAK_DB,
    Decoded,
    decode_and_measure,
    lowered_where_over,
    over_by_place,
)
from latespin.render.export.codec_trial import AT_ONCE, Passage, passages_around
from latespin.render.mastering.measure import LevelSolution

SUFFIX = ".opus"
PACKET_SECONDS = PACKET_FRAMES / RATE
WARM_UP_SECONDS = 1.0  # of a trial, before it can be joined to the file
JOINED_SECONDS, REST_SECONDS = 0.4, 0.1  # at both ends of a passage, in which it can be; and of the trial after that
ROUNDED = np.array([0.25, 0.5, 0.25])  # over places, how a dip begins and ends
HELD = 5  # places, with one to either side of those it is rounded over, since gains lie between the middles of places


def can_be_patched(target: Path) -> bool:
    """Whether passages of a file can be encoded again by themselves."""
    return target.suffix.lower() == SUFFIX


def patched(
    file: Path, solved: LevelSolution, decoded: Decoded, encoding: Encoding, ceiling_dbtp: float, work: Work
) -> Decoded:
    """Exchange what is over the ceiling in an Opus file of a version; its levels then. Raises Cancelled, OSError.

    decoded : levels of the file as it is.  Where there is no room for passages, the file stays as it is: it can be encoded again as a whole.
    """
    places = math.ceil(solved.sound.shape[1] / (PLACE_SECONDS * solved.matched.rate)) + 1
    dips = np.ones(places)
    for turn in range(len(MORE)):
        if decoded.facts.true_peak_dbtp - ceiling_dbtp <= PEAK_DB:
            break
        over = np.ones(places)
        over[: len(decoded.over)] = decoded.over[:places]
        dips *= lowered_where_over(over, turn)
        with contextlib.ExitStack() as stack:
            try:
                folder = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="late-spin-")))
                new = folder / f"whole{SUFFIX}"
                patcher = _Patcher(solved, encoding, amplitude(ceiling_dbtp), folder, work)
                packets = _packets(
                    patcher.patches(_apart(passages_around(over, places)), dips, packet_heads(file)), dips
                )
                exchange_packets(file, new, packets)
            except (LateSpinError, OSError):
                break
            shutil.copyfile(new, file)
        decoded = decode_and_measure(file, ceiling_dbtp)
    return decoded


def _packets(patches: "list[_Patch]", dips: Floats) -> dict[int, bytes]:
    """The packets of all patches by their number; their dips are kept in ``dips``."""
    packets: dict[int, bytes] = {}
    for patch in patches:
        packets |= patch.packets
        dips[patch.passage.start : patch.passage.stop] = patch.dips
    return packets


@dataclass(frozen=True, eq=False)
class _Patch:
    """A passage made anew: its packets by their number in the file, and by how much its places dip."""

    passage: Passage
    packets: dict[int, bytes]
    dips: Floats


@dataclass(frozen=True, eq=False)
class _Patcher:
    """Makes passages of a version's file anew. ceiling : a ratio."""

    solved: LevelSolution
    encoding: Encoding
    ceiling: float
    folder: Path
    work: Work

    def patches(self, passages: list[Passage], dips: Floats, heads: list[bytes]) -> list[_Patch]:
        """Passages that hold the ceiling, if it can be. dips : ratios by place that the level is lowered by to begin with.  heads : of the file's packets."""
        made: list[_Patch] = []
        waiting: deque[Future[_Patch]] = deque()
        with ThreadPoolExecutor(AT_ONCE, "patch") as pool:
            for passage, first, sound in self._cut(passages):
                waiting.append(pool.submit(self._patch, passage, first, sound, dips.copy(), heads))
                if len(waiting) > 2 * AT_ONCE:
                    made.append(waiting.popleft().result())
            return made + [future.result() for future in waiting]

    def _cut(self, passages: list[Passage]) -> Iterator[tuple[Passage, int, Audio]]:
        """Passages with what is around them: each with the number of its first packet, and its finished sound."""
        rate, frames = self.solved.matched.rate, self.solved.sound.shape[1]
        spans = deque((passage, *self._span(passage)) for passage in passages)
        parts: deque[tuple[int, Audio]] = deque()
        done = 0
        with closing(made_ahead(self.solved.blocks())) as blocks:
            for block in blocks:
                step(self.work, done / frames)
                parts.append((done, block))
                done += block.shape[1]
                while spans and (done >= spans[0][2] or done == frames):
                    passage, first, stop = spans.popleft()
                    yield passage, round(first / rate / PACKET_SECONDS), _between(parts, first, min(stop, done))
                while parts and (not spans or parts[0][0] + parts[0][1].shape[1] <= spans[0][1]):
                    parts.popleft()

    def _span(self, passage: Passage) -> tuple[int, int]:
        """The frames of a passage and what is around it; a packet begins with the first."""
        rate = self.solved.matched.rate
        start = passage.start * PLACE_SECONDS - JOINED_SECONDS - WARM_UP_SECONDS
        first = max(0, math.floor(start / PACKET_SECONDS))
        stop = passage.stop * PLACE_SECONDS + JOINED_SECONDS + REST_SECONDS
        return round(first * PACKET_SECONDS * rate), math.ceil(stop * rate)

    def _patch(self, passage: Passage, first: int, sound: Audio, dips: Floats, heads: list[bytes]) -> _Patch:
        """One passage. first : the packet with which its sound begins."""
        file = self.folder / f"{passage.start}{SUFFIX}"
        own, begun = slice(passage.start, passage.stop), round(first * PACKET_SECONDS / PLACE_SECONDS)
        for turn in range(len(MORE)):
            step(self.work, 0.0)
            dipped = sound * _gain(dips[begun:], sound.shape[1], self.solved.matched.rate)
            encode(
                file, [dipped], rate=self.solved.matched.rate, channels=sound.shape[0], encoding=self.encoding, tags=Tags(),
                overwrite=True, sources=(),
            )  # fmt: skip
            decoded = open_track(file, self.work, fold=False)
            heard = over_by_place(decoded.sound, decoded.rate, self.ceiling)[passage.start - begun :]
            over = np.ones(passage.stop - passage.start)
            over[: len(heard)] = heard[: len(over)]
            if over.max() <= amplitude(0.5 * PEAK_DB):
                break
            dips[own] *= lowered_where_over(over, turn)
        start = math.floor(passage.start * PLACE_SECONDS / PACKET_SECONDS)
        stop = math.ceil(passage.stop * PLACE_SECONDS / PACKET_SECONDS) + 1
        joined = _joined(heads, packet_heads(file), first, start, stop)
        return _Patch(passage, {n: packet for n, packet in OpusPackets(file).sound(first) if n in joined}, dips[own])


def _apart(passages: list[Passage]) -> list[Passage]:
    """Passages, as one where there is no room for a seam between two."""
    least = 2.0 * JOINED_SECONDS / PLACE_SECONDS
    out: list[Passage] = []
    for passage in passages:
        start = out.pop().start if out and passage.start - out[-1].stop < least else passage.start
        out.append(Passage(start, passage.stop))
    return out


def _joined(heads: list[bytes], others: list[bytes], first: int, start: int, stop: int) -> range:
    """The packets to exchange around those from ``start`` to ``stop``; none where no seam is to be had.

    heads : of the file's packets.  others : of a trial's, which begins with packet ``first``.
    """
    reach = round(JOINED_SECONDS / PACKET_SECONDS)

    def alike(at: int) -> bool:
        ends = at <= 0 or at >= min(len(heads), first + len(others))
        both = heads[at - 1 : at + 1]
        return ends or (both == others[at - 1 - first : at + 1 - first] and min(both) >= CELT_ONLY)

    begins = next((at for at in range(start, max(first, start - reach) - 1, -1) if alike(at)), None)
    ends = next((at for at in range(stop, stop + reach) if alike(at)), None)
    return range(0) if begins is None or ends is None else range(begins, min(ends, len(heads)))


def _between(parts: deque[tuple[int, Audio]], first: int, stop: int) -> Audio:
    """Frames ``first`` to ``stop`` out of blocks that begin at known frames."""
    cut = [block[:, max(0, first - at) : stop - at] for at, block in parts if at < stop and at + block.shape[1] > first]
    return np.concatenate(cut, axis=1)


def _gain(dips: Floats, frames: int, rate: int) -> Audio:
    """The gain of frames from dips by place: as deep as asked for throughout a place, rounded before and after it."""
    from scipy.ndimage import minimum_filter1d  # seldom needed

    wide = minimum_filter1d(dips, HELD, mode="nearest")
    rounded = np.convolve(np.pad(wide, len(ROUNDED) // 2, mode="edge"), ROUNDED, mode="valid")
    places = (np.arange(frames) / rate) / PLACE_SECONDS - 0.5
    return np.interp(places, np.arange(len(rounded)), rounded).astype(np.float32)

"""Grids in files: Standard MIDI Files with a tempo map (RP-001), and CSV with a line for each beat."""

import csv
import io
import math
from pathlib import Path

import mido
import numpy as np

from latespin.errors import Unreadable, shortened
from latespin.language import localised, tr
from latespin.media.files.atomic import write_bytes
from latespin.media.files.guard import Sources
from latespin.media.files.regular import read_regular
from latespin.model.timing.beat_grid import Grid
from latespin.model.values.parameters import BEATS_PER_BAR, BPM

TICKS = 960  # to a beat
BAR_ONE = "bar 1"
COLUMNS = ("seconds", "bar", "beat")
MIDI_SUFFIXES = (".mid", ".midi")
MOST_BYTES, MOST_BEATS = 16 << 20, 100_000
MOST_TICKS = 0x7FFF  # to a quarter note; a division with its highest bit set counts SMPTE frames (RP-001)
STEADY_SECONDS = 0.0005  # farthest that read beats may lie from even ones to be taken for steady


def write_grid(grid: Grid, song_seconds: float, path: Path, *, overwrite: bool, sources: Sources) -> None:
    """Write the beats of a song, as MIDI or CSV by the file's suffix. Raises Unwritable."""
    numbers = grid.numbers_between(0.0, song_seconds)
    times = grid.seconds_of(numbers)
    midi = path.suffix.lower() in MIDI_SUFFIXES
    data = _midi(grid, numbers, times) if midi else _csv(grid, numbers, times)
    write_bytes(path, data, overwrite=overwrite, sources=sources)


def read_grid(path: Path) -> Grid:
    """The grid in a MIDI file's tempo map or a CSV file. Raises Unreadable with the fault and its place."""
    data = read_regular(path, MOST_BYTES)
    times, first, metre = (_from_midi if path.suffix.lower() in MIDI_SUFFIXES else _from_csv)(data, path.name)
    if len(times) > MOST_BEATS:
        raise Unreadable(
            tr("{0} has {1} beats; it can have {2}. Choose another file.").format(
                path.name, localised(f"{len(times):,}"), localised(f"{MOST_BEATS:,}")
            )
        )
    if len(times) < 2:
        raise Unreadable(tr("{0} has fewer than two beats. Choose another file.").format(path.name))
    return _grid_through(times, first, metre, path.name)


def _grid_through(times: np.ndarray, first: int, metre: int, name: str) -> Grid:
    """The grid whose beats are those, bar 1 beginning with the beat at index ``first``."""
    if not np.all(np.diff(times) > 0.0):
        at = int(np.argmin(np.diff(times)))
        raise Unreadable(
            tr("{0}: beat {1} does not come after beat {2}. Correct the file.").format(name, at + 2, at + 1)
        )
    slope, start = np.polyfit(np.arange(len(times)), times, 1)
    bpm = 60.0 / float(slope)
    if not BPM.low <= bpm <= BPM.high:
        raise Unreadable(
            tr("{0} has {1} BPM; the grid can have {2} to {3}.").format(
                name, localised(f"{bpm:.1f}"), localised(f"{BPM.low:g}"), localised(f"{BPM.high:g}")
            )
        )
    even = start + slope * np.arange(len(times))
    place = float(even[first])
    if np.max(np.abs(times - even)) < STEADY_SECONDS:
        return Grid(bpm=round(bpm, 6), first_beat_seconds=round(place, 6), beats_per_bar=metre)
    kept = tuple(np.round(times, 6).tolist())
    return Grid(bpm=bpm, first_beat_seconds=kept[first], beats_per_bar=metre, beats=kept, beats_from=-first)


def _csv(grid: Grid, numbers: np.ndarray, times: np.ndarray) -> bytes:
    text = io.StringIO()
    lines = csv.writer(text, lineterminator="\n")
    lines.writerow(COLUMNS)
    for number, seconds in zip(numbers.astype(int), times, strict=True):
        bar, beat = divmod(int(number), grid.beats_per_bar)
        lines.writerow((f"{seconds:.6f}", bar + 1, beat + 1))
    return text.getvalue().encode()


def _from_csv(data: bytes, name: str) -> tuple[np.ndarray, int, int]:
    """Times, the index of the first beat of bar 1 (or of the first bar there is), beats to a bar."""
    try:
        rows = list(csv.DictReader(io.StringIO(data.decode("utf-8-sig"))))
    except (UnicodeDecodeError, csv.Error) as error:
        raise Unreadable(tr("{0} is not CSV text ({1}). Choose another file.").format(name, shortened(error))) from None
    if not rows or not set(COLUMNS) <= set(rows[0]):
        raise Unreadable(tr("{0} needs the columns {1} in its first line.").format(name, ", ".join(COLUMNS)))
    times, bars, beats = [], [], []
    for line, row in enumerate(rows, 2):
        try:
            seconds, bar, beat = float(row["seconds"]), int(row["bar"]), int(row["beat"])
        except (TypeError, ValueError):
            raise Unreadable(tr("{0}, line {1}: seconds, bar and beat must be numbers.").format(name, line)) from None
        if not math.isfinite(seconds):
            raise Unreadable(tr("{0}, line {1}: seconds must be a finite number.").format(name, line))
        times.append(seconds)
        bars.append(bar)
        beats.append(beat)
    metre = max(beats)
    if not BEATS_PER_BAR.low <= metre <= BEATS_PER_BAR.high or min(beats) < 1:
        raise Unreadable(
            tr("{0}: beats are counted from 1 to at most {1} in a bar.").format(
                name, localised(f"{BEATS_PER_BAR.high:g}")
            )
        )
    starts = [i for i, beat in enumerate(beats) if beat == 1 and bars[i] >= 1] or [0]
    return np.array(times), starts[0], metre


def _midi(grid: Grid, numbers: np.ndarray, times: np.ndarray) -> bytes:
    """Tick 0 is the song's start; the time before the first beat counts as one beat with its own tempo."""
    track = mido.MidiTrack()
    waiting = 0

    def add(message: mido.MetaMessage) -> None:
        nonlocal waiting
        track.append(message.copy(time=waiting))
        waiting = 0

    lead = bool(times[0] > 1e-6)
    edges = np.concatenate(([0.0], times)) if lead else times
    counts = np.concatenate(([numbers[0] - 1], numbers)).astype(int) if lead else numbers.astype(int)
    error = 0.0
    for count, start, end in zip(counts, edges, [*edges[1:], edges[-1] + grid.beat_seconds], strict=True):
        if count == 0:
            add(mido.MetaMessage("time_signature", numerator=grid.beats_per_bar, denominator=4))
            add(mido.MetaMessage("marker", text=BAR_ONE))
        elif count == counts[0]:
            add(mido.MetaMessage("time_signature", numerator=min(255, max(1, -int(count))), denominator=4))
        micros = max(1, min(0xFFFFFF, round((end - start + error) * 1e6)))
        error += end - start - micros * 1e-6
        add(mido.MetaMessage("set_tempo", tempo=micros))
        waiting += TICKS
    file = mido.MidiFile(type=0, ticks_per_beat=TICKS)
    file.tracks.append(track)
    out = io.BytesIO()
    track.append(mido.MetaMessage("end_of_track", time=waiting))
    file.save(file=out)
    return out.getvalue()


def _from_midi(data: bytes, name: str) -> tuple[np.ndarray, int, int]:
    """Quarter notes of the tempo map as beats; bar 1 at its marker, else at the first time signature."""
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
        messages = [message for track in file.tracks for message in _at_ticks(track)]
    except Exception as error:  # a malformed file can have the library raise anything
        raise Unreadable(
            tr("{0} is not a Standard MIDI File ({1}). Choose another file.").format(name, shortened(error))
        ) from None
    if not 1 <= file.ticks_per_beat <= MOST_TICKS:
        raise Unreadable(
            tr("{0} counts its time in frames of film or not at all, not in beats. Choose another file.").format(name)
        )
    messages.sort(key=lambda pair: pair[0])
    tempi = [(tick, message.tempo) for tick, message in messages if message.type == "set_tempo"]
    marks = [tick for tick, message in messages if message.type == "marker" and message.text.strip().lower() == BAR_ONE]
    metres = [(tick, message) for tick, message in messages if message.type == "time_signature"]
    if not tempi:
        raise Unreadable(tr("{0} holds no tempo. Choose another file.").format(name))
    bar_one = marks[0] if marks else (metres[0][0] if metres else 0)
    metre = next((message.numerator for tick, message in reversed(metres) if tick <= bar_one), 4)
    per_beat = file.ticks_per_beat
    last = max(messages[-1][0], bar_one + 4 * per_beat)
    if last > MOST_BEATS * per_beat:
        raise Unreadable(
            tr("{0} goes on for more than {1} beats. Choose another file.").format(name, localised(f"{MOST_BEATS:,}"))
        )
    ticks = np.arange(bar_one % per_beat, last + 1, per_beat)
    # Before the first tempo event the standard's 120 BPM hold.
    changes = [(0, 500_000), *tempi] if tempi[0][0] > 0 else tempi
    places = np.array([tick for tick, _ in changes], float)
    rates = np.array([tempo for _, tempo in changes]) * 1e-6 / per_beat
    starts = np.concatenate(([0.0], np.cumsum(np.diff(places) * rates[:-1])))
    which = np.searchsorted(places, ticks, side="right") - 1
    times = starts[which] + (ticks - places[which]) * rates[which]
    metre = int(min(max(metre, BEATS_PER_BAR.low), BEATS_PER_BAR.high))
    first = int((bar_one - ticks[0]) // per_beat)
    lead = int(ticks[0] == 0 and first > 0 and len(marks) > 0 and _is_lead(times))
    return times[lead:], first - lead, metre


def _is_lead(times: np.ndarray) -> bool:
    """Whether the first interval is not a beat but what comes before the first one."""
    intervals = np.diff(times)
    return len(intervals) > 2 and abs(float(intervals[0] / np.median(intervals)) - 1.0) > 1e-4


def _at_ticks(track: mido.MidiTrack) -> list[tuple[int, mido.MetaMessage]]:
    at, found = 0, []
    for message in track:
        at += message.time
        found.append((at, message))
    return found

"""Performances in Standard MIDI Files (RP-001): read with their tempo maps, and written."""

import io
from collections.abc import Sequence
from pathlib import Path

import mido

from latespin.errors import Unreadable, shortened
from latespin.language import tr
from latespin.media.files.atomic import write_bytes
from latespin.media.files.guard import Sources
from latespin.media.files.regular import read_regular

MOST_BYTES = 8 << 20
TICKS = 960  # to a beat, in files that are written
BEAT_SECONDS = 0.5  # of such a file, at 120 BPM
MOST_MESSAGES = 200_000

Timed = tuple[float, mido.Message]


def read_performance(path: Path) -> list[Timed]:
    """The channel messages of all tracks, by seconds. Raises Unreadable."""
    named, data = shortened(path), read_regular(path, MOST_BYTES)
    try:
        file = mido.MidiFile(file=io.BytesIO(data))
        found: list[Timed] = []
        seconds = 0.0
        for message in file:
            seconds += message.time
            if not message.is_meta and hasattr(message, "channel"):
                found.append((seconds, message.copy(time=0)))
            if len(found) > MOST_MESSAGES:
                raise Unreadable(
                    tr("{0} has more than {1} messages. Cut it into shorter files.").format(named, MOST_MESSAGES)
                )
    except (OSError, EOFError, ValueError, KeyError, IndexError, TypeError, AttributeError):
        raise Unreadable(
            tr("{0} is not a Standard MIDI File, or it is damaged. Choose another file.").format(named)
        ) from None
    if not found:
        raise Unreadable(tr("{0} has no notes and no control changes. Choose a file with a performance.").format(named))
    return found


def performance_bytes(messages: Sequence[Timed], name: str) -> bytes:
    """A file of one track at 120 BPM with messages by seconds, in order."""
    track = mido.MidiTrack()
    track.append(mido.MetaMessage("track_name", name=name.encode("latin-1", "replace").decode("latin-1")))
    track.append(mido.MetaMessage("set_tempo", tempo=round(BEAT_SECONDS * 1e6)))
    at = 0
    for seconds, message in sorted(messages, key=lambda timed: timed[0]):
        tick = max(at, round(seconds / BEAT_SECONDS * TICKS))
        track.append(message.copy(time=tick - at))
        at = tick
    track.append(mido.MetaMessage("end_of_track"))
    file = mido.MidiFile(type=0, ticks_per_beat=TICKS)
    file.tracks.append(track)
    out = io.BytesIO()
    file.save(file=out)
    return out.getvalue()


def write_performance(
    path: Path, messages: Sequence[Timed], name: str, *, overwrite: bool = False, sources: Sources = ()
) -> None:
    """Write such a file, which is none of the sources. Raises Unwritable."""
    write_bytes(path, performance_bytes(messages, name), overwrite=overwrite, sources=sources)

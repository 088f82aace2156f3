"""A cache of song readings in the user's cache folder, keyed by content."""

import contextlib
from pathlib import Path

import msgspec

from latespin.analysis.results import READING_VERSION, Reading
from latespin.errors import LateSpinError
from latespin.jobs import Work
from latespin.media.files.atomic import sweep_folder, write_bytes
from latespin.media.track import Track
from latespin.memory import cache_folder

KEPT = 500  # readings; of more, the oldest go


def read_track(track: Track, work: Work, *, anew: bool = False) -> Reading:
    """The reading of a track, kept or made now. anew : not a kept one. Raises Cancelled."""
    reading = None if anew else kept_reading(track.content_id)
    if reading is None:
        from latespin.analysis.reading import read_song  # most readings are kept ones

        reading = read_song(track.sound, track.rate, work)
        keep_reading(track.content_id, reading)
    return reading


def kept_reading(content_id: str) -> Reading | None:
    """The stored reading of a track, by its content_id, unless another version of the reading made it."""
    try:
        reading = msgspec.json.decode(_place(content_id).read_bytes(), type=Reading)
    except (OSError, msgspec.DecodeError, UnicodeDecodeError, RecursionError):
        return None
    return reading if reading.version == READING_VERSION else None


def keep_reading(content_id: str, reading: Reading) -> None:
    """Keep a reading. Where that cannot be done, nothing is lost but the time to read again."""
    place = _place(content_id)
    with contextlib.suppress(OSError, LateSpinError):
        place.parent.mkdir(parents=True, exist_ok=True)
        write_bytes(place, msgspec.json.encode(reading), overwrite=True, sources=())
        sweep_folder(place.parent)
        kept = sorted(place.parent.glob("*.json"), key=lambda path: path.stat().st_mtime)
        for old in kept[:-KEPT]:
            old.unlink(missing_ok=True)


def _place(content_id: str) -> Path:
    return cache_folder() / "readings" / f"{content_id}.json"

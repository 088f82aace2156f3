"""The sound tracks of a video in words, to choose from."""

from pathlib import Path
from typing import Any

from latespin.errors import shortened
from latespin.language import localised, tr
from latespin.media.audio.decode import decodable_tracks, opened_container

MOST_WORDS = 60


def sound_tracks(path: Path) -> tuple[str, ...]:
    """What is known of each sound track that can be decoded. Raises Unreadable."""
    with opened_container(path) as container:
        return tuple(_words(number, stream) for number, stream in enumerate(decodable_tracks(container), 1))


def _words(number: int, stream: Any) -> str:
    """``2: Crowd, en, stereo, 48 kHz, aac``."""
    channels = {1: tr("mono"), 2: tr("stereo")}.get(
        int(stream.channels), tr("{0} channels").format(int(stream.channels))
    )
    named = (stream.metadata.get("title", ""), stream.metadata.get("language", ""))
    rate = tr("{0} kHz").format(localised(f"{stream.rate / 1000:g}"))
    known = (*(shortened(name, MOST_WORDS) for name in named if name), channels, rate, stream.codec_context.name)
    return f"{number}: {', '.join(known)}"

"""Keeping libsndfile's MP3 decoder quiet."""

import contextlib
import os
import threading
from collections.abc import Iterator
from pathlib import Path

from latespin.media.files.regular import open_regular

NOT_MP3 = (b"RIFF", b"RF64", b"riff", b"FORM", b"caff", b"fLaC", b"OggS", b".snd")
_STREAM = threading.Lock()


@contextlib.contextmanager
def quiet_decoder(path: Path) -> Iterator[None]:
    """WORKAROUND: libsndfile's MP3 decoder, tried where nothing else fits, writes notes straight to the error stream; they are sent nowhere."""
    with open_regular(path) as file:
        known = file.read(4) in NOT_MP3
    if known:
        yield
        return
    with _STREAM, Path(os.devnull).open("wb") as nowhere:
        kept = os.dup(2)
        os.dup2(nowhere.fileno(), 2)
        try:
            yield
        finally:
            os.dup2(kept, 2)
            os.close(kept)

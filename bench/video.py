"""Videos of cards: seconds of video made in a second, at 1080 lines, against decoding and encoding FLAC of the same length.

Run ``python bench/video.py``; needs no screen.
"""

import os
import tempfile
import time
from collections.abc import Callable
from contextlib import closing
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import soundfile

from latespin.ahead import made_ahead
from latespin.demo import demo_folder
from latespin.desktop.movies.headless import card_for
from latespin.desktop.movies.pictures import CardPictures
from latespin.desktop.movies.ribbons import RibbonSource
from latespin.jobs import Quietly
from latespin.media.audio.encode import encode
from latespin.media.audio.peaks import find_peaks
from latespin.media.tags import Tags
from latespin.media.track import open_track
from latespin.media.video.movie import CONTAINERS, coder_for, encode_pictures
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.recipes import load_recipe

SECONDS, SIZE = 60.0, (1920, 1080)


def timed(function: Callable[[], object]) -> float:
    """Seconds taken."""
    began = time.perf_counter()
    function()
    return time.perf_counter() - began


def main() -> None:
    """Print the figures."""
    track = open_track(demo_folder() / "lantern-light.ogg")
    sound, readers = track.sound[:, : round(SECONDS * track.rate)], TrackRenderer(track)
    stages = load_recipe("slowed-reverb")[0].stages
    peaks = find_peaks(track.sound, track.rate)
    source = RibbonSource(peaks, peaks, readers.arrangement(stages).map, None)
    with tempfile.TemporaryDirectory() as place:
        flac = Path(place) / "a.flac"

        def baseline() -> None:
            encode(flac, [sound], rate=track.rate, channels=2, tags=Tags(), overwrite=True, sources=())
            soundfile.read(flac)

        base = timed(baseline)
        print(f"baseline, encode and decode FLAC: {SECONDS / base:.0f} × real time")
        for suffix in (".mp4", ".webm"):
            heard = Path(place) / f"a{CONTAINERS[suffix].sound}"
            encode(heard, [sound], rate=track.rate, channels=2, tags=Tags(), overwrite=True, sources=())
            for name, ribbons in (("still", None), ("moving", source)):
                pictures = CardPictures(card_for(track, "slowed + reverb", None), SIZE, ribbons)
                out = Path(place) / f"{name}{suffix}"

                def make(pictures=pictures, heard=heard, out=out, suffix=suffix) -> None:  # type: ignore[no-untyped-def]
                    with closing(made_ahead(pictures.frames(SECONDS, Quietly()))) as frames:
                        encode_pictures(
                            frames, SIZE, pictures.rate, heard, out, suffix, {}, coder_for(suffix, drawn=True)
                        )

                taken = timed(make)
                size = out.stat().st_size / 1e6
                print(
                    f"{suffix} {name}: {SECONDS / taken:.1f} × real time ({taken / base:.1f} × baseline), {size:.1f} MB a minute",
                    flush=True,
                )


if __name__ == "__main__":
    main()

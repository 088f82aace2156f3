"""What is done with a file of each kind, and what must hold of it: read it whole, or be told in one sentence why not."""

import warnings
from collections.abc import Callable
from pathlib import Path

import numpy as np

from latespin.errors import LateSpinError
from latespin.media.exchange.grid_files import read_grid
from latespin.media.exchange.marker_files import read_marks
from latespin.media.exchange.sofa import read_ears
from latespin.media.track import Track, open_track
from latespin.model.documents.documents import read_session, to_json
from latespin.model.effects.effects import ConvolutionReverb, Layer
from latespin.model.moments.moments import DropIn, Moments
from latespin.model.timing.positions import Position
from latespin.model.version import Colour, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.recipes import read_file

LONGEST_MESSAGE = 600
RATE = 44_100


class Broken(AssertionError):
    """What must hold does not."""


def read(path: Path) -> str:
    """Read a file as its name says; returns ``opened`` or ``refused``. Raises whatever is wrong, warnings, too."""
    warnings.simplefilter("error")
    try:
        for reading in _readings(path):
            reading(path)
    except LateSpinError as error:
        message = str(error)
        if not message or len(message) > LONGEST_MESSAGE or "\n" in message:
            raise Broken(f"the message is no sentence: {message[:2000]!r}") from error
        return "refused"
    return "opened"


def _readings(path: Path) -> list[Callable[[Path], None]]:
    name = path.name
    if path.suffix == ".latespin":
        return [_session]
    if path.suffix == ".json":
        return [_recipe]
    if path.suffix == ".sofa":
        return [_ears]
    if path.suffix == ".mid" or name.startswith("grid"):
        return [_grid]
    if path.suffix == ".csv":
        return [_marks]
    if name.startswith("room"):
        return [_response]
    if name.startswith(("marks", "cues", "long label", "many cues")):
        return [_marks, _song]
    return [_song]


def _song(path: Path) -> None:
    _finite(open_track(path).sound, "the sound")


def _session(path: Path) -> None:
    session = read_session(path.read_bytes(), path.name)
    if read_session(to_json(session), path.name) != session:
        raise Broken("what was read is not what is written")


def _recipe(path: Path) -> None:
    recipe, _ = read_file(path)
    noise = 0.1 * np.random.default_rng(1).standard_normal((2, RATE // 4)).astype(np.float32)
    readers = TrackRenderer(Track(Path("made-up"), noise, RATE, 2, "0" * 64))
    stages = recipe.on(readers.layout).stages
    _finite(readers.chain(stages).read(RATE // 4), "what the recipe makes")


def _grid(path: Path) -> None:
    grid = read_grid(path)
    _finite(grid.seconds_of(np.arange(-8.0, 64.0)), "the beats")


def _marks(path: Path) -> None:
    for label, start, end in read_marks(path):
        _finite(np.array([start, start if end is None else end]), "the markers")
        if len(label) > 300:
            raise Broken("a label that fills the screen")


def _ears(path: Path) -> None:
    _finite(read_ears(path).table(RATE, 10.0, 1.0), "the ears' filters")


def _response(path: Path) -> None:
    """As a room, a layer and a dropped-in sound."""
    noise = 0.1 * np.random.default_rng(1).standard_normal((2, RATE // 4)).astype(np.float32)
    readers = TrackRenderer(Track(Path("made-up"), noise, RATE, 2, "0" * 64))
    drop = DropIn(id="d", path=str(path), start=Position(seconds=0.05), end=Position(seconds=0.1))
    stages = Stages(
        colour=Colour(
            effects=(
                ConvolutionReverb(id="r", room="file", path=str(path)),
                Layer(id="l", sound="file", path=str(path)),
            )
        ),
        moments=Moments(placed=(drop,)),
    )
    _finite(readers.chain(stages).read(RATE // 4), "what is made with it")
    open_track(path)


def _finite(values: np.ndarray, what: str) -> None:
    if not np.isfinite(values).all():
        raise Broken(f"{what} holds NaN or infinity")

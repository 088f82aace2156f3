"""Which picture shows which colour."""

from latespin.desktop.plots.bearing import OrbitPicture
from latespin.desktop.plots.depth import DepthPicture
from latespin.desktop.plots.effect_plot import ColourPicture
from latespin.desktop.plots.hall import HallPicture
from latespin.desktop.plots.response import ResponsePicture, SpectrumPicture
from latespin.desktop.plots.traces import CurvePicture, ReductionPicture, RepeatPicture, SpeedPicture

PICTURES: dict[str, type[ColourPicture]] = {
    "hall": HallPicture, "orbit": OrbitPicture, "underwater": DepthPicture, "eq": ResponsePicture, "speaker": ResponsePicture,
    "vinyl": SpeedPicture, "tape": SpeedPicture, "wobble": SpeedPicture, "compressor": ReductionPicture, "deharsh": ReductionPicture,
    "saturation": CurvePicture, "echo": RepeatPicture,
}  # fmt: skip


def picture_of(kind: str) -> ColourPicture:
    """A fresh picture for a kind of colour; the song's spectrum where it has none of its own."""
    return PICTURES.get(kind, SpectrumPicture)()

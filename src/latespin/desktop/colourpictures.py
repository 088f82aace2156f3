"""Which picture shows which colour."""

from latespin.desktop.colourpicture import ColourPicture
from latespin.desktop.depthpicture import DepthPicture
from latespin.desktop.hallpicture import HallPicture
from latespin.desktop.orbitpicture import OrbitPicture
from latespin.desktop.responsepicture import ResponsePicture, SpectrumPicture
from latespin.desktop.tracepicture import CurvePicture, ReductionPicture, RepeatPicture, SpeedPicture

PICTURES: dict[str, type[ColourPicture]] = {
    "hall": HallPicture, "orbit": OrbitPicture, "underwater": DepthPicture, "eq": ResponsePicture, "speaker": ResponsePicture,
    "vinyl": SpeedPicture, "tape": SpeedPicture, "wobble": SpeedPicture, "compressor": ReductionPicture, "deharsh": ReductionPicture,
    "saturation": CurvePicture, "echo": RepeatPicture,
}  # fmt: skip


def picture_of(kind: str) -> ColourPicture:
    """A fresh picture for a kind of colour; the song's spectrum where it has none of its own."""
    return PICTURES.get(kind, SpectrumPicture)()

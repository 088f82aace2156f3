"""All effects together."""

from latespin.model.effects.declaration import Effect
from latespin.model.effects.dynamics import Compressor, DynamicHighShelf, MidSideCompressor, MultibandCompressor
from latespin.model.effects.places import Layer, SmallSpeaker, Underwater
from latespin.model.effects.space import ConvolutionReverb, Echo, Hall, Spin, Width
from latespin.model.effects.tone import Eq, Gain, Saturation
from latespin.model.effects.wear import Crush, Tape, Vinyl, Wobble

AnyEffect = (
    Hall | ConvolutionReverb | Vinyl | Tape | Underwater | SmallSpeaker | Spin | Width | Echo | Eq | Compressor
    | DynamicHighShelf | Saturation | Wobble | Crush | Layer | Gain | MidSideCompressor | MultibandCompressor
)  # fmt: skip


def effect_path(effect: Effect) -> str:
    """The file an effect is made from, or an empty path."""
    return effect.file or ""


def needs_file(effect: Effect) -> bool:
    """Whether an effect is made from a file."""
    return effect.file is not None


__all__ = (
    "AnyEffect", "Compressor", "ConvolutionReverb", "Crush", "DynamicHighShelf", "Echo", "Eq", "Gain", "Hall", "Layer", "MidSideCompressor",
    "MultibandCompressor", "Saturation", "SmallSpeaker", "Spin", "Tape", "Underwater", "Vinyl", "Width", "Wobble", "effect_path", "needs_file",
)  # fmt: skip

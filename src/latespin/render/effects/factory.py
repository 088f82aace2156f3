"""The registry of processors by kind of effect."""

from collections.abc import Callable
from importlib import import_module
from typing import Any, Protocol, TypeVar

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.model.effects import effects as m
from latespin.model.effects.declaration import Effect
from latespin.render.effects.context import EffectContext


class Processor(Protocol):
    """An effect as a stream of stereo blocks. Its output is ``latency`` frames behind its input."""

    latency: int
    warm_up_frames: int

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Process ``[2, frames]``; the first frame of the result is frame ``at`` of After."""
        raise NotImplementedError


class EffectFactory:
    """Makes the processors of one kind of effect. ``effect`` holds its settings."""

    def build(self, effect: Any, context: EffectContext) -> Processor:
        """A new processor."""
        raise NotImplementedError

    def set_target(self, processor: Any, effect: Any, context: EffectContext) -> None:
        """Give a processor other settings from the next frame on."""

    def predict_profile(self, effect: Any, context: EffectContext, before: Profile, amount: float) -> Profile:
        """The song's profile after the effect at an amount, 0 to 1."""
        raise NotImplementedError

    def tail(self, effect: Any, context: EffectContext) -> int:  # noqa: ARG002
        """Frames it rings on after its input ends, worked out without making it."""
        return 0


PROCESSORS = "latespin.render.effects.processors"
#: The module of processors that declares each factory; it is loaded with the first effect that needs it.
DECLARED_IN: dict[type[Effect], str] = {
    m.Compressor: "dynamics", m.ConvolutionReverb: "convolution", m.Crush: "tone", m.DynamicHighShelf: "dynamics", m.Echo: "echo",
    m.Eq: "tone", m.Gain: "gain", m.Hall: "hall", m.Layer: "layer", m.MidSideCompressor: "dynamics", m.MultibandCompressor: "dynamics",
    m.Saturation: "tone", m.SmallSpeaker: "worn", m.Spin: "spin", m.Tape: "worn", m.Underwater: "underwater", m.Vinyl: "worn",
    m.Width: "width", m.Wobble: "tone",
}  # fmt: skip

Factory = TypeVar("Factory", bound="type[EffectFactory]")
_FACTORIES: dict[type[Effect], EffectFactory] = {}


def processor_for(
    *kinds: type[Effect], around: Callable[[EffectFactory], EffectFactory] = lambda factory: factory
) -> Callable[[Factory], Factory]:
    """Declare a class as the factory of effects. around : a factory that works with this one."""

    def declare(factory: Factory) -> Factory:
        for kind in kinds:
            if kind in _FACTORIES:
                raise ValueError(f"{kind.__name__} has two factories")
            _FACTORIES[kind] = around(factory())
        return factory

    return declare


def factory_of(effect: Effect) -> EffectFactory:
    """The factory of an effect. Raises KeyError where none was declared."""
    kind = type(effect)
    if kind not in _FACTORIES and kind in DECLARED_IN:
        import_module(f"{PROCESSORS}.{DECLARED_IN[kind]}")
    return _FACTORIES[kind]

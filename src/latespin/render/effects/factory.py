"""Which factory makes the processor of which effect."""

from collections.abc import Callable
from typing import Any, Protocol, TypeVar

from latespin.analysis.profile import Profile
from latespin.dsp.arrays import Audio
from latespin.dsp.control.automation import Automation
from latespin.model.effects.declaration import Effect
from latespin.render.effects.context import EffectContext


class Processor(Protocol):
    """A colour as a stream of stereo blocks, ``latency`` frames late."""

    latency: int
    warm_up_frames: int

    def process(self, block: Audio, at: int, amount: Automation) -> Audio:
        """Hear a block whose first frame comes out as frame ``at``."""
        raise NotImplementedError


class EffectFactory(Protocol):
    """How a kind of colour is made."""

    def build(self, effect: Any, context: EffectContext) -> Processor:
        """A fresh processor."""
        raise NotImplementedError

    def set_target(self, processor: Any, effect: Any, context: EffectContext) -> None:
        """Have a processor go by other values from the next frame on."""

    def predict_profile(self, effect: Any, context: EffectContext, before: Profile, amount: float) -> Profile:
        """What a song's profile is after it."""
        raise NotImplementedError

    def tail(self, effect: Any, context: EffectContext) -> int:
        """How long it rings on, frames, worked out without making it."""
        raise NotImplementedError


Factory = TypeVar("Factory", bound="type[EffectFactory]")
_FACTORIES: dict[type[Effect], EffectFactory] = {}


def processor_for(*kinds: type[Effect]) -> Callable[[Factory], Factory]:
    """Declare a class as the factory of effects."""

    def declare(factory: Factory) -> Factory:
        for kind in kinds:
            if kind in _FACTORIES:
                raise ValueError(f"{kind.__name__} has two factories")
            _FACTORIES[kind] = factory()
        return factory

    return declare


def factory_of(effect: Effect) -> EffectFactory:
    """The factory of an effect. Raises KeyError where none was declared."""
    return _FACTORIES[type(effect)]

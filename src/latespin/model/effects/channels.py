"""Effects that can act on both channels, or only on mid or side."""

from typing import Annotated, Literal

from latespin.model.effects.declaration import Effect
from latespin.model.values.words import Words

Channels = Literal["stereo", "mid", "side"]
CHANNELS = Words(
    "Channels", "Act on both channels, only on what they share (mid), or only on what differs between them (side).",
    {"stereo": "Stereo", "mid": "Mid", "side": "Side"},
)  # fmt: skip


class ChannelEffect(Effect, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """An effect with a choice of channels."""

    channels: Annotated[Channels, CHANNELS] = "stereo"

    @property
    def parts(self) -> tuple[str, ...]:
        return () if self.channels == "stereo" else ("Mid", "Side")

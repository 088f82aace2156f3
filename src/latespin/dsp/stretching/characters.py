"""The characters of a stretch, as settings of the phase vocoder."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Character:
    """How a song is stretched.

    window_seconds : longer tells tones apart that lie closer together, shorter follows quicker sounds.
    hold : part of a window, to each side of an attack, that keeps the song's own pace; 0 holds nothing.
    recover_seconds : of the result, to each side of an attack: over which that is made up for.
    randomise_noise : whether what is not a tone gets fresh phases all the time, so that noise stays noise however long it gets.
    """

    window_seconds: float
    hold: float
    recover_seconds: float = 0.2
    randomise_noise: bool = False


FULL_MIX = Character(window_seconds=0.058, hold=0.46)
DRUMS = Character(window_seconds=0.046, hold=0.9)
VOICE = Character(window_seconds=0.046, hold=0.46)
SMEAR = Character(window_seconds=0.37, hold=0.0, randomise_noise=True)

CHARACTERS = {"full-mix": FULL_MIX, "drums": DRUMS, "voice": VOICE, "smear": SMEAR}

"""Kinds of sound files we write, and how each may be written."""

from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from latespin.errors import Unwritable
from latespin.language import localised, tr

Depth = Literal["16", "24", "float"]
LOSSLESS_RATES = (44_100, 48_000, 96_000)
BITS = {"16": 16, "24": 24, "float": 32}
PACKED = 0.65  # what lossless packing leaves of music, roughly
BITRATES = (320, 256, 192, 160, 128, 96)


@dataclass(frozen=True)
class Encoding:
    """How a file is written. None: as is best for the format, and as the song is.

    depth : bits of a lossless file.  kbps : bitrate of a lossy one, kbit/s.  rate : Hz.
    """

    depth: Depth | None = None
    kbps: int | None = None
    rate: int | None = None


BEST = Encoding()


@dataclass(frozen=True)
class Format:
    """A kind of file. rates : those it can hold, empty for any.

    subtypes : by depth, the best first; "" is lossy.  best_kbps : what a lossy file takes where no bitrate is given, roughly.
    """

    name: str
    container: str
    subtypes: dict[str, str]
    rates: tuple[int, ...] = ()
    best_kbps: int = 0
    frame: int = field(default=1, repr=False)  # samples that are encoded together

    def rate_for(self, rate: int, encoding: Encoding = BEST) -> int:
        """The rate a song of ``rate`` is written at: the one asked for, else its own if possible, else 48 kHz. Raises Unwritable."""
        if encoding.rate is not None:
            if self.rates and encoding.rate not in self.rates:
                raise Unwritable(
                    tr("{0} cannot hold {1} Hz. Choose 48,000 Hz or another format.").format(
                        self.name, localised(f"{encoding.rate:,}")
                    )
                )
            return encoding.rate
        return rate if not self.rates or rate in self.rates else 48_000

    def is_lossy(self, encoding: Encoding) -> bool:
        """Whether it changes the samples it is given."""
        return "" in self.subtypes and encoding.depth is None

    def subtype(self, encoding: Encoding) -> str:
        """What the samples are. Raises Unwritable for a depth or a bitrate it cannot have."""
        depth = encoding.depth
        if encoding.kbps is not None and not self.is_lossy(encoding):
            raise Unwritable(tr("{0} has no bitrate to choose: it is lossless. Leave it out.").format(self.name))
        if depth is None:
            return next(iter(self.subtypes.values()))
        if depth not in self.subtypes:
            allowed = ", ".join(depth for depth in self.subtypes if depth)
            remedy = tr("Use one of {0}.").format(allowed) if allowed else tr("Leave it out.")
            raise Unwritable(f"{tr('{0} cannot hold depth {1}.').format(self.name, depth)} {remedy}")
        return self.subtypes[depth]

    def bytes_for(self, seconds: float, rate: int, channels: int, encoding: Encoding) -> int:
        """The estimated size, bytes, of a file ``seconds`` long made from a song at ``rate``."""
        if self.is_lossy(encoding):
            return round(seconds * 125 * (encoding.kbps or self.best_kbps * channels / 2))
        depth = next(depth for depth in (encoding.depth, *self.subtypes) if depth)
        share = 1.0 if self.container == "WAV" else PACKED
        return round(seconds * self.rate_for(rate, encoding) * channels * BITS[depth] / 8 * share)


_MP3_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000)
_AAC_RATES = (8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 64_000, 88_200, 96_000)
FORMATS: dict[str, Format] = {
    ".wav": Format("WAV", "WAV", {"float": "FLOAT", "24": "PCM_24", "16": "PCM_16"}),
    ".flac": Format("FLAC", "FLAC", {"24": "PCM_24", "16": "PCM_16"}),
    ".m4a": Format("M4A", "ipod", {"": "aac", "24": "PCM_24", "16": "PCM_16"}, _AAC_RATES, 256, 1024),
    ".ogg": Format("Ogg Vorbis", "OGG", {"": "VORBIS"}, best_kbps=256),
    ".opus": Format("Opus", "opus", {"": "libopus"}, (8_000, 12_000, 16_000, 24_000, 48_000), 256, 960),
    ".mp3": Format("MP3", "MP3", {"": "MPEG_LAYER_III"}, _MP3_RATES, 230, 1152),
}


def format_of(path: Path) -> Format:
    """The format that a file's ending names. Raises Unwritable."""
    found = FORMATS.get(path.suffix.lower())
    if found is None:
        known = ", ".join(FORMATS)
        raise Unwritable(tr("{0} has no ending that names a format. Use one of {1}.").format(path.name, known))
    return found


def changes_samples(path: Path, encoding: Encoding, rate: int) -> bool:
    """True if what is decoded from a file differs from what it was given at ``rate``: it is lossy, or has another rate."""
    kind = format_of(path)
    return kind.is_lossy(encoding) or kind.rate_for(rate, encoding) != rate

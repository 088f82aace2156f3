"""Head-related responses in the open SOFA format (AES69), convention SimpleFreeFieldHRIR."""

import os
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from latespin.dsp.arrays import Audio, Floats
from latespin.dsp.effects.binaural import way
from latespin.dsp.effects.hrtf import evened, minimum_phase, taps_at, to_taps
from latespin.errors import Unreadable, shortened
from latespin.language import localised, tr
from latespin.media.files.regular import open_regular

CONVENTION = "SimpleFreeFieldHRIR"
MOST_DIRECTIONS, NEAREST = 20_000, 3
FEWEST_DIRECTIONS = 8
MOST_BYTES, MOST_NUMBERS = 512 << 20, 64 << 20
LOUDEST = 1e6  # of a response's samples; also excludes what is no number
MOST_DELAY = 1.0  # seconds that a response may come later; the ears are centimetres apart
ONSET = 0.12  # of an ear's highest value, at which its sound is taken to begin


@dataclass(frozen=True, eq=False)
class Ears:
    """Measured directions as unit vectors ``[n, 3]`` (ahead, left, up); gains ``[n, 2, bins]`` up to half of ``rate``; delays ``[n, 2]``, seconds."""

    directions: Floats
    gains: Floats
    delays: Floats
    rate: float

    def kept_bytes(self) -> int:
        """Their size in memory."""
        return int(self.gains.nbytes + self.delays.nbytes)

    def table(self, rate: int, elevation_degrees: float, strength: float) -> Audio:
        """Filters ``[places, 2, taps]`` along the way round the head; between measured directions delays and gains are weighed by nearness."""
        azimuth, elevation = way(elevation_degrees)
        wanted = np.stack(
            (np.cos(azimuth) * np.cos(elevation), -np.sin(azimuth) * np.cos(elevation), np.sin(elevation)), axis=1
        )
        size = 4 * taps_at(rate)
        hz = np.asarray(np.fft.rfftfreq(size, 1.0 / rate), np.float64)
        known = np.linspace(0.0, self.rate / 2.0, self.gains.shape[2])
        angles = np.arccos(np.clip(wanted @ self.directions.T, -1.0, 1.0))
        nearest = np.argsort(angles, axis=1)[:, :NEAREST]
        weights = 1.0 / (np.take_along_axis(angles, nearest, axis=1) + 1e-3)
        weights /= weights.sum(axis=1, keepdims=True)
        pairs = np.empty((len(wanted), 2, len(hz)), np.complex128)
        for place, (which, weight) in enumerate(zip(nearest, weights, strict=True)):
            for ear in range(2):
                gain = np.exp(weight @ np.log(self.gains[which, ear] + 1e-5)) ** strength
                turned = np.exp(-2j * np.pi * hz * strength * (weight @ self.delays[which, ear]))
                pairs[place, ear] = minimum_phase(np.interp(hz, known, gain)) * turned
        made = to_taps(evened(pairs, hz), rate)
        made.setflags(write=False)
        return made


def read_ears(path: Path) -> Ears:
    """A listener's set from a file. Raises Unreadable with the missing part."""
    import h5py

    name = shortened(path.name)
    with open_regular(path) as opened:
        if os.fstat(opened.fileno()).st_size > MOST_BYTES:
            raise Unreadable(tr("{0} is larger than such files are. Choose another file.").format(shortened(path.name)))
    try:
        with h5py.File(os.fsencode(path), "r") as file:
            said = file.attrs.get("SOFAConventions", b"")
            convention = said.decode() if isinstance(said, bytes) else str(said)
            if convention != CONVENTION:
                raise Unreadable(
                    tr(
                        "{0} follows the SOFA convention “{1}”; a listener’s ears come as {2}. Choose another file."
                    ).format(name, shortened(convention) or "none", CONVENTION)
                )
            responses, rate, places = (
                _numbers(file, name) for name in ("Data.IR", "Data.SamplingRate", "SourcePosition")
            )
            kind = file["SourcePosition"].attrs.get("Type", b"spherical")
            extra = _numbers(file, "Data.Delay") if "Data.Delay" in file else np.zeros((1, 2))
    except Unreadable:
        raise
    except KeyError as error:
        raise Unreadable(
            tr("{0} lacks a part that SOFA files have: {1}. Choose another file.").format(name, shortened(error))
        ) from None
    except Exception as error:  # a malformed HDF5 file can have the library raise anything
        says = shortened(error)
        raise Unreadable(
            tr("{0} could not be read as a SOFA file: {1}. Choose another file.").format(name, says)
        ) from None
    spherical = (kind.decode() if isinstance(kind, bytes) else str(kind)) != "cartesian"
    return _ears(name, responses, float(rate.flat[0]) if rate.size else 0.0, places, extra, spherical=spherical)


def _delay_shapes(responses: Floats) -> tuple[tuple[int, ...], ...]:
    """The shapes of delays: one pair for all, or a pair for each direction."""
    return (1, 2), (len(responses), 2)


def _numbers(file: Any, name: str) -> Floats:
    """The numbers of a data set stored in the file itself. Raises Unreadable, KeyError."""
    import h5py

    link = file.get(name, getlink=True)
    if link is None:
        raise KeyError(name)
    if not isinstance(link, h5py.HardLink):
        raise Unreadable(
            tr("“{0}” of this SOFA file lies in another file, which is not opened. Choose another file.").format(name)
        )
    data = file[name]
    if not isinstance(data, h5py.Dataset) or data.dtype.kind not in "fiu":
        raise Unreadable(tr("“{0}” of this SOFA file is not made of numbers. Choose another file.").format(name))
    if data.external or data.is_virtual:
        raise Unreadable(
            tr("“{0}” of this SOFA file lies in another file, which is not opened. Choose another file.").format(name)
        )
    if data.size is None or data.size > MOST_NUMBERS:
        raise Unreadable(tr("“{0}” of this SOFA file is larger than such data are. Choose another file.").format(name))
    return np.array(data, np.float64)


def _ears(name: str, responses: Floats, rate: float, places: Floats, extra: Floats, *, spherical: bool) -> Ears:
    if responses.ndim != 3 or responses.shape[1] != 2 or len(places) != len(responses):
        raise Unreadable(
            tr("{0} has responses of the shape {1}; they should be [directions, 2 ears, frames].").format(
                name, responses.shape
            )
        )
    if (
        responses.shape[2] < 1
        or places.ndim != 2
        or places.shape[1] != 3
        or extra.shape not in _delay_shapes(responses)
    ):
        raise Unreadable(
            tr("{0} has positions or delays of another shape than its responses. Choose another file.").format(name)
        )
    if not (np.all(np.isfinite(places)) and np.all(np.isfinite(extra)) and np.all(np.abs(extra) < MOST_DELAY * rate)):
        raise Unreadable(
            tr("{0} has positions or delays that are not usable numbers. Choose another file.").format(name)
        )
    if not FEWEST_DIRECTIONS <= len(responses) <= MOST_DIRECTIONS:
        raise Unreadable(
            tr("{0} has {1} directions; it can have {2} to {3}.").format(
                name, len(responses), FEWEST_DIRECTIONS, MOST_DIRECTIONS
            )
        )
    if not (8_000.0 <= rate <= 384_000.0) or not np.any(responses) or not np.all(np.abs(responses) < LOUDEST):
        raise Unreadable(
            tr("{0} has no usable responses (rate {1} Hz). Choose another file.").format(name, localised(f"{rate:g}"))
        )
    if spherical:
        azimuth, elevation = np.deg2rad(places[:, 0]), np.deg2rad(places[:, 1])
        directions = np.stack(
            (np.cos(azimuth) * np.cos(elevation), np.sin(azimuth) * np.cos(elevation), np.sin(elevation)), axis=1
        )
    else:
        directions = places / np.maximum(1e-9, np.linalg.norm(places, axis=1, keepdims=True))
    size = 1 << max(9, (responses.shape[2] - 1).bit_length())
    gains = np.abs(np.fft.rfft(responses, size, axis=2))
    level = np.abs(responses)
    onset = np.argmax(level >= ONSET * level.max(axis=2, keepdims=True), axis=2)
    delays = (onset + np.broadcast_to(extra, onset.shape)) / rate
    return Ears(directions, gains / np.sqrt(np.mean(gains**2)), delays - delays.mean(), rate)

"""A listener's own ears: head-related responses in the open SOFA format (AES69), convention SimpleFreeFieldHRIR."""

from dataclasses import dataclass
from pathlib import Path

import numpy as np

from latespin.dsp.head import evened, minimum_phase, taps_at, to_taps
from latespin.dsp.orbit import way
from latespin.dsp.types import Audio, Floats
from latespin.errors import Unreadable

CONVENTION = "SimpleFreeFieldHRIR"
MOST_DIRECTIONS, NEAREST = 20_000, 3
FEWEST_DIRECTIONS = 8
ONSET = 0.12  # of an ear's highest value, at which its sound is taken to begin


@dataclass(frozen=True, eq=False)
class Ears:
    """Measured directions as unit vectors ``[n, 3]`` (ahead, left, up); gains ``[n, 2, bins]`` up to half of ``rate``; delays ``[n, 2]``, seconds."""

    directions: Floats
    gains: Floats
    delays: Floats
    rate: float

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
    """A listener's set from a file. Raises Unreadable, saying what is missing."""
    import h5py

    try:
        with h5py.File(path, "r") as file:
            said = file.attrs.get("SOFAConventions", b"")
            convention = said.decode() if isinstance(said, bytes) else str(said)
            if convention != CONVENTION:
                raise Unreadable(
                    f"{path.name} follows the SOFA convention “{convention or 'none'}”; a listener’s ears come as {CONVENTION}. Choose another file."
                )
            responses, rate, places = (
                np.array(file[name], np.float64) for name in ("Data.IR", "Data.SamplingRate", "SourcePosition")
            )
            kind = file["SourcePosition"].attrs.get("Type", b"spherical")
            extra = np.array(file["Data.Delay"], np.float64) if "Data.Delay" in file else np.zeros((1, 2))
    except OSError as error:
        raise Unreadable(f"{path.name} could not be read as a SOFA file: {error}. Choose another file.") from None
    except KeyError as error:
        raise Unreadable(f"{path.name} lacks a part that SOFA files have: {error}. Choose another file.") from None
    spherical = (kind.decode() if isinstance(kind, bytes) else str(kind)) != "cartesian"
    return _ears(path.name, responses, float(np.ravel(rate)[0]), places, extra, spherical=spherical)


def _ears(name: str, responses: Floats, rate: float, places: Floats, extra: Floats, *, spherical: bool) -> Ears:
    if responses.ndim != 3 or responses.shape[1] != 2 or len(places) != len(responses):
        raise Unreadable(
            f"{name} has responses of the shape {responses.shape}; they should be [directions, 2 ears, frames]."
        )
    if not FEWEST_DIRECTIONS <= len(responses) <= MOST_DIRECTIONS:
        raise Unreadable(
            f"{name} has {len(responses)} directions; it can have {FEWEST_DIRECTIONS} to {MOST_DIRECTIONS}."
        )
    if not (8_000.0 <= rate <= 384_000.0) or not np.any(responses) or not np.all(np.isfinite(responses)):
        raise Unreadable(f"{name} has no usable responses (rate {rate:g} Hz). Choose another file.")
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

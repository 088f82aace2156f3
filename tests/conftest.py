"""What all tests share: the demo songs, made-up signals, and settings that are never the user's."""

import json
import os
import sys
from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest
from hypothesis import HealthCheck, settings

from latespin.demo import demo_folder
from latespin.dsp.arrays import Audio
from latespin.media.track import Track, open_track

EXAMPLES = os.environ.get("LATESPIN_EXAMPLES")  # more of them, other ones each time: tools/torture
settings.register_profile("ours", deadline=None, max_examples=25, derandomize=True)
settings.register_profile(
    "torture", deadline=None, max_examples=int(EXAMPLES or 25), suppress_health_check=list(HealthCheck)
)
settings.load_profile("torture" if EXAMPLES else "ours")


#: Files that take longest, by the clock: begun first, so that none is left over for one process while the others idle.
LONGEST = (
    "test_effects", "test_video", "test_sets", "test_cluster", "test_readme", "test_torture", "test_session", "test_finishing", "test_publishing",
    "test_moments", "test_cookbook", "test_codec_trial",
)  # fmt: skip


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Put the longest files first; the order within each file stays."""
    place = {name: number for number, name in enumerate(LONGEST)}
    items.sort(key=lambda item: place.get(item.path.stem, len(LONGEST)))


@pytest.fixture(scope="session")
def cache(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A cache folder for all tests, so that a demo song is read once."""
    return tmp_path_factory.mktemp("cache")


@pytest.fixture(autouse=True)
def _own_settings(tmp_path: Path, cache: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("XDG_CACHE_HOME", str(cache))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    monkeypatch.setenv("LATESPIN_CONFIG", str(tmp_path / "config"))
    monkeypatch.setenv("LATESPIN_DEVICE", "silent")


@pytest.fixture(autouse=True, scope="session")
def _nothing_is_compiled_after_the_warm_up() -> Iterator[None]:
    """Whoever meets a kernel that was not compiled beforehand waits for it with the sound stopped."""
    yield
    if os.environ.get("LATESPIN_WARMED_UP"):
        ours = [module for name, module in sys.modules.items() if name.startswith("latespin.")]
        kernels = [k for module in ours for k in vars(module).values() if hasattr(k, "stats") and hasattr(k, "py_func")]
        late = {f"{k.py_func.__name__}{signature}" for k in kernels for signature in k.stats.cache_misses}
        assert not late, f"the warm-up leaves out: {sorted(late)}"


@pytest.fixture(scope="session")
def lantern() -> Track:
    """A whole demo song."""
    return open_track(demo_folder() / "lantern-light.ogg")


@pytest.fixture(scope="session")
def truth() -> list[dict[str, object]]:
    """What is known of the demo songs."""
    return json.loads((demo_folder() / "truth.json").read_text(encoding="utf-8"))


def sine(hz: float, seconds: float, rate: int = 44_100, level: float = 0.5, channels: int = 2) -> Audio:
    """A steady tone, the same in all channels."""
    wave = level * np.sin(2 * np.pi * hz * np.arange(round(seconds * rate)) / rate)
    return np.tile(wave, (channels, 1)).astype(np.float32)


def noise(seconds: float, rate: int = 44_100, level: float = 0.2, seed: int = 1) -> Audio:
    """Two independent channels of white noise."""
    return (level * np.random.default_rng(seed).standard_normal((2, round(seconds * rate)))).astype(np.float32)


def track_of(sound: Audio, rate: int = 44_100) -> Track:
    """A track that has no file."""
    return Track(Path("made-up.wav"), sound, rate, sound.shape[0], "0" * 64)


def frequency(sound: Audio, rate: int, near: float) -> float:
    """The frequency of a steady tone, from the turn of its phase over the middle half; good to 0.001 cent."""
    channel = sound[0].astype(np.float64)
    middle = channel[len(channel) // 4 : 3 * len(channel) // 4]
    n = np.arange(len(middle))
    turned = middle * np.exp(-2j * np.pi * near * n / rate)
    half = len(middle) // 2
    window = np.hanning(half)
    early, late = (turned[:half] * window).sum(), (turned[half : 2 * half] * window).sum()
    return near + float(np.angle(late * np.conj(early))) / (2 * np.pi * half / rate)


def cents(measured: float, wanted: float) -> float:
    """How far apart two frequencies are."""
    return 1200.0 * float(np.log2(measured / wanted))


def level_db(sound: Audio) -> float:
    """Root mean square in dB."""
    return 10.0 * float(np.log10(np.mean(np.square(sound, dtype=np.float64)) + 1e-30))

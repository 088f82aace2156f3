"""Whether all kernels have been compiled on this machine: a stamp beside their cache, which changes with their sources."""

import contextlib
import hashlib
import platform
from importlib.metadata import version
from pathlib import Path

import latespin
from latespin.memory import cache_folder

ROOT = Path(latespin.__file__).parent
SOURCES = ("dsp", "analysis", "render/mastering")  # folders with kernels


def are_compiled() -> bool:
    """True once :func:`mark_compiled` was called for these sources, this Python and this Numba."""
    return any(place.exists() for place in _places())


def mark_compiled() -> None:
    """Remember that all kernels are in their cache; where that cannot be written, they are looked through again next time."""
    for place in _places():
        with contextlib.suppress(OSError):
            place.parent.mkdir(parents=True, exist_ok=True)
            place.touch()
            return


def _places() -> tuple[Path, Path]:
    """Where the stamp may be: beside the kernels' own cache, or, where that is read-only, in the user's."""
    parts = [version("numba"), platform.python_version(), str(ROOT)]
    for folder in SOURCES:
        parts += [f"{path.name} {path.stat().st_mtime_ns}" for path in sorted((ROOT / folder).rglob("*.py"))]
    name = f"kernels-{hashlib.sha256(chr(10).join(parts).encode()).hexdigest()[:16]}.stamp"
    return ROOT / "dsp" / "__pycache__" / name, cache_folder() / name

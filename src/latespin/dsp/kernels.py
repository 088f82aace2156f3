"""How kernels are compiled: by Numba, kept on the disk, and run without Python's lock.

When its first kernel is loaded, Numba looks for SciPy's linear algebra and for CFFI, which kernels could call; that loads all of ``scipy.linalg`` and a parser
of C, 0.2 s in every process. None of the kernels calls any of it, so Numba does not find it here.
"""

import sys
from collections.abc import Callable
from importlib import import_module
from typing import Any

from numba import njit

LOOKED_FOR = {"numba.np.arraymath": "scipy.linalg.cython_blas", "numba.core.typing.cffi_utils": "cffi"}


def kernel(**options: Any) -> Callable[[Callable[..., Any]], Any]:
    """A decorator that has Numba compile a function. options : more of Numba's."""
    return njit(cache=True, nogil=True, **options)  # type: ignore[no-any-return]


def _load_without(module: str, unused: str) -> None:
    """Load a module of Numba while the optional module that it looks for cannot be imported (None in ``sys.modules``)."""
    if unused not in sys.modules:
        sys.modules[unused] = None  # type: ignore[assignment]
        try:
            import_module(module)
        finally:
            del sys.modules[unused]


for _module, _unused in LOOKED_FOR.items():
    _load_without(_module, _unused)

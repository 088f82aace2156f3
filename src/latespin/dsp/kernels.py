"""How kernels are compiled: by Numba, kept on the disk, and run without Python's lock.

Code that is compiled already needs nothing of what compiles it, so that a process in which nothing has to be compiled is spared two things, 0.3 s.

* Before it loads a function from its cache, Numba loads all its rules of compilation. Here it does so only before it compiles.
* It looks for SciPy's linear algebra and for CFFI, which kernels could call; that loads all of ``scipy.linalg`` and a parser of C. None of the kernels
  calls any of it, so Numba does not find it here.
"""

import sys
from collections.abc import Callable
from importlib import import_module
from typing import Any

from numba import njit
from numba.core.caching import FunctionCache
from numba.core.runtime import rtsys

LOOKED_FOR = {"numba.np.arraymath": "scipy.linalg.cython_blas", "numba.core.typing.cffi_utils": "cffi"}


class _CompiledCode(FunctionCache):  # type: ignore[misc]
    """Numba's cache on the disk without the rules of compilation."""

    def load_overload(self, sig: Any, target_context: Any) -> Any:
        """The compiled code for a signature; None where there is none yet, and Numba compiles it."""
        rtsys.initialize(target_context)  # what compiled code needs: the memory of arrays
        with self._guard_against_spurious_io_errors():
            return self._load_overload(sig, target_context)


def kernel(**options: Any) -> Callable[[Callable[..., Any]], Any]:
    """A decorator that has Numba compile a function. options : more of Numba's."""

    def compiled(function: Callable[..., Any]) -> Any:
        dispatcher = njit(nogil=True, **options)(function)
        dispatcher._cache = _CompiledCode(function)  # noqa: SLF001 — where ``cache=True`` puts Numba's own
        return dispatcher

    return compiled


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

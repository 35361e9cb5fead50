"""Pymatting, an independent solver, without compiling it.

Compiling takes it minutes at its first import, and the pictures that it is asked about
here are small: plain Python is quick enough.
"""

from __future__ import annotations

import sys
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any

import numba

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator


@contextmanager
def _uncompiled() -> Iterator[None]:
    """Let decorators of numba return functions as they are."""

    def as_it_is(*signature: Any, **_settings: Any) -> Callable[..., Any]:
        if signature and callable(signature[0]):
            return signature[0]  # type: ignore[no-any-return]
        return lambda function: function

    before = numba.njit, numba.jit, numba.prange
    numba.njit = numba.jit = as_it_is
    numba.prange = range
    try:
        yield
    finally:
        numba.njit, numba.jit, numba.prange = before


with _uncompiled():
    assert "pymatting" not in sys.modules
    from pymatting.foreground.estimate_foreground_ml import estimate_foreground_ml
    from pymatting.laplacian.cf_laplacian import cf_laplacian

__all__ = ["cf_laplacian", "estimate_foreground_ml"]

"""Reads memory by its address, which tables of arrays hold."""

from __future__ import annotations

from typing import Any

from numba import types
from numba.core import cgutils
from numba.extending import intrinsic


@intrinsic
def pointer(typing_context: Any, address: Any) -> Any:
    """Turn an address into a pointer; numba cannot mix arrays of sizes in a tuple."""

    def lower(context: Any, builder: Any, signature: Any, values: Any) -> Any:
        return builder.inttoptr(values[0], cgutils.voidptr_t)

    return types.voidptr(types.intp), lower

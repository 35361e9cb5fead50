"""Where compiled kernels are kept: by what they are, not by where the checkout lies."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from numba.core.caching import UserProvidedCacheLocator

if TYPE_CHECKING:
    from collections.abc import Callable

PACKAGE = __name__.rpartition(".")[0]


class ByContent(UserProvidedCacheLocator):
    """All kernels lie in NUMBA_CACHE_DIR, which whoever sets it names by content.

    Numba would name a folder in it by the path of the sources, so that each checkout
    compiles everything anew.
    """

    @classmethod
    def from_function(cls, py_func: Callable[..., Any], py_file: str) -> Any:
        """Return where a kernel is kept; functions of others lie elsewhere."""
        if py_func.__module__.rpartition(".")[0] != PACKAGE:
            return None
        return super().from_function(py_func, py_file)

    @classmethod
    def get_suitable_cache_subpath(cls, py_file: str) -> str:  # noqa: ARG003
        """Return the folder within: modules of one package have names of their own."""
        return ""


LOCATORS = (
    f"{__name__}.{ByContent.__name__}",
    "UserProvidedCacheLocator",
    "InTreeCacheLocator",
    "UserWideCacheLocator",
)

"""Has numba make machine code of those functions alone that Python calls.

Numba makes it of every function, even of one that is only compiled into others: of the
compositor's two hundred, a third of the time that compiling takes. What is compiled
into others needs to be optimised, no more.
"""

from __future__ import annotations

from typing import Any

from numba.core import codegen


class LateLibrary(codegen.JITCodeLibrary):
    """Optimised code that becomes machine code when its address is asked for."""

    _is_made = False

    def get_pointer_to_function(self, name: str) -> int:
        """Return the address of a function that is defined here, or 0."""
        self._ensure_finalized()
        if not self._is_made:
            if not _defines(self._final_module, name):
                return 0
            self._make()
        address: int = super().get_pointer_to_function(name)
        return address

    def _finalize_specific(self) -> None:
        """Leave it at what is optimised, unless machine code of it was kept."""
        if self._object_caching_enabled and self._compiled_object is not None:
            self._make()

    def _make(self) -> None:
        self._is_made = True
        self._codegen.add_made(self._final_module)
        super()._finalize_specific()


class LateCodegen(codegen.JITCPUCodegen):
    """Makes such libraries."""

    _library_class = LateLibrary

    def _add_module(self, module: Any) -> None:
        """Leave out what may never be called."""

    def add_made(self, module: Any) -> None:
        """Have machine code made of a module."""
        super()._add_module(module)

    def set_env(self, env_name: str, env: Any) -> None:
        """Tell a function its surroundings, which those compiled into others lack."""
        if self._engine.is_symbol_defined(env_name):
            super().set_env(env_name, env)


def _defines(module: Any, name: str) -> bool:
    try:
        return not module.get_function(name).is_declaration
    except NameError:
        return False


def install() -> None:
    """Use them, before numba makes its first library."""
    codegen.JITCPUCodegen = LateCodegen

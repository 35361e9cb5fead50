"""Holds the core's public docstrings to numpydoc: parameters, results, errors.

They stand where something is declared first: at every public function, and every public
method that no base class has. A property, a record, a method that a base class has too,
and what is private need one line, which Ruff asks for; fields say what they are.
"""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import sys
from functools import cached_property
from typing import TYPE_CHECKING

from numpydoc.validate import validate

if TYPE_CHECKING:
    from collections.abc import Iterator
    from types import ModuleType

PACKAGE = "glyphaneme.core"
UNREAD = ("._kernels", ".errors", ".checks")
"""Their arguments are told once: in `_kernels/layout.py`, and by what they say."""
CHECKS = {"GL07", "GL08", "SS03", "PR01", "PR02", "PR03", "PR07", "RT01", "RT03"}


def modules() -> Iterator[ModuleType]:
    """Go through the modules whose docstrings are read."""
    package = importlib.import_module(PACKAGE)
    for found in pkgutil.walk_packages(package.__path__, f"{PACKAGE}."):
        if not any(part in found.name for part in UNREAD):
            yield importlib.import_module(found.name)


def declared(module: ModuleType) -> Iterator[str]:
    """Go through the names of what a module declares and has to describe in full."""
    for name, value in list(vars(module).items()):
        if name.startswith("_") or getattr(value, "__module__", "") != module.__name__:
            continue
        whole = f"{module.__name__}.{name}"
        if inspect.isfunction(value):
            yield whole
        elif inspect.isclass(value):
            if _is_made_by_hand(value):
                yield whole
            yield from (f"{whole}.{one}" for one in _methods(value))


def _is_made_by_hand(owner: type) -> bool:
    """Tell whether a class takes arguments that no fields of it say."""
    made = vars(owner).get("__init__")
    return inspect.isfunction(made) and made.__code__.co_filename == inspect.getfile(
        owner
    )


def _methods(owner: type) -> Iterator[str]:
    for name, value in list(vars(owner).items()):
        is_property = isinstance(value, property | cached_property)
        is_new = not any(hasattr(base, name) for base in owner.__bases__)
        code = inspect.unwrap(getattr(value, "__func__", value))
        if (
            not name.startswith("_")
            and not is_property
            and is_new
            and inspect.isfunction(code)
            and code.__module__ == owner.__module__
        ):
            yield name


def main() -> int:
    """Say what is missing; return 1 where something is."""
    lacks = [
        f"{found['file']}:{found['file_line']}: {name}: {code} {words}\n"
        for module in modules()
        for name in declared(module)
        for found in [validate(name)]
        for code, words in found["errors"]
        if code in CHECKS
    ]
    sys.stdout.writelines(lacks)
    return bool(lacks)


if __name__ == "__main__":
    sys.exit(main())

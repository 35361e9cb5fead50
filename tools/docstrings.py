"""Holds the core's public docstrings to numpydoc: parameters, results, errors.

They stand where something is declared first: at every public function, and every public
method that no base class has. A property that no base class has needs one line, and so
do a record and what is private, for which Ruff asks. Fields say what they are. What a
base class says of a method is not said again, unless there is more to it.
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
        is_new = not any(hasattr(base, name) for base in owner.__bases__)
        code = inspect.unwrap(getattr(value, "__func__", value))
        if (
            not name.startswith("_")
            and is_new
            and inspect.isfunction(code)
            and code.__module__ == owner.__module__
        ):
            yield name


def bare_properties(module: ModuleType) -> Iterator[str]:
    """Go through the public properties of a module that nothing describes."""
    for owner in vars(module).values():
        if not inspect.isclass(owner) or owner.__module__ != module.__name__:
            continue
        for name, value in list(vars(owner).items()):
            is_property = isinstance(value, property | cached_property)
            if is_property and not name.startswith("_") and not _said(owner, name):
                yield f"{module.__name__}.{owner.__name__}.{name}"


def _said(owner: type, name: str) -> bool:
    found = (vars(one).get(name) for one in owner.__mro__)
    return any(value is not None and value.__doc__ for value in found)


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
    lacks += [
        f"{name}: no docstring\n"
        for module in modules()
        for name in bare_properties(module)
    ]
    sys.stdout.writelines(lacks)
    return bool(lacks)


if __name__ == "__main__":
    sys.exit(main())

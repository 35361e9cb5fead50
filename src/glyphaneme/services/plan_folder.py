"""The plans that ship, in their folder, with small examples of what comes of them."""

from __future__ import annotations

import json
from functools import cached_property
from typing import TYPE_CHECKING

from glyphaneme.core.plans import parse_plan
from glyphaneme.services.errors import NotThereError

if TYPE_CHECKING:
    from pathlib import Path

    from glyphaneme.core.plans import Plan

ORDER = "order.json"
EXAMPLES = "examples"
A_PLAN = "plan"


class PlanFolder:
    """The folder with the plans that ship; where there is none, it is empty."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @cached_property
    def plans(self) -> dict[str, Plan]:
        """All plans by their names, in the order in which they are offered."""
        order = self._folder / ORDER
        if not order.exists():
            return {}
        return {
            name: parse_plan((self._folder / f"{name}.json").read_bytes())
            for name in json.loads(order.read_text())
        }

    def require(self, name: str) -> Plan:
        """Return one plan.

        Raises
        ------
        NotThereError
            None is called that.
        """
        found = self.plans.get(name)
        if found is None:
            raise NotThereError(A_PLAN)
        return found

    def has_example(self, name: str, slot: str | None = None) -> bool:
        """Tell whether there is an example of a plan, or one of its photos."""
        return self._example(name, slot).exists()

    def example(self, name: str, slot: str | None = None) -> bytes:
        """Return a small example of a plan, or a photo it was made from, as WebP.

        Raises
        ------
        NotThereError
            There is no such plan, slot or example.
        """
        plan = self.require(name)
        if slot is not None and slot not in {one.name for one in plan.slots}:
            raise NotThereError("slot")
        file = self._example(name, slot)
        if not file.exists():
            raise NotThereError("example")
        return file.read_bytes()

    def _example(self, name: str, slot: str | None) -> Path:
        called = name if slot is None else f"{name}--{slot}"
        return self._folder / EXAMPLES / f"{called}.webp"

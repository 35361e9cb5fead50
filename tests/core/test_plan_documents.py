"""What is written about plans follows from them: the guide, and the schema."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from jsonschema import Draft202012Validator

from tools import write_guide

PLANS = sorted((Path(__file__).parents[2] / "plans").glob("*.json"))
SHIPPED = [one for one in PLANS if one.name != "order.json"]


@pytest.mark.parametrize("file", SHIPPED, ids=lambda one: one.stem)
def test_every_plan_that_ships_passes_the_schema(file: Path) -> None:
    schema = json.loads(write_guide.SCHEMA.read_text())
    plan = json.loads(file.read_text())

    Draft202012Validator(schema).validate(plan)

    broken = plan | {"layers": [{"kind": "photo"}]}
    assert not Draft202012Validator(schema).is_valid(broken)


def test_schema_and_guide_say_what_the_plans_are() -> None:
    again = "run `python -m tools.write_guide`"
    assert write_guide.SCHEMA.read_text() == write_guide.schema(), again
    assert write_guide.GUIDE.read_text() == write_guide.guide(), again


def test_every_plan_has_its_section_with_pictures_that_are_there() -> None:
    guide = write_guide.GUIDE.read_text()
    for file in SHIPPED:
        assert f"](../plans/examples/{file.stem}.webp)" in guide
    for line in guide.split("](")[1:]:
        address = line.partition(")")[0]
        if address.startswith("../"):
            assert (write_guide.GUIDE.parent / address).exists(), address

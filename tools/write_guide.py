"""Writes the guide to the plans, and the schema of their files, from the plans.

    python -m tools.write_guide

The words are those that a plan's page shows; the pictures are the plans' examples. Run
it when a plan has changed; a test finds it when somebody forgot.
"""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import TYPE_CHECKING

from glyphaneme.core.plans import Plan
from glyphaneme.services.plan_folder import EXAMPLES, PlanFolder

if TYPE_CHECKING:
    from collections.abc import Iterator

ROOT = Path(__file__).parents[1]
PLANS = ROOT / "plans"
GUIDE = ROOT / "docs/guide.md"
SCHEMA = ROOT / "docs/plan.schema.json"
BEGIN = """\
# A guide to the kinds of pictures

<!-- Written by tools/write_guide.py from the plans; what is changed here is lost. -->

Each kind of picture is a plan: it says which photos it needs and what suits each, makes
the picture of them, and names what to look at then. Open one on the wall, beneath
*Start*; put your photos in by dropping, pasting or choosing them; watch the picture
form; go on at the desk. There everything can be changed, since it is made of ordinary
layers. Beneath each picture here stand photos that it was made of.

How to make a plan of your own picture, what a plan file holds, and how many pictures
are made at once is told in [plans.md](plans.md).
"""


def main() -> None:
    """Write both files."""
    GUIDE.write_text(guide())
    SCHEMA.write_text(schema())


def guide() -> str:
    """Return the guide, as Markdown."""
    plans = PlanFolder(PLANS).plans.values()
    contents = [f"- [{plan.title}](#{_anchor(plan.title)})" for plan in plans]
    sections = ["\n".join(_section(plan)) for plan in plans]
    return "\n".join([BEGIN, *contents, "", *sections]).rstrip() + "\n"


def schema() -> str:
    """Return the JSON Schema of plan files."""
    found = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "A plan of Glyphaneme",
        **{
            name: one
            for name, one in Plan.model_json_schema().items()
            if name != "title"
        },
    }
    return json.dumps(found, indent=1, ensure_ascii=False) + "\n"


def _section(plan: Plan) -> Iterator[str]:
    yield f"## {plan.title}\n"
    yield f"{plan.about}\n"
    yield f"![{plan.title}](../plans/{EXAMPLES}/{plan.name}.webp)\n"
    sources = [
        f"![{slot.title}](../plans/{EXAMPLES}/{plan.name}--{slot.name}.webp)"
        for slot in plan.slots
        if (PLANS / EXAMPLES / f"{plan.name}--{slot.name}.webp").exists()
    ]
    if sources:
        yield " ".join(sources) + "\n"
    yield "What goes in:\n"
    for slot in plan.slots:
        count = f", {slot.least} to {slot.most} of them" if slot.most > 1 else ""
        wish = "" if slot.needed else ", if you like"
        said = " ".join(filter(None, (slot.suits, slot.why)))
        yield f"- **{slot.title}**{count}{wish}: {said}"
    for words in plan.words:
        yield f"- **{words.title}**, in words: {words.suits or 'what you want to say.'}"
    for choice in plan.choices:
        ways = ", ".join(way.title.lower() for way in choice.options)
        yield f"- **{choice.title}**, to choose: {ways}."
    if plan.steps:
        yield "\nWhat to look at then:\n"
    for number, step in enumerate(plan.steps, 1):
        yield f"{number}. **{step.question}** {step.advice}"
    yield ""


def _anchor(title: str) -> str:
    """Return what a heading is called in addresses."""
    return re.sub(r"[^\w\- ]", "", title.lower()).replace(" ", "-")


if __name__ == "__main__":
    main()

"""Plans: known kinds of pictures, with slots for photos and rules for places."""

from __future__ import annotations

from glyphaneme.core.plans.building import edits_between, edits_to
from glyphaneme.core.plans.facts import (
    FoundCut,
    Known,
    PhotoFacts,
    Side,
    Subject,
)
from glyphaneme.core.plans.filling import Filled, empty_slots, filled
from glyphaneme.core.plans.reading import parse_plan, plan_json, read_plan
from glyphaneme.core.plans.values import Filling, Plan

__all__ = [
    "Filled",
    "Filling",
    "FoundCut",
    "Known",
    "PhotoFacts",
    "Plan",
    "Side",
    "Subject",
    "edits_between",
    "edits_to",
    "empty_slots",
    "filled",
    "parse_plan",
    "plan_json",
    "read_plan",
]

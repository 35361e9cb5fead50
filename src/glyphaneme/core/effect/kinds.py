"""The table of all kinds of effects: a new one is a module and a name here."""

from __future__ import annotations

from typing import Annotated, TypeAlias

from pydantic import Field

from glyphaneme.core.effect.cast import CastShadow
from glyphaneme.core.effect.outline import Outline
from glyphaneme.core.effect.soft import SoftShadow

MAX_EFFECTS = 8

Effect: TypeAlias = Annotated[
    CastShadow | SoftShadow | Outline,
    Field(discriminator="kind"),
]
Effects: TypeAlias = Annotated[tuple[Effect, ...], Field(max_length=MAX_EFFECTS)]

"""Two pictures of one size, to be compared: which, and in which kind of file."""

from __future__ import annotations

import uuid
from typing import Annotated, Final, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.document.model import LayerId
from glyphaneme.core.finish.about import Line

ComparedAs: TypeAlias = Literal["page", "pair", "webp", "gif", "mp4"]
ENDINGS: Final[dict[ComparedAs, tuple[str, str]]] = {
    "page": ("html", "text/html; charset=utf-8"),
    "pair": ("zip", "application/zip"),
    "webp": ("webp", "image/webp"),
    "gif": ("gif", "image/gif"),
    "mp4": ("mp4", "video/mp4"),
}
LONGEST_MOVING: Final = 2560
"""How many pixels the longer side of what moves may have."""


class Moment(BaseModel):
    """The picture as it stood at a moment of its history."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    of: Literal["moment"] = "moment"
    revision: uuid.UUID


class Alone(BaseModel):
    """One layer alone, in the sheet."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    of: Literal["alone"] = "alone"
    layer: LayerId


class Without(BaseModel):
    """The picture without one of its layers."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    of: Literal["without"] = "without"
    layer: LayerId


class AsItIs(BaseModel):
    """The picture as it is."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    of: Literal["picture"] = "picture"


Side: TypeAlias = Annotated[
    Moment | Alone | Without | AsItIs, Field(discriminator="of")
]


class Comparison(BaseModel):
    """Two sides, what they are called, and what they are made into."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    before: Side
    after: Side = AsItIs()
    before_caption: Line = "Before"
    after_caption: Line = "After"
    made_as: ComparedAs = "page"

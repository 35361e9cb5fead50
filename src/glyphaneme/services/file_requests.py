"""What file is asked for, what of a picture it shows, and how it is called."""

from __future__ import annotations

import re
import uuid  # noqa: TC003  # a field's type
from typing import TYPE_CHECKING, Annotated, Any, Final, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from glyphaneme.codecs.openraster import MEDIA_TYPE
from glyphaneme.core.document.apart import only, piece
from glyphaneme.core.document.model import LayerId  # noqa: TC001  # a field's type
from glyphaneme.core.finish import (
    About,
    FileFormat,
    FileSettings,
    shown_part,
)
from glyphaneme.core.finish.comparing import ENDINGS, Comparison
from glyphaneme.core.finish.settings import LAYERED
from glyphaneme.core.place import Rect
from glyphaneme.services.assets import assets_of
from glyphaneme.services.errors import (
    FinishedFileError,
)
from glyphaneme.services.projects import (
    composite_at,
)

if TYPE_CHECKING:
    from glyphaneme.core.document import Composite
    from glyphaneme.services.studio import Visit

MAX_APART: Final = 50
ZIP: Final = "application/zip"
LONGEST_STEM_BYTES: Final = 200


class SheetPart(BaseModel):
    """A part of the sheet, in its pixels."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    y: Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
    width: Annotated[float, Field(ge=1, le=1e5, allow_inf_nan=False)]
    height: Annotated[float, Field(ge=1, le=1e5, allow_inf_nan=False)]

    @property
    def rect(self) -> Rect[float]:
        """The same as a rectangle."""
        return Rect(self.x, self.y, self.x + self.width, self.y + self.height)


class ExportRequest(FileSettings):
    """What file to make, and of what.

    A layered file, "openraster", always has the canvas's own size. Where layers are
    named in `apart`, each is made a picture by itself, on the same sheet, and the file
    is a ZIP of those. A layer that is named as `piece` is the picture, as large as the
    sheet and see-through around it, or cut to what of it shows. Only those layers are
    shown that are `chosen`, if any are.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    revision: uuid.UUID
    apart: tuple[LayerId, ...] = Field(default=(), max_length=MAX_APART)
    piece: LayerId | None = None
    trimmed: bool = False
    """Whether a piece is cut to what of it shows."""
    chosen: tuple[LayerId, ...] = Field(default=(), max_length=200)
    crop: SheetPart | None = None
    compare: Comparison | None = None
    """Two states of the picture in one file that compares them."""
    about: About | None = None
    """What the file says of the picture; None is what the project says of itself."""

    @model_validator(mode="before")
    @classmethod
    def _may_say_a_width(cls, fields: Any) -> Any:  # noqa: ANN401  # JSON
        """Take a width in pixels alone for a size, as the first clients say it."""
        if isinstance(fields, dict) and "width" in fields and "size" not in fields:
            width = {"by": "width", "width": fields["width"]}
            others = {name: one for name, one in fields.items() if name != "width"}
            return {**others, "size": width}
        return fields

    @model_validator(mode="after")
    def _is_of_one_kind(self) -> Self:
        ways = (self.apart, self.piece, self.chosen)
        if sum(map(bool, ways)) > 1:
            message = "a file is of a piece, of layers apart, or of those chosen"
            raise ValueError(message)
        if self.format == LAYERED and (self.apart or self.piece):
            message = "a piece is one picture: it cannot be a layered file, nor apart"
            raise ValueError(message)
        if self.apart and self.format == FileFormat.PDF:
            message = "layers apart are pictures; choose another format than PDF"
            raise ValueError(message)
        return self


def shown_by(
    visit: Visit, request: ExportRequest, project: str
) -> tuple[Composite, Rect[float] | None, str]:
    """Return what is shown, which part of the sheet, and how that is called.

    Raises
    ------
    FinishedFileError
        Nothing is left of it.
    """
    whole = composite_at(visit, request.revision)
    part = None if request.crop is None else request.crop.rect
    if request.chosen:
        return only(whole, request.chosen), part, project
    if request.piece is None:
        return whole, part, project
    shown = piece(whole, request.piece)
    if request.trimmed and part is None:
        part = _trimmed(visit, request, shown, whole)
        if part is None:
            message = (
                "Nothing of the layer shows, so nothing is left once it is cut to "
                "that. Save it in the whole sheet, or show some of it."
            )
            raise FinishedFileError(message)
    return shown, part, shown.layers[0].name


def _trimmed(
    visit: Visit, request: ExportRequest, shown: Composite, whole: Composite
) -> Rect[float] | None:
    """Return what of the sheet a piece shows on; it is asked for again and again."""
    assets = assets_of(visit, shown, pile=whole.layers)
    # Fonts may come later, and letters show then.
    key = (request.revision, request.piece, frozenset(assets))
    trims = visit.studio.trims
    found = trims.get(key)
    if found is None:
        found = trims.put(key, (shown_part(shown, assets, whole),))
    return found[0]


def ending(request: ExportRequest) -> str:
    """Return how the name of what is asked for ends."""
    if request.compare is not None:
        return ENDINGS[request.compare.made_as][0]
    if request.format == LAYERED:
        return "ora"
    return "zip" if request.apart else FileFormat(request.format).facts.ending


def file_name(name: str, its_ending: str) -> str:
    """Return a name that any file system takes."""
    stem = re.sub(r"[^\w\- ]", "", name).strip().replace(" ", "-").lower()
    # File systems count bytes; a letter cut in two is left out.
    stem = stem.encode()[:LONGEST_STEM_BYTES].decode(errors="ignore")
    return f"{stem or 'picture'}.{its_ending}"


def media_type_of(request: ExportRequest) -> str:
    """Return of which kind the file is."""
    if request.compare is not None:
        return ENDINGS[request.compare.made_as][1]
    if request.format == LAYERED:
        return MEDIA_TYPE
    return ZIP if request.apart else FileFormat(request.format).facts.media_type

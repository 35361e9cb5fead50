"""The library: made-up pictures that ship with the product."""

from __future__ import annotations

from typing import Any

from flask import Response
from pydantic import BaseModel

from glyphaneme.services import lending
from glyphaneme.services.library import LibraryPicture
from glyphaneme.services.pictures import BroughtIn
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import changing, looking, studio

api = blueprint("library")

A_DAY = "private, max-age=86400"


class LibraryPath(BaseModel):
    """A picture of the library, by its name there."""

    name: str


class LibraryPictures(BaseModel):
    """All pictures of the library, kind by kind."""

    pictures: list[LibraryPicture]


@api.get("/library", responses={200: LibraryPictures})
def get_library() -> dict[str, Any]:
    """Return all pictures of the library."""
    with looking() as visit:
        found = lending.list_library(visit)
    return LibraryPictures(pictures=found).model_dump(mode="json")


@api.post("/library/<name>", responses={201: BroughtIn})
def post_library_picture(path: LibraryPath) -> tuple[dict[str, Any], int]:
    """Make a picture of the library an ordinary one, to be laid on."""
    with changing() as visit:
        picture = lending.bring_from_library(visit, path.name)
    return picture.model_dump(mode="json"), 201


@api.get("/library/<name>/thumbnail", responses={200: {"content": {"image/webp": {}}}})
def get_library_thumbnail(path: LibraryPath) -> Response:
    """Return a small copy of a picture of the library."""
    response = Response(
        studio().library.thumbnail(path.name), content_type="image/webp"
    )
    response.headers["Cache-Control"] = A_DAY
    return response

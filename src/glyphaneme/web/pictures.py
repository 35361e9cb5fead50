"""Pictures: bringing them in, and the shelf."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import FileStorage
from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document.naming import Name
from glyphaneme.services import pictures
from glyphaneme.services.pictures import BroughtIn, Picture
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking
from glyphaneme.web.uploads import uploaded

api = blueprint("pictures")

FOR_EVER = "private, max-age=31536000, immutable"


class PictureForm(BaseModel):
    """The file to bring in."""

    file: FileStorage


class PictureChange(BaseModel):
    """Another name, or whether the picture is on the shelf."""

    model_config = ConfigDict(extra="forbid")

    name: Name | None = None
    on_shelf: bool | None = None


class Shelf(BaseModel):
    """All pictures brought in or once lent by the library, newest first."""

    pictures: list[Picture]


@api.get("/pictures", responses={200: Shelf})
def get_pictures() -> dict[str, Any]:
    """Return all pictures."""
    with looking() as visit:
        shelf = pictures.list_shelf(visit)
    return Shelf(pictures=shelf).model_dump(mode="json")


@api.post("/pictures", responses={201: BroughtIn})
def post_picture() -> Response | tuple[dict[str, Any], int]:
    """Bring a picture in: multipart, field `file`."""
    upload = uploaded("the picture")
    if isinstance(upload, Response):
        return upload
    with changing() as visit:
        picture = pictures.bring_in(visit, upload.file, file_name=upload.name)
    return picture.model_dump(mode="json"), 201


@api.get("/pictures/<uuid:id>", responses={200: Picture})
def get_picture(path: IdPath) -> dict[str, Any]:
    """Return what is known of a picture."""
    with looking() as visit:
        picture = pictures.get_picture(visit, path.id)
    return picture.model_dump(mode="json")


@api.patch("/pictures/<uuid:id>", responses={204: None})
def patch_picture(path: IdPath, body: PictureChange) -> tuple[str, int]:
    """Rename a picture, take it off the shelf, or put it back."""
    with changing() as visit:
        if body.name is not None:
            pictures.rename_picture(visit, path.id, body.name)
        if body.on_shelf is not None:
            pictures.put_on_shelf(visit, path.id, on_shelf=body.on_shelf)
    return "", 204


@api.get("/pictures/<uuid:id>/thumbnail", responses={200: {"content": {"image/*": {}}}})
def get_thumbnail(path: IdPath) -> Response:
    """Return a small copy of a picture."""
    with looking() as visit:
        data = pictures.get_thumbnail(visit, path.id)
    png = data.startswith(b"\x89PNG")
    response = Response(data, content_type="image/png" if png else "image/jpeg")
    response.headers["Cache-Control"] = FOR_EVER
    return response


@api.get("/pictures/<uuid:id>/file", responses={200: {"content": {"image/*": {}}}})
def get_file(path: IdPath) -> Response:
    """Return a picture's file as it was brought in."""
    with looking() as visit:
        file = pictures.original_file(visit, path.id)
    response = Response(file.pieces, content_type=file.media_type)
    response.content_length = file.size
    return response

"""Fonts: which there are, their files, and bringing some in."""

from __future__ import annotations

from typing import Any

from flask import Response
from flask_openapi3 import FileStorage
from pydantic import BaseModel, ConfigDict

from glyphaneme.core.words import FontId, Text
from glyphaneme.services import fonts
from glyphaneme.services.fonts import FontFacts, OfferedFont
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import changing, looking
from glyphaneme.web.uploads import uploaded

api = blueprint("fonts")

FOR_EVER = "private, max-age=31536000, immutable"


class FontPath(BaseModel):
    """A font, by the SHA-256 of its file."""

    id: FontId


class FontForm(BaseModel):
    """The file to bring in."""

    file: FileStorage


class Fonts(BaseModel):
    """Fonts on offer, group by group."""

    fonts: list[OfferedFont]


class LackingRequest(BaseModel):
    """A text that fonts are asked about."""

    model_config = ConfigDict(extra="forbid")

    text: Text


class Lacking(BaseModel):
    """By font id, the letters that it lacks; fonts that lack none are left out."""

    lacking: dict[str, str]


@api.get("/fonts", responses={200: Fonts})
def get_fonts() -> dict[str, Any]:
    """Return all fonts on offer."""
    with looking() as visit:
        found = fonts.list_fonts(visit)
    return Fonts(fonts=found).model_dump(mode="json")


@api.post("/fonts", responses={201: Fonts})
def post_font() -> Response | tuple[dict[str, Any], int]:
    """Bring in all fonts of a file: multipart, field `file`."""
    upload = uploaded("the font")
    if isinstance(upload, Response):
        return upload
    with changing() as visit:
        found = fonts.bring_in_font(visit, upload.file)
    return Fonts(fonts=found).model_dump(mode="json"), 201


@api.post("/fonts/lacking", responses={200: Lacking})
def post_lacking(body: LackingRequest) -> dict[str, Any]:
    """Return which letters of a text each font lacks."""
    with looking() as visit:
        found = fonts.lacking(visit, body.text)
    return Lacking(lacking=found).model_dump(mode="json")


@api.get("/fonts/<id>", responses={200: FontFacts})
def get_font(path: FontPath) -> dict[str, Any]:
    """Return what a font can do."""
    with looking() as visit:
        found = fonts.facts_of(visit, path.id)
    return found.model_dump(mode="json")


@api.delete("/fonts/<id>", responses={204: None})
def delete_font(path: FontPath) -> tuple[str, int]:
    """Take a font off those on offer; words that are set in it keep it."""
    with changing() as visit:
        fonts.put_away_font(visit, path.id)
    return "", 204


@api.get("/fonts/<id>/file", responses={200: {"content": {"font/ttf": {}}}})
def get_font_file(path: FontPath) -> Response:
    """Return a font's file."""
    with looking() as visit:
        data = fonts.font_file(visit, path.id)
    response = Response(data, content_type="font/ttf")
    response.headers["Cache-Control"] = FOR_EVER
    return response

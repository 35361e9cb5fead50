"""Pictures of projects for the screen."""

from __future__ import annotations

import io
import uuid
from typing import TYPE_CHECKING, Annotated, Any

from flask import Response, request
from pydantic import BaseModel, Field

from glyphaneme.core.document.model import LayerId
from glyphaneme.core.edits import Edit
from glyphaneme.core.mask import KeptPart, PartId
from glyphaneme.services import asking, keeping, showing, toning
from glyphaneme.services.asking import LayerThere
from glyphaneme.services.projects import require_project, require_revision
from glyphaneme.services.showing import Draft, FrameView
from glyphaneme.web.describing import blueprint
from glyphaneme.web.shared import IdPath, changing, looking

if TYPE_CHECKING:
    from http import HTTPStatus

api = blueprint("frames")

MAX_ALTERNATIVES = 32
MAX_POINTS = 400
WIDEST_TILE = 640
Coordinate = Annotated[float, Field(ge=-1e6, le=1e6)]
TILES_HEADER = "Tiles"
"""JSON of `Tiles`: what a sheet of alternatives shows."""
ROUGH_HEADER = "Rough-As-Yet"
"""Asked for again, the same frame shows more of what takes long to find."""
TONES_HEADER = "Tone-Counts"
"""Base64 of two times four times 256 heights, as `toning.counted` says."""
BINARY: dict[str | int | HTTPStatus, Any] = {
    200: {"content": {"application/octet-stream": {}}}
}


class ToneOf(BaseModel):
    """Which tone of which layer is worked on."""

    layer_id: LayerId
    place: int = Field(ge=0)


class FrameRequest(Draft):
    """A draft, a view of it, and whose tones shall be counted besides."""

    view: FrameView
    tones_of: ToneOf | None = None


class TriesRequest(Draft):
    """A draft, and edits to try on it, each for itself.

    `window` says what of the canvas to show; without it that is where they differ most.
    """

    alternatives: list[Edit] = Field(min_length=1, max_length=MAX_ALTERNATIVES)
    width: int = Field(ge=8, le=WIDEST_TILE)
    window: showing.Window | None = None


class Tiles(BaseModel):
    """What tiles show: how high each is, what of the canvas, which show no change."""

    height: int
    x: float
    y: float
    wide: float
    high: float
    alike: tuple[int, ...]


class PointRequest(Draft):
    """A draft, and a position on its canvas."""

    x: Coordinate
    y: Coordinate


class LayersThere(BaseModel):
    """What lies under a point, front to back."""

    layers: list[LayerThere]


class PreviewQuery(BaseModel):
    """How wide a preview shall be, and of which state."""

    width: int = Field(default=480, ge=8, le=2048)
    revision: uuid.UUID | None = None


class ColorsQuery(BaseModel):
    """Of which state, and beneath which of its layers."""

    revision: uuid.UUID
    beneath: str | None = None


class Colors(BaseModel):
    """Colours that a picture is mostly made of, from dark to light."""

    colors: list[str]


@api.get("/projects/<uuid:id>/colors", responses={200: Colors})
def get_colors(path: IdPath, query: ColorsQuery) -> dict[str, Any]:
    """Offer colours from the picture itself."""
    with looking() as visit:
        found = asking.colors_beneath(
            visit,
            path.id,
            revision=query.revision,
            layer_id=query.beneath,
        )
    return Colors(colors=list(found)).model_dump(mode="json")


@api.post("/projects/<uuid:id>/frame", responses=BINARY)
def post_frame(path: IdPath, body: FrameRequest) -> Response:
    """Render what the stage shows; the body's layout is `encode_frame`'s."""
    with looking() as visit:
        frame = showing.show_frame(
            visit,
            path.id,
            draft=body,
            view=body.view,
        )
        response = Response(frame.data, content_type="application/octet-stream")
        if frame.is_rough:
            response.headers[ROUGH_HEADER] = "1"
        if body.tones_of is not None:
            asked = body.tones_of
            response.headers[TONES_HEADER] = toning.counted(
                visit, path.id, draft=body, layer_id=asked.layer_id, place=asked.place
            )
    return response


class KeepRequest(Draft):
    """A draft, and which part of which layer's mask shall no longer follow another."""

    layer_id: LayerId
    part_id: PartId


@api.post("/projects/<uuid:id>/kept-parts", responses={201: KeptPart})
def post_kept_part(path: IdPath, body: KeepRequest) -> tuple[dict[str, Any], int]:
    """Keep how another layer shows now, as a part that stays as it is."""
    with changing() as visit:
        part = keeping.keep_shape(
            visit, path.id, draft=body, layer_id=body.layer_id, part_id=body.part_id
        )
    return part.model_dump(mode="json"), 201


@api.post("/projects/<uuid:id>/layers-there", responses={200: LayersThere})
def post_layers_there(path: IdPath, body: PointRequest) -> dict[str, Any]:
    """Return all layers under a point, front to back, each by itself."""
    with looking() as visit:
        found = asking.layers_there(visit, path.id, draft=body, at=(body.x, body.y))
    return LayersThere(layers=found).model_dump(mode="json")


class BeneathRequest(Draft):
    """A draft, and a layer of it."""

    layer_id: LayerId


class BlankRequest(BeneathRequest):
    """A draft, a layer of it, and a rough stroke over a blank place beneath that."""

    stroke: list[tuple[Coordinate, Coordinate]] = Field(
        min_length=1, max_length=MAX_POINTS
    )
    radius: float = Field(gt=0, le=1e5)


class SurfacePoints(BaseModel):
    """Positions on the canvas."""

    points: list[tuple[float, float]]


@api.post("/projects/<uuid:id>/layer-extent", responses={200: SurfacePoints})
def post_layer_extent(path: IdPath, body: BeneathRequest) -> dict[str, Any]:
    """Return the upper left and the lower right corner of where a layer shows."""
    with looking() as visit:
        points = asking.extent_of(visit, path.id, draft=body, layer_id=body.layer_id)
    return SurfacePoints(points=points).model_dump(mode="json")


@api.post("/projects/<uuid:id>/corner-points", responses={200: SurfacePoints})
def post_corner_points(path: IdPath, body: BeneathRequest) -> dict[str, Any]:
    """Return corner-like points of what lies beneath a layer, the clearest first."""
    with looking() as visit:
        points = asking.corners_beneath(
            visit, path.id, draft=body, layer_id=body.layer_id
        )
    return SurfacePoints(points=points).model_dump(mode="json")


@api.post("/projects/<uuid:id>/blank-corners", responses={200: SurfacePoints})
def post_blank_corners(path: IdPath, body: BlankRequest) -> dict[str, Any]:
    """Return the four corners of the blank place that a rough stroke goes over."""
    with looking() as visit:
        points = asking.blank_beneath(
            visit,
            path.id,
            draft=body,
            layer_id=body.layer_id,
            stroke=body.stroke,
            radius=body.radius,
        )
    return SurfacePoints(points=points).model_dump(mode="json")


@api.post("/projects/<uuid:id>/tries", responses=BINARY)
def post_tries(path: IdPath, body: TriesRequest) -> Response:
    """Render where alternatives differ most, small, once with each of them."""
    with looking() as visit:
        shown = showing.show_alternatives(
            visit,
            path.id,
            draft=body,
            alternatives=body.alternatives,
            width=body.width,
            window=body.window,
        )
    response = Response(shown.data, content_type="application/octet-stream")
    left, top, *_ = shown.window
    told = Tiles(
        height=shown.height,
        x=left,
        y=top,
        wide=shown.window.width,
        high=shown.window.height,
        alike=shown.alike,
    )
    response.headers[TILES_HEADER] = told.model_dump_json()
    return response


class HiddenQuery(BaseModel):
    """What a layer's mask hides of it, in which state, and how large."""

    revision: uuid.UUID
    layer: LayerId
    side: int = Field(default=104, ge=8, le=256)


@api.get("/projects/<uuid:id>/hidden", responses={200: {"content": {"image/png": {}}}})
def get_hidden(path: IdPath, query: HiddenQuery) -> Response:
    """Return what a layer's mask hides of it, as the alpha of a small picture."""
    file = io.BytesIO()
    with looking() as visit:
        require_revision(visit, path.id, query.revision)
        showing.write_hidden(
            visit, query.revision, layer_id=query.layer, side=query.side, file=file
        )
    response = Response(file.getvalue(), content_type="image/png")
    # A state never changes.
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@api.get("/projects/<uuid:id>/preview", responses={200: {"content": {"image/*": {}}}})
def get_preview(path: IdPath, query: PreviewQuery) -> Response:
    """Return a small copy of a project as an image file."""
    file = io.BytesIO()
    with looking() as visit:
        shown = query.revision or require_project(visit, path.id).head_id
        require_revision(visit, path.id, shown)
        response = Response()
        response.set_etag(f"{shown}-{query.width}")
        response.headers["Cache-Control"] = "private, no-cache"
        if response.make_conditional(request).status_code == 304:
            return response
        preview = showing.write_preview(
            visit,
            shown,
            width=query.width,
            file=file,
        )
    if preview.is_rough:
        # Nobody shall keep it.
        del response.headers["ETag"]
        response.headers["Cache-Control"] = "no-store"
    response.data = file.getvalue()
    response.content_type = preview.format.facts.media_type
    return response

"""Questions about what a project shows: what lies where, and of what colours it is."""

from __future__ import annotations

import base64
import io
from typing import TYPE_CHECKING

from pydantic import BaseModel, ConfigDict

from glyphaneme.codecs import FileFormat, FileSpec, write_picture
from glyphaneme.core.align.surfaces import blank_corners, corner_points
from glyphaneme.core.color import palette_of
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.model import NEUTRAL
from glyphaneme.core.render import View, layers_under, render, shown_extent
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_of
from glyphaneme.services.projects import composite_at, require_revision
from glyphaneme.services.showing import drafted, whole_view

if TYPE_CHECKING:
    import uuid
    from collections.abc import Sequence

    import numpy as np
    from numpy.typing import NDArray

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite
    from glyphaneme.core.render import CutOut
    from glyphaneme.services.showing import Draft
    from glyphaneme.services.studio import Visit

CUT_OUT_SIDE = 176
MOST_FOUND = 24
PALETTE_WIDTH = 96
SURFACES_LONGEST = 1400


class LayerThere(BaseModel):
    """A layer that shows something at a point, and how it looks by itself."""

    model_config = ConfigDict(frozen=True)

    layer_id: str
    name: str
    within: str | None
    """The name of the group that it lies in."""
    picture: str
    """A data address of a small PNG: the layer alone, on nothing."""


def layers_there(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    draft: Draft,
    at: tuple[float, float],
) -> list[LayerThere]:
    """Return what lies under a point of the canvas, front to back."""
    composite = drafted(visit, project_id, draft)
    assets = assets_of(visit, composite)
    found = layers_under(composite, assets, at, side=CUT_OUT_SIDE, most=MOST_FOUND)
    return [_layer_there(composite, one) for one in found]


def extent_of(
    visit: Visit, project_id: uuid.UUID, *, draft: Draft, layer_id: str
) -> list[tuple[float, float]]:
    """Return the corners of where a layer shows on the canvas; none where nowhere."""
    composite = drafted(visit, project_id, draft)
    path = composite.path_to(layer_id)
    bare = with_fields(on_canvas(path), **NEUTRAL | {"name": path[-1].name})
    canvas = with_fields(composite.canvas, background=None)
    alone = with_fields(composite, canvas=canvas, layers=(bare,))
    pile = composite.layers
    assets = assets_of(visit, alone, pile=pile, quick=True)

    def alpha_in(view: View) -> NDArray[np.uint8]:
        return render(alone, assets, view, pile=pile)[..., 3]

    found = shown_extent(bare, canvas, alpha_in)
    if found is None:
        return []
    return [(found.left, found.top), (found.right, found.bottom)]


def _layer_there(composite: Composite, found: CutOut) -> LayerThere:
    *groups, layer = composite.path_to(found.layer_id)
    file = io.BytesIO()
    write_picture(found.pixels, file, FileSpec(FileFormat.PNG, quality=100, ppi=72))
    data = base64.b64encode(file.getvalue()).decode()
    return LayerThere(
        layer_id=layer.id,
        name=layer.name,
        within=groups[-1].name if groups else None,
        picture=f"data:image/png;base64,{data}",
    )


def colors_beneath(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    revision: uuid.UUID,
    layer_id: str | None,
) -> tuple[str, ...]:
    """Return colours of what lies beneath a layer, or of everything."""
    require_revision(visit, project_id, revision)
    composite = composite_at(visit, revision)
    return palette_of(_beneath_layer(visit, composite, layer_id, PALETTE_WIDTH)[0])


def corners_beneath(
    visit: Visit, project_id: uuid.UUID, *, draft: Draft, layer_id: str
) -> list[tuple[float, float]]:
    """Return corner-like points of what lies beneath a layer, on the canvas."""
    composite = drafted(visit, project_id, draft)
    seen, scale = _beneath_layer(visit, composite, layer_id, SURFACES_LONGEST)
    return [(x, y) for x, y in (corner_points(seen) / scale).tolist()]


def blank_beneath(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    draft: Draft,
    layer_id: str,
    stroke: Sequence[tuple[float, float]],
    radius: float,
) -> list[tuple[float, float]]:
    """Return the corners of the even area beneath a layer that a stroke goes over.

    Positions and the radius are on the canvas; the corners run clockwise from the top
    left.

    Raises
    ------
    NoSurfaceError
        There is no area with four sides.
    """
    composite = drafted(visit, project_id, draft)
    seen, scale = _beneath_layer(visit, composite, layer_id, SURFACES_LONGEST)
    points = [(x * scale, y * scale) for x, y in stroke]
    found = blank_corners(seen, points, radius * scale) / scale
    return [(x, y) for x, y in found.tolist()]


def _beneath_layer(
    visit: Visit, composite: Composite, layer_id: str | None, longest: int
) -> tuple[PixelsU8, float]:
    """Render what lies beneath a layer, or everything, small; return its scale too."""
    pile = composite.layers
    if layer_id is not None:
        outermost = composite.path_to(layer_id)[0]
        below = composite.layers[: composite.layers.index(outermost)]
        composite = with_fields(composite, layers=below)
    assets = assets_of(visit, composite, pile=pile)
    view = whole_view(composite, longest, tallest=longest)
    return render(composite, assets, view, pile=pile), view.scale

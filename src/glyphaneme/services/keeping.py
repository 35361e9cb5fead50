"""Keeping how another layer shows now, as a mask that no longer follows it."""

from __future__ import annotations

import io
import math
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from glyphaneme.codecs import FileFormat, FileSpec, write_picture
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.masks import to_mask_of
from glyphaneme.core.document.model import FlatLayer
from glyphaneme.core.errors import NoSuchWorkError, PartMissingError
from glyphaneme.core.mask import KeptPart, LayerPart
from glyphaneme.core.place.transform import followed_by, inverted, transform_of
from glyphaneme.core.render import Passes, View, all_needed, reach_of
from glyphaneme.core.wording import part_words
from glyphaneme.services.assets import assets_named
from glyphaneme.services.pictures import bring_in
from glyphaneme.services.showing import drafted

if TYPE_CHECKING:
    import uuid

    from numpy.typing import NDArray

    from glyphaneme.core.document import Composite, Layer
    from glyphaneme.services.showing import Draft
    from glyphaneme.services.studio import Visit

MOST_PIXELS = 16_000_000


def keep_shape(
    visit: Visit, project_id: uuid.UUID, *, draft: Draft, layer_id: str, part_id: str
) -> KeptPart:
    """Return a part that shows what another layer's shape or lightness does now.

    Raises
    ------
    NotThereError
        There is no such project or state.
    PartMissingError
        The layer's mask has no such part.
    NoSuchWorkError
        It is no other layer's shape.
    """
    composite = drafted(visit, project_id, draft)
    layer = composite.layer(layer_id)
    parts = layer.mask.parts if layer.mask else ()
    part = next((one for one in parts if one.id == part_id), None)
    if part is None:
        raise PartMissingError(part_id)
    if not isinstance(part, LayerPart):
        raise NoSuchWorkError(part.kind, "follows no other layer")
    kept = _kept(visit, composite, part)
    file = io.BytesIO()
    write_picture(kept.pixels, file, FileSpec(FileFormat.PNG, quality=100, ppi=72))
    names = {one.id: one.name for one in composite.all_layers()}
    said = part_words(part, names)
    picture = bring_in(visit, file, file_name=f"{said}.png", on_shelf=False)
    to_canvas = inverted(to_mask_of(composite, layer_id))
    shared = part.model_dump(include={"id", "join", "inverted", "works"})
    return KeptPart(
        **shared,
        picture=str(picture.id),
        said=said,
        to_picture=transform_of(followed_by(to_canvas, kept.to_picture)),
    )


class Kept(NamedTuple):
    """What is kept, as the alpha of a picture; `to_picture` maps the canvas to it."""

    pixels: NDArray[np.uint8]
    to_picture: NDArray[np.float64]


def _kept(visit: Visit, composite: Composite, part: LayerPart) -> Kept:
    """Render another layer alone, as far as it reaches, with nothing all round."""
    view = _view_of(composite, on_canvas(composite.path_to(part.layer_id)))
    assets = assets_named(visit, all_needed(composite))
    passes = Passes(composite.layers, assets, view)
    pixels = np.zeros((view.height + 2, view.width + 2, 4), np.uint8)
    alpha = passes.quality(part.layer_id, part.quality)
    if alpha is not None:
        pixels[1:-1, 1:-1, 3] = alpha
    scale = view.scale
    to_picture = np.array(
        [[scale, 0, 1 - view.x * scale], [0, scale, 1 - view.y * scale]]
    )
    return Kept(pixels, to_picture)


def _view_of(composite: Composite, lifted: Layer) -> View:
    """Return a view of what a layer covers of the canvas and of what lies beyond it."""
    canvas = composite.canvas
    # What may reach anywhere is kept for the canvas, and a little round it.
    beyond = 1.0 if isinstance(lifted, FlatLayer) else 0.25
    around = View(
        -beyond * canvas.width,
        -beyond * canvas.height,
        round((1 + 2 * beyond) * canvas.width),
        round((1 + 2 * beyond) * canvas.height),
        1,
    )
    left, top, right, bottom = reach_of(lifted, around)
    width, height = max(right - left, 1), max(bottom - top, 1)
    scale = min(1.0, math.sqrt(MOST_PIXELS / (width * height)))
    return View(
        around.x + left,
        around.y + top,
        max(round(width * scale), 1),
        max(round(height * scale), 1),
        scale,
    )

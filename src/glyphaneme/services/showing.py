"""Pictures of a project for the screen: frames, previews and alternatives."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Literal, NamedTuple

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.codecs import (
    FileFormat,
    FileSpec,
    encode_frame,
    write_picture,
)
from glyphaneme.codecs.color import proofed
from glyphaneme.core.document.apart import beneath
from glyphaneme.core.document.grouping import on_canvas
from glyphaneme.core.document.masks import hidden_part, mask_alone
from glyphaneme.core.document.model import NEUTRAL, LayerId
from glyphaneme.core.edits import Edit, apply
from glyphaneme.core.render import (
    Fineness,
    View,
    edge_of,
    hidden_share,
    mask_view,
    render,
    render_exact,
    rim_of,
    telling_window,
)
from glyphaneme.core.values import with_fields
from glyphaneme.services.assets import assets_of
from glyphaneme.services.fonts import measured_edit
from glyphaneme.services.mending import is_rough
from glyphaneme.services.painting import drafted_stroke
from glyphaneme.services.profiles import printers_colors
from glyphaneme.services.projects import (
    composite_at,
    require_revision,
)

if TYPE_CHECKING:
    from collections.abc import Hashable, Sequence
    from typing import BinaryIO

    from glyphaneme.core.arrays import PixelsU8
    from glyphaneme.core.document import Composite
    from glyphaneme.core.place import Rect
    from glyphaneme.services.studio import Visit

LARGEST_FRAME_SIDE = 4096
MAX_UNSAVED = 200
UNSEEN = 1
"""Levels of 255 by which pictures may differ and still show the same."""
MOST_ENLARGED = 2
"""How many pixels of a tile come for one of the canvas, at most."""
TALLEST_SHEET = 65_500
"""No JPEG encoder takes more: tiles are smaller where there are many tall ones."""
QUALITY: dict[Fineness, int] = {"quick": 85, "fine": 95, "exact": 95}
"""Of a frame's JPEG."""


class FrameView(BaseModel):
    """Which part of the canvas to show, and how large."""

    model_config = ConfigDict(frozen=True)

    x: float = Field(ge=-1e6, le=1e6)
    y: float = Field(ge=-1e6, le=1e6)
    width: int = Field(ge=1, le=LARGEST_FRAME_SIDE)
    height: int = Field(ge=1, le=LARGEST_FRAME_SIDE)
    scale: float = Field(ge=1e-6, le=64)
    fineness: Fineness = "quick"
    """How near to the export: quick for what moves, fine for what rests, exact for what
    stays to be looked at."""
    hidden_of: LayerId | None = None
    """Besides, what this layer's mask hides of it, at full strength, on nothing."""
    mask_of: LayerId | None = None
    """Only this layer's mask: white where the layer shows, black where it is hidden."""
    printed: bool = False
    """In the colours of the printer that is set for print shops, as they look here."""
    mask_seen: Literal["whole", "edge", "rim"] = "whole"
    """Of that mask only the edge: white where it is neither, or where both meet; or the
    rim: white where something of the old backdrop is left, and shows before what lies
    behind now."""


class Draft(BaseModel):
    """A state of a project with edits on top of it that are not saved (yet)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    revision: uuid.UUID
    unsaved: tuple[Edit, ...] = Field(default=(), max_length=MAX_UNSAVED)


class ShownFrame(NamedTuple):
    """A frame as `encode_frame` lays it out."""

    data: bytes
    is_rough: bool = False
    """Whether it is worth asking for it again at once: there is more to it."""


def show_frame(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    draft: Draft,
    view: FrameView,
) -> ShownFrame:
    """Render a frame of a draft, and after it another of what a mask hides there."""
    composite = drafted(visit, project_id, draft)
    seen = View(view.x, view.y, view.width, view.height, view.scale)
    asked = _Asked(composite, seen, [])
    if view.mask_of is not None and view.mask_seen == "rim":
        rim = _rim(visit, asked, view.mask_of)
        return ShownFrame(encode_frame(rim, quality=QUALITY["exact"]))
    shown = composite if view.mask_of is None else mask_alone(composite, view.mask_of)
    frame = _frame(visit, asked, shown, (project_id, view.mask_of), view.fineness)
    if view.mask_seen == "edge" and view.mask_of is not None:
        frame = edge_of(frame)
    if view.printed:
        frame = proofed(frame, printers_colors(visit))
    encoded = encode_frame(frame, quality=QUALITY[view.fineness])
    if view.hidden_of is None:
        return ShownFrame(encoded, is_rough=bool(asked.rough))
    # It is hatched: no one sees its pixels as they are.
    hidden = hidden_part(composite, view.hidden_of)
    beside = _frame(visit, asked, hidden, (project_id, "hidden"), "quick")
    data = encoded + encode_frame(beside, quality=QUALITY["quick"])
    return ShownFrame(data, is_rough=bool(asked.rough))


def _rim(visit: Visit, asked: _Asked, layer_id: str) -> PixelsU8:
    """Render what is left of an old backdrop along a layer's edge."""
    composite, pile = asked.composite, asked.composite.layers
    path = composite.path_to(layer_id)
    layer = with_fields(on_canvas(path), **NEUTRAL | {"name": path[-1].name})
    clear = with_fields(composite.canvas, background=None)
    below = beneath(composite, layer_id).layers
    whole = with_fields(layer, mask=None, fades=())
    pictures = []
    for canvas, layers in (
        (clear, (layer,)),
        (clear, (whole,)),
        (composite.canvas, below),
    ):
        shown = with_fields(composite, canvas=canvas, layers=layers)
        assets = assets_of(visit, shown, asked.view, pile=pile)
        pictures.append(render(shown, assets, asked.view, pile=pile))
    return rim_of(*pictures)


class _Asked(NamedTuple):
    composite: Composite
    view: View
    rough: list[Hashable]
    """What of it is to be asked for again: some of its pixels are rough as yet."""


def _frame(
    visit: Visit,
    asked: _Asked,
    shown: Composite,
    picture: Hashable,
    fineness: Fineness,
) -> PixelsU8:
    """Render what is shown of a composite, with masks that read the rest of it."""
    pile = asked.composite.layers
    assets = assets_of(visit, shown, asked.view, pile=pile, quick=fineness == "quick")
    frames = visit.studio.frames
    frame = frames.render(
        picture, shown, assets, asked.view, fineness=fineness, pile=pile
    )
    if is_rough(visit, assets):
        frames.forget(picture)
        # One that moves is followed by another anyhow.
        if fineness != "quick":
            asked.rough.append(picture)
    return frame


class Window(BaseModel):
    """Part of the canvas, and a little round it; canvas pixels."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: float = Field(ge=-1e6, le=1e6)
    y: float = Field(ge=-1e6, le=1e6)
    width: float = Field(ge=1, le=1e6)
    height: float = Field(ge=1, le=1e6)


class ShownTries(NamedTuple):
    """Small pictures of alternatives, and what they show."""

    data: bytes
    """All of them below one another, as `encode_frame` lays them out."""
    height: int
    """Of each."""
    window: Rect[float]
    """Which part of the canvas each of them shows, in canvas pixels."""
    alike: tuple[int, ...]
    """Places of those that show what is there without them."""


def show_alternatives(
    visit: Visit,
    project_id: uuid.UUID,
    *,
    draft: Draft,
    alternatives: Sequence[Edit],
    width: int,
    window: Window | None = None,
) -> ShownTries:
    """Render a picture where alternatives differ most, with each of them.

    Each is as wide as is asked for, or less where it would be too tall. A `window`
    says which part of the canvas is shown instead.
    """
    composite = drafted(visit, project_id, draft)
    tried = [_with_edit(visit, composite, edit) for edit in alternatives]
    tallest = TALLEST_SHEET // len(tried)
    tallest = min(LARGEST_FRAME_SIDE, tallest)
    if window is None:
        view = whole_view(composite, width, tallest=tallest)
    else:
        view = _view_of(window, width, tallest=tallest)

    def seen(shown: Composite, view: View) -> PixelsU8:
        assets = assets_of(visit, shown)
        return visit.studio.frames.render(project_id, shown, assets, view)

    tiles = [seen(one, view) for one in tried]
    if window is None:
        telling = telling_window(tiles, least=view.scale / MOST_ENLARGED)
        if telling.width < 1:
            view = _windowed(view, telling)
            tiles = [seen(one, view) for one in tried]
    now = seen(composite, view)
    alike = [
        place
        for place, tile in enumerate(tiles)
        if cv2.norm(tile, now, cv2.NORM_INF) <= UNSEEN
    ]
    data = encode_frame(np.concatenate(tiles), quality=88)
    return ShownTries(data, view.height, view.on_canvas, tuple(alike))


def _view_of(window: Window, width: int, *, tallest: int) -> View:
    """Return the view of a part of the canvas, so wide, or less where it is tall."""
    scale = min(width / window.width, tallest / window.height)
    return View(
        x=window.x,
        y=window.y,
        width=max(1, round(window.width * scale)),
        height=max(1, round(window.height * scale)),
        scale=scale,
    )


def _windowed(view: View, window: Rect[float]) -> View:
    """Return a view that shows a window of another one, as large as that."""
    whole = view.on_canvas
    return View(
        x=whole.at(0, window.left),
        y=whole.at(1, window.top),
        width=view.width,
        height=view.height,
        scale=view.scale / window.width,
    )


class Preview(NamedTuple):
    """How a preview was written."""

    format: FileFormat
    is_rough: bool
    """Whether it is to be written again: some of its pixels are rough as yet."""


def write_preview(
    visit: Visit,
    revision: uuid.UUID,
    *,
    width: int,
    file: BinaryIO,
) -> Preview:
    """Write a small copy of a state: JPEG, or PNG where it is see-through."""
    composite = composite_at(visit, revision)
    assets = assets_of(visit, composite)
    shown = render_exact(composite, assets, whole_view(composite, width))
    opaque = bool(shown[..., 3].min() == 255)
    chosen = FileFormat.JPEG if opaque else FileFormat.PNG
    write_picture(shown, file, FileSpec(chosen, quality=88, ppi=composite.canvas.ppi))
    return Preview(chosen, is_rough(visit, assets))


def drafted(visit: Visit, project_id: uuid.UUID, draft: Draft) -> Composite:
    """Return a project's state with edits on top of it that are not saved.

    Raises
    ------
    NotThereError
        There is no such project or state.
    """
    if visit.studio.projects.get(draft.revision) != project_id:
        require_revision(visit, project_id, draft.revision)
        visit.studio.projects.put(draft.revision, project_id)
    composite = composite_at(visit, draft.revision)
    for edit in draft.unsaved:
        composite = _with_edit(visit, composite, edit)
    return composite


def _with_edit(visit: Visit, composite: Composite, edit: Edit) -> Composite:
    """Apply an edit that is not saved, and have ready what it needs to be shown."""
    edit = measured_edit(visit, edit)
    return apply(composite, drafted_stroke(visit, composite, edit))


def write_hidden(
    visit: Visit, revision: uuid.UUID, *, layer_id: str, side: int, file: BinaryIO
) -> None:
    """Write what a layer's mask hides of it, as the alpha of a small black PNG."""
    composite = composite_at(visit, revision)
    view = mask_view(composite, layer_id, side)
    alone = mask_alone(composite, layer_id)
    assets = assets_of(visit, alone, view, pile=composite.layers, quick=True)
    share = hidden_share(composite, assets, layer_id, side)
    pixels = np.zeros((*share.shape, 4), np.uint8)
    pixels[..., 3] = share
    write_picture(pixels, file, FileSpec(FileFormat.PNG, quality=100, ppi=72))


def whole_view(
    composite: Composite, width: int, *, tallest: int = LARGEST_FRAME_SIDE
) -> View:
    """Return a view of the whole canvas, at most so many assets wide and tall."""
    canvas = composite.canvas
    scale = min(width / canvas.width, tallest / canvas.height)
    return View(
        x=0,
        y=0,
        width=max(1, round(canvas.width * scale)),
        height=max(1, round(canvas.height * scale)),
        scale=scale,
    )

"""Which pixels a photo shows with: its own, or those with its subject's own colours."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.document.model import PhotoLayer
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.mask import Mask

VERSION = "1"
"""Of the way in which own colours are reckoned; it is part of what names them."""
KEPT = 256
FOUND = {"id", "way", "hints", "network"}


class OwnColors(NamedTuple):
    """A photo with its subject's own colours, as a mask tells it from its backdrop."""

    name: str
    """The same for the same photo and mask."""
    picture: str
    mask: Mask
    """Without what follows other layers."""
    strength: float


def own_colors_of(layer: Layer) -> OwnColors | None:
    """Return with what colours of its own a layer shows.

    Parameters
    ----------
    layer : Layer
        Whichever.

    Returns
    -------
    OwnColors or None
        None for most: those that are no photo, or whose mask leaves colours alone, or
        does not move with the photo.
    """
    mask = layer.mask
    if mask is None or not mask.cleaned or not isinstance(layer, PhotoLayer):
        return None
    return own_colors_by(layer.picture, mask) if mask.linked else None


def own_colors_in(layers: Iterable[Layer]) -> tuple[OwnColors, ...]:
    """Return those of several layers, each once.

    Parameters
    ----------
    layers : iterable of Layer
        Whichever.

    Returns
    -------
    tuple of OwnColors
        In their order.
    """
    found = [own_colors_of(layer) for layer in layers]
    return tuple({one.name: one for one in found if one is not None}.values())


def texels_of(layer: PhotoLayer) -> str:
    """Return the id of the pyramid that a photo is read from.

    Parameters
    ----------
    layer : PhotoLayer
        A photo.

    Returns
    -------
    str
        The picture's, or the name of its own colours.
    """
    own = own_colors_of(layer)
    return layer.picture if own is None else own.name


@lru_cache(KEPT)
def own_colors_by(picture: str, mask: Mask) -> OwnColors | None:
    """Return with what colours of its own a photo shows by a mask.

    Parameters
    ----------
    picture : str
        Id of the photo's picture.
    mask : Mask
        It moves with the photo.

    Returns
    -------
    OwnColors or None
        None where nothing of it counts.
    """
    parts = tuple(part for part in mask.working if not part.reads.layers)
    if not parts:
        return None
    alone = with_fields(mask, parts=parts, strength=1.0, cleaned=1.0)
    # How parts are called, and how they were found, changes no pixel.
    said = alone.model_dump_json(exclude={"linked": True, "parts": {"__all__": FOUND}})
    text = f"{VERSION} {picture} {mask.cleaned!r} {said}"
    name = f"own-{hashlib.sha256(text.encode()).hexdigest()}"
    return OwnColors(name, picture, alone, mask.cleaned)

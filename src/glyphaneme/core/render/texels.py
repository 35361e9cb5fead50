"""Which pixels a photo shows with: its own, mended, or its subject's own colours."""

from __future__ import annotations

import hashlib
from functools import lru_cache
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.core.document.model import PhotoLayer
from glyphaneme.core.mend import patch_names
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glyphaneme.core.document.model import Layer
    from glyphaneme.core.mask import Mask
    from glyphaneme.core.mend import Mend

VERSION = "1"
"""Of the way in which own colours are reckoned; it is part of what names them."""
KEPT = 256
FOUND = {"id", "way", "hints", "network"}


class Mended(NamedTuple):
    """A photo in which places are mended."""

    name: str
    """The same for the same photo and places."""
    picture: str
    mends: tuple[Mend, ...]
    """Those at work."""
    patches: tuple[str, ...]
    """How what fills each of them is called."""


class OwnColors(NamedTuple):
    """A photo with its subject's own colours, as a mask tells it from its backdrop."""

    name: str
    """The same for the same photo and mask."""
    picture: str
    """The picture, or what names it mended."""
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
    return own_colors_by(_base_of(layer), mask) if mask.linked else None


def mended_in(layers: Iterable[Layer]) -> tuple[Mended, ...]:
    """Return the photos of several layers that are mended, each once.

    Parameters
    ----------
    layers : iterable of Layer
        Whichever.

    Returns
    -------
    tuple of Mended
        In their order.
    """
    photos = [one for one in layers if isinstance(one, PhotoLayer)]
    found = [mended_by(one.picture, one.mends, one.width, one.height) for one in photos]
    return tuple({one.name: one for one in found if one is not None}.values())


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
        The picture's, or the name of its mended pixels or its own colours.
    """
    own = own_colors_of(layer)
    return _base_of(layer) if own is None else own.name


def _base_of(layer: PhotoLayer) -> str:
    mended = mended_by(layer.picture, layer.mends, layer.width, layer.height)
    return layer.picture if mended is None else mended.name


@lru_cache(KEPT)
def mended_by(
    picture: str, mends: tuple[Mend, ...], width: int, height: int
) -> Mended | None:
    """Return with what pixels a photo shows that is mended.

    Parameters
    ----------
    picture : str
        Id of the photo's picture.
    mends : tuple of Mend
        Its places.
    width, height : int, pixels
        The picture's.

    Returns
    -------
    Mended or None
        None where no place is at work.
    """
    working = tuple(mend for mend in mends if mend.works)
    if not working:
        return None
    patches = patch_names(picture, working, width, height)
    digest = hashlib.sha256("\n".join(patches).encode()).hexdigest()
    return Mended(f"mended-{digest}", picture, working, patches)


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

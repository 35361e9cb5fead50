"""What of a photo's layer stays where another photo takes its place."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np

from glyphaneme.core.place import Crop, frame_size, kept_scale
from glyphaneme.core.place.span import moved_span
from glyphaneme.core.place.transform import (
    followed_by,
    inverted,
    matrix_of,
    transform_of,
)
from glyphaneme.core.tone import scaled
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.arrays import MatrixF64
    from glyphaneme.core.document.model import PhotoLayer
    from glyphaneme.core.mask import Mask

NEARLY = 1e-3
"""Of a side: frames that differ by less need no crop."""


def exchanged(layer: PhotoLayer, width: int, height: int) -> dict[str, Any]:
    """Return what becomes of a photo's layer when it shows another photo.

    Parameters
    ----------
    layer : PhotoLayer
        As it is.
    width, height : int, pixels
        Size of the other photo, which comes to fill the layer's frame.

    Returns
    -------
    dict
        By the names of fields: `width`, `height`, `placement`, `mask`, `mends`,
        `tones` and `fades`. What was found or mended in the photo before is gone.
    """
    place = layer.placement
    wide, high = frame_size(place, width=layer.width, height=layer.height)
    fill = min(width / wide, height / high)
    frame = (wide * fill, high * fill)
    before = place.crop
    crop = None
    if before is not None or max(width - frame[0], height - frame[1]) > NEARLY:
        crop = Crop(
            x=width / 2,
            y=height / 2,
            width=frame[0],
            height=frame[1],
            **({} if before is None else {"shape": before.shape}),
            corner=0.0 if before is None else before.corner * fill,
        )
    placement = with_fields(
        place,
        scale_x=kept_scale(place.scale_x / fill),
        scale_y=kept_scale(place.scale_y / fill),
        crop=crop,
    )
    to_frame = np.eye(2, 3) if before is None else before.to_frame
    back = np.eye(2, 3) if crop is None else crop.to_photo
    move = followed_by(followed_by(to_frame, np.eye(2, 3) * fill), back)
    return {
        "width": width,
        "height": height,
        "placement": placement,
        "mask": None if layer.mask is None else _moved_mask(layer.mask, move),
        "mends": (),
        "tones": scaled(layer.tones, fill),
        "fades": tuple(
            moved_span(fade, move) if fade.linked else fade for fade in layer.fades
        ),
    }


def _moved_mask(mask: Mask, move: MatrixF64) -> Mask | None:
    """Return what of a mask has nothing to do with the photo's own pixels."""
    parts = tuple(part for part in mask.parts if not part.is_of_photo)
    if not parts:
        return None
    cleaned = mask.cleaned if len(parts) == len(mask.parts) else 0.0
    kept = with_fields(mask, parts=parts, cleaned=cleaned)
    if not mask.linked:
        return kept
    to_mask = followed_by(inverted(move), matrix_of(mask.to_mask))
    return with_fields(kept, to_mask=transform_of(to_mask))

"""Photos by placements of their own: another photo in the frame of the one before."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glyphaneme.core.document.exchanging import exchanged
from glyphaneme.core.mask import Mask, MattePart
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import PhotoLayer
    from glyphaneme.core.plans.facts import PhotoFacts


def renewed(made: PhotoLayer, facts: PhotoFacts) -> PhotoLayer:
    """Return a photo's layer as it lay, with another photo in its frame.

    Its cut-out is the one that was found of the other photo; whatever else was found
    in the pixels of the photo before is gone. In a photo of another size, so are the
    shapes that were combined with its cut-out.

    Parameters
    ----------
    made : PhotoLayer
        As the plan has it.
    facts : PhotoFacts
        What is known of the other photo.

    Returns
    -------
    PhotoLayer
        With the other photo.
    """
    parts = made.mask.parts if made.mask else ()
    is_as_large = (made.width, made.height) == (facts.width, facts.height)
    fields: dict[str, Any]
    if is_as_large:
        kept = tuple(part for part in parts if not part.is_of_photo)
        mask = with_fields(made.mask, parts=kept) if made.mask and kept else None
        fields = {"mask": mask, "mends": ()}
    else:
        fields = exchanged(made, facts.width, facts.height)
    found = with_fields(made, **fields | {"picture": facts.picture})
    before = next((part for part in parts if isinstance(part, MattePart)), None)
    if before is None or facts.cut is None or facts.is_cut or made.mask is None:
        return found
    part = MattePart(
        id=before.id,
        join=before.join,
        inverted=before.inverted,
        picture=facts.picture,
        matte=facts.cut.matte,
        level=facts.cut.level,
        way=before.way,
    )
    # A mask that was moved is measured in other pixels than the photo's.
    beside = found.mask.parts if found.mask is not None and is_as_large else ()
    settled = made.mask if is_as_large else Mask(cleaned=made.mask.cleaned)
    return with_fields(found, mask=with_fields(settled, parts=(part, *beside)))

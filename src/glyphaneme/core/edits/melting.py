"""Melting photos into one another."""

from __future__ import annotations

from typing import TYPE_CHECKING, Annotated, Literal, Self

from pydantic import BaseModel, ConfigDict, Field

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.fades import Axis, melted
from glyphaneme.core.document.model import (
    MAX_LAYERS,
    GroupLayer,
    LayerId,
    PhotoLayer,
)
from glyphaneme.core.edits.base import EditBase
from glyphaneme.core.edits.fading import Fades
from glyphaneme.core.errors import NoSuchWorkError, NotTogetherError
from glyphaneme.core.place import Placement
from glyphaneme.core.place.span import Length
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite


class MeltedPhoto(BaseModel):
    """Where a photo comes to lie, and how it fades."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    layer_id: LayerId
    placement: Placement
    fades: Fades


class MeltPhotos(EditBase):
    """Lay photos in a row, each melting into the next over an overlap."""

    kind: Literal["melt_photos"] = "melt_photos"
    layer_ids: Annotated[
        tuple[LayerId, ...], Field(min_length=2, max_length=MAX_LAYERS)
    ]
    axis: Axis = "across"
    overlap: Length
    photos: tuple[MeltedPhoto, ...] | None = None
    """What comes of it, from back to front."""

    def decided(self, composite: Composite) -> Self:
        """Say where each photo comes to lie."""
        return with_fields(self, photos=self._photos(composite))

    def applied(self, composite: Composite) -> Composite:
        """Place and fade them, unless one is locked."""
        for photo in self._photos(composite):
            require_unlocked(composite, photo.layer_id)
            composite = with_layer_fields(
                composite,
                photo.layer_id,
                placement=photo.placement,
                fades=photo.fades,
            )
        return composite

    def label(self, composite: Composite) -> str:
        names = [composite.layer(one).name for one in self.layer_ids]
        return f"{', '.join(names[:-1])} and {names[-1]} melted together"

    def _photos(self, composite: Composite) -> tuple[MeltedPhoto, ...]:
        """Return where each photo comes to lie.

        Raises
        ------
        NoSuchWorkError
            One of the layers is no photo.
        NotTogetherError
            They lie in different groups, or are not two at least.
        """
        if self.photos is not None:
            return self.photos
        wanted = [composite.layer(one) for one in self.layer_ids]
        for layer in wanted:
            if not isinstance(layer, PhotoLayer):
                raise NoSuchWorkError(layer.kind, "cannot melt into a photo")
        siblings = composite.siblings_of(self.layer_ids[0])
        photos = [
            one for one in siblings if one in wanted and isinstance(one, PhotoLayer)
        ]
        if len(photos) < max(len(set(self.layer_ids)), 2):
            raise NotTogetherError
        *groups, _ = composite.path_to(photos[0].id)
        group = groups[-1] if groups else None
        home = group if isinstance(group, GroupLayer) else composite.canvas
        found = melted(
            photos,
            axis=self.axis,
            overlap=self.overlap,
            size=(home.width, home.height),
        )
        return tuple(
            MeltedPhoto(layer_id=one.layer_id, placement=one.placement, fades=one.fades)
            for one in found
        )

"""Putting layers together into a group, and taking a group apart."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, Self

from pydantic import Field

from glyphaneme.core.blend import BlendMode
from glyphaneme.core.document.changing import require_unlocked, with_instead
from glyphaneme.core.document.grouping import (
    box_round,
    grouped,
    lifted,
    with_effects,
    with_tones,
)
from glyphaneme.core.document.model import MAX_LAYERS, Box, GroupLayer, LayerId
from glyphaneme.core.document.naming import Name
from glyphaneme.core.edits.base import EditBase, LayerEdit
from glyphaneme.core.errors import NoSuchWorkError, NotTogetherError
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class GroupLayers(EditBase):
    """Put layers of one group into a new one, at the front one's place."""

    kind: Literal["group_layers"] = "group_layers"
    group_id: LayerId
    name: Name
    layer_ids: tuple[LayerId, ...] = Field(min_length=1, max_length=MAX_LAYERS)
    mode: BlendMode = BlendMode.NORMAL
    """How the group blends: with the mode that its members share, modes such as
    multiply or lighten show the same as before."""
    box: Box | None = None
    """The group's own sheet: as large as all of them together."""

    def decided(self, composite: Composite) -> Self:
        """Say where the group's own sheet lies."""
        return with_fields(self, box=self._box(composite))

    def applied(self, composite: Composite) -> Composite:
        """Put the group in the place of its front member."""
        members = self.members(composite)
        group = grouped(
            members, group_id=self.group_id, name=self.name, box=self._box(composite)
        )
        group = with_fields(group, blend=self.mode)
        front = members[-1].id
        for member in members[:-1]:
            composite = with_instead(composite, member.id, lambda _: ())
        return with_instead(composite, front, lambda _: (group,))

    def label(self, _composite: Composite) -> str:
        return f"{self.name} put together"

    def members(self, composite: Composite) -> tuple[Layer, ...]:
        """Return the layers that are grouped.

        Parameters
        ----------
        composite : Composite
            In which they lie.

        Returns
        -------
        tuple of Layer
            From back to front.

        Raises
        ------
        NotTogetherError
            They lie in different groups.
        """
        wanted = set(self.layer_ids)
        siblings = composite.siblings_of(self.layer_ids[0])
        members = tuple(layer for layer in siblings if layer.id in wanted)
        if len(members) < len(wanted):
            for layer_id in self.layer_ids:
                composite.layer(layer_id)
            raise NotTogetherError
        return members

    def _box(self, composite: Composite) -> Box:
        return self.box or box_round(self.members(composite), composite.canvas)


class DissolveGroup(LayerEdit):
    """Take a group apart; its members stay where they show.

    They take on its tones and shadows.
    """

    kind: Literal["dissolve_group"] = "dissolve_group"

    def applied(self, composite: Composite) -> Composite:
        """Put the members in the group's place.

        Raises
        ------
        NoSuchWorkError
            It is no group.
        """
        require_unlocked(composite, self.layer_id)
        group = composite.layer(self.layer_id)
        if not isinstance(group, GroupLayer):
            raise NoSuchWorkError(group.kind, "cannot be taken apart")
        members = tuple(
            with_effects(lifted(with_tones(member, group.tones), group), group.effects)
            for member in group.layers
        )
        return with_instead(composite, group.id, lambda _: members)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return "taken apart"

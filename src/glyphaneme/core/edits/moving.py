"""Putting a layer at another place of the pile, in and out of groups."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.document.changing import with_instead, with_members
from glyphaneme.core.document.grouping import lifted_through, lowered_through
from glyphaneme.core.document.model import GroupLayer, LayerId
from glyphaneme.core.document.tree import inserted
from glyphaneme.core.edits.adding import LayerIndex
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import LayerLockedError, NoSuchWorkError

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    from glyphaneme.core.document.model import Composite, Layer


class MoveLayer(LayerEdit):
    """Put a layer at another place, counted from the back of the group `into`.

    Without `into` that is the whole pile. The layer stays where it shows.
    """

    kind: Literal["move_layer"] = "move_layer"
    index: LayerIndex
    into: LayerId | None = None

    def applied(self, composite: Composite) -> Composite:
        """Take it out of where it lies and put it in where it shall.

        Raises
        ------
        LayerLockedError
            It would leave, or come into, a locked group.
        """
        *groups, layer = composite.path_to(self.layer_id)
        target = self._target(composite)
        into = target[-1] if target else None
        if into is (groups[-1] if groups else None):
            others = tuple(
                one for one in composite.siblings_of(layer.id) if one.id != layer.id
            )
            return with_members(composite, into, inserted(others, layer, self.index))
        for around in (*groups, *target):
            if around.locked:
                raise LayerLockedError(around.name)
        outside = lifted_through(layer, _groups(reversed(groups)))
        inside = lowered_through(outside, target)
        without = with_instead(composite, layer.id, lambda _: ())
        home = without.layer(into.id) if into is not None else None
        members = home.layers if isinstance(home, GroupLayer) else without.layers
        return with_members(without, into, inserted(members, inside, self.index))

    def deed(self, composite: Composite, layer: Layer) -> str:
        *groups, _ = composite.path_to(layer.id)
        home = groups[-1].id if groups else None
        if self.into != home:
            return "put into a group" if self.into else "taken out of its group"
        siblings = composite.siblings_of(layer.id)
        ahead = self.index > [one.id for one in siblings].index(layer.id)
        return "brought forward" if ahead else "sent back"

    def _target(self, composite: Composite) -> tuple[GroupLayer, ...]:
        """Return the groups that it shall lie in, the outermost first.

        Raises
        ------
        NoSuchWorkError
            It would lie in itself, or in what is no group.
        """
        path = composite.path_to(self.into) if self.into is not None else ()
        if any(one.id == self.layer_id for one in path):
            raise NoSuchWorkError("group", "cannot be put into itself")
        if path and not isinstance(path[-1], GroupLayer):
            raise NoSuchWorkError(path[-1].kind, "holds no other layers")
        return tuple(_groups(path))


def _groups(path: Iterable[Layer]) -> Iterator[GroupLayer]:
    return (one for one in path if isinstance(one, GroupLayer))

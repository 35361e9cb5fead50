"""What every kind of edit is: a value that knows what it does and how it is called."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, ClassVar, Self

from pydantic import BaseModel, ConfigDict

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.model import LayerId
from glyphaneme.core.edits.merging import merged
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer


class EditBase(BaseModel):
    """One thing that a person did to a composite."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    def decided(self, composite: Composite) -> Self:
        """Return the edit with everything said that it left open as None.

        Parameters
        ----------
        composite : Composite
            What it is applied to.

        Returns
        -------
        EditBase
            The same where it left nothing open.
        """
        del composite
        return self

    def rebased(self, made_on: Composite, now: Composite) -> Self:
        """Return the edit as it is to be made on a newer state.

        Parameters
        ----------
        made_on : Composite
            The state that it was made on.
        now : Composite
            What others made of that meanwhile.

        Returns
        -------
        EditBase
            The same for most: they say nothing of what they do not change.
        """
        del made_on, now
        return self

    def says(self, stored: dict[str, Any]) -> bool:
        """Tell whether a stored edit is what this one asks for.

        Parameters
        ----------
        stored : dict
            As it was decided and stored.

        Returns
        -------
        bool
            True where it says everything that is asked.
        """
        said = self.model_dump(mode="json", exclude_none=True)
        return all(
            _without_none(stored.get(name)) == value for name, value in said.items()
        )

    def applied(self, composite: Composite) -> Composite:
        """Apply the edit, or refuse it as `apply` says.

        Parameters
        ----------
        composite : Composite
            The state before; it stays unchanged.

        Returns
        -------
        Composite
            The state after.

        Raises
        ------
        NotImplementedError
            Each kind says for itself what it does.
        """
        raise NotImplementedError

    def label(self, composite: Composite) -> str:
        """Say in a few words what it does, for the history.

        Parameters
        ----------
        composite : Composite
            The state before.

        Returns
        -------
        str
            Such as "Moths moved".

        Raises
        ------
        NotImplementedError
            Each kind says for itself how it is called.
        """
        raise NotImplementedError


class LayerEdit(EditBase):
    """An edit of one layer."""

    layer_id: LayerId

    def label(self, composite: Composite) -> str:
        """Begin with the layer's name.

        Parameters
        ----------
        composite : Composite
            The state before.

        Returns
        -------
        str
            The name and the deed.
        """
        layer = composite.layer(self.layer_id)
        return f"{layer.name} {self.deed(composite, layer)}"

    def deed(self, composite: Composite, layer: Layer) -> str:
        """Say what it does to the layer.

        Parameters
        ----------
        composite : Composite
            The state before.
        layer : Layer
            The layer, as it is before.

        Returns
        -------
        str
            Words that follow the layer's name, such as "moved".

        Raises
        ------
        NotImplementedError
            Each kind says for itself what it does.
        """
        raise NotImplementedError


class FieldEdit(LayerEdit):
    """An edit that gives one layer other values."""

    works_when_locked: ClassVar[bool] = False

    def applied(self, composite: Composite) -> Composite:
        """Replace what `fields` says, unless the layer is locked or does not fit.

        Parameters
        ----------
        composite : Composite
            The state before; it stays unchanged.

        Returns
        -------
        Composite
            The state after.
        """
        if not self.works_when_locked:
            require_unlocked(composite, self.layer_id)
        self.require_fitting(composite.layer(self.layer_id))
        return with_layer_fields(composite, self.layer_id, **self.fields())

    def fields(self) -> dict[str, Any]:
        """Return the layer's new values.

        Returns
        -------
        dict
            By the names of the layer's fields.

        Raises
        ------
        NotImplementedError
            Each kind says for itself what it changes.
        """
        raise NotImplementedError

    def require_fitting(self, layer: Layer) -> None:
        """Refuse a layer that cannot be changed so.

        Parameters
        ----------
        layer : Layer
            The layer, as it is before.
        """


class LinesEdit(FieldEdit):
    """An edit that gives one layer another list, of which it changes some lines."""

    listed: ClassVar[str]
    """The field that holds the list, of the edit and of the layer."""

    def fields(self) -> dict[str, Any]:
        """Give it the other list.

        Returns
        -------
        dict
            Of that one field.
        """
        return {self.listed: getattr(self, self.listed)}

    def rebased(self, made_on: Composite, now: Composite) -> Self:
        """Change of the list as it is now the same lines alone.

        Parameters
        ----------
        made_on : Composite
            The state that it was made on.
        now : Composite
            What others made of that meanwhile.

        Returns
        -------
        EditBase
            With all other lines as they are now.

        Raises
        ------
        LayerMissingError
            The layer is gone.
        ChangedElsewhereError
            One of the lines is.
        """
        before, after = (
            getattr(state.layer(self.layer_id), self.listed, ())
            for state in (made_on, now)
        )
        wanted = getattr(self, self.listed)
        return with_fields(self, **{self.listed: merged(before, wanted, after)})


def _without_none(stored: object) -> object:
    """Leave out what says nothing, at any depth, as pydantic's `exclude_none` does."""
    if isinstance(stored, dict):
        return {
            name: _without_none(value)
            for name, value in stored.items()
            if value is not None
        }
    if isinstance(stored, list):
        return [_without_none(value) for value in stored]
    return stored

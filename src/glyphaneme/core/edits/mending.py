"""Mending places of a photo or a pile, switching them off, and taking them back."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glyphaneme.core.document.changing import require_unlocked, with_layer_fields
from glyphaneme.core.document.model import MendedLayer
from glyphaneme.core.edits.base import LayerEdit
from glyphaneme.core.errors import (
    MendExistsError,
    MendMissingError,
    MendsLimitError,
    NoSuchWorkError,
)
from glyphaneme.core.mend import MAX_MENDS, Mend, MendId
from glyphaneme.core.values import with_fields

if TYPE_CHECKING:
    from glyphaneme.core.document.model import Composite, Layer

Mends = tuple[Mend, ...]


class _MendEdit(LayerEdit):
    def applied(self, composite: Composite) -> Composite:
        require_unlocked(composite, self.layer_id)
        mends = self._changed(_mends_of(composite.layer(self.layer_id)))
        return with_layer_fields(composite, self.layer_id, mends=mends)

    def _changed(self, mends: Mends) -> Mends:
        raise NotImplementedError


class MendPhoto(_MendEdit):
    """Mend one more place of a photo, or of what lies beneath a layer that mends."""

    kind: Literal["mend_photo"] = "mend_photo"
    mend: Mend

    def _changed(self, mends: Mends) -> Mends:
        """Add it.

        Raises
        ------
        MendExistsError
            Its id is taken.
        MendsLimitError
            There are as many as there may be.
        """
        if any(one.id == self.mend.id for one in mends):
            raise MendExistsError(self.mend.id)
        if len(mends) >= MAX_MENDS:
            raise MendsLimitError(MAX_MENDS)
        return (*mends, self.mend)

    def deed(self, _composite: Composite, _layer: Layer) -> str:
        return f"mended: {self.mend.words}"


class SwitchMend(_MendEdit):
    """Let a mended place show as it was, or mended again."""

    kind: Literal["switch_mend"] = "switch_mend"
    mend_id: MendId
    works: bool

    def _changed(self, mends: Mends) -> Mends:
        at = _place_of(mends, self.mend_id)
        changed = with_fields(mends[at], works=self.works)
        return (*mends[:at], changed, *mends[at + 1 :])

    def deed(self, _composite: Composite, layer: Layer) -> str:
        mends = _mends_of(layer)
        words = mends[_place_of(mends, self.mend_id)].words
        return f"{words}, {'mended again' if self.works else 'as it was'}"


class RemoveMend(_MendEdit):
    """Take a mended place back."""

    kind: Literal["remove_mend"] = "remove_mend"
    mend_id: MendId

    def _changed(self, mends: Mends) -> Mends:
        at = _place_of(mends, self.mend_id)
        return (*mends[:at], *mends[at + 1 :])

    def deed(self, _composite: Composite, layer: Layer) -> str:
        mends = _mends_of(layer)
        words = mends[_place_of(mends, self.mend_id)].words
        return f"{words}, no longer mended"


def _mends_of(layer: Layer) -> Mends:
    """Return the places that a layer mends.

    Raises
    ------
    NoSuchWorkError
        It is of a kind that mends none.
    """
    if not isinstance(layer, MendedLayer):
        raise NoSuchWorkError(layer.kind, "shows no photo to be mended")
    return layer.mends


def _place_of(mends: Mends, mend_id: str) -> int:
    """Return the place of one of them.

    Raises
    ------
    MendMissingError
        There is none with that id.
    """
    for place, mend in enumerate(mends):
        if mend.id == mend_id:
            return place
    raise MendMissingError(mend_id)

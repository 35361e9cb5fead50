"""Purposes that files are made for: those that ship, as they were changed, and own."""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from glyphaneme.core.document.naming import Name
from glyphaneme.core.finish import PURPOSES, FileSettings
from glyphaneme.services.errors import NotThereError, TooManyPurposesError
from glyphaneme.store import finishing as finishing_store

if TYPE_CHECKING:
    from glyphaneme.core.finish import PurposeId
    from glyphaneme.services.studio import Visit
    from glyphaneme.store.rows import PurposeRow

MAX_PURPOSES: Final = 100
OWN: Final = "own-"

PurposeKey = Annotated[str, Field(pattern=r"^[a-z0-9-]{1,60}$")]


class OfferedPurpose(BaseModel):
    """A purpose, and what it sets."""

    model_config = ConfigDict(frozen=True)

    id: str
    title: str
    is_own: bool
    """Whether somebody named it, and it can be taken away."""
    is_changed: bool
    """Whether one that ships sets something else than at first."""
    settings: FileSettings


class PurposeFile(BaseModel):
    """A purpose as a small file, to be handed on."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: Literal["glyphaneme-purpose"] = "glyphaneme-purpose"
    version: Literal[1] = 1
    name: Name
    settings: FileSettings


def list_purposes(visit: Visit) -> list[OfferedPurpose]:
    """Return those that ship, then those that people named."""
    kept = {row.id: row for row in finishing_store.list_purposes(visit.session)}
    shipped = [_shipped(one, kept.pop(one, None)) for one in PURPOSES]
    return [*shipped, *map(_own, kept.values())]


def keep_purpose(
    visit: Visit, purpose_id: str, settings: FileSettings
) -> OfferedPurpose:
    """Remember what a purpose sets from now on.

    Raises
    ------
    NotThereError
        There is no such purpose.
    """
    row = finishing_store.find_purpose(visit.session, purpose_id)
    if row is None and purpose_id not in PURPOSES:
        raise NotThereError("purpose")
    kept = settings.model_dump(mode="json")
    name = None if row is None else row.name
    finishing_store.put_purpose(visit.session, purpose_id, name, kept)
    return _found(visit, purpose_id)


def add_purpose(visit: Visit, name: str, settings: FileSettings) -> OfferedPurpose:
    """Name a purpose of one's own.

    Raises
    ------
    TooManyPurposesError
        There are so many that no more may be added.
    """
    if finishing_store.count_purposes(visit.session) >= MAX_PURPOSES:
        raise TooManyPurposesError(MAX_PURPOSES)
    purpose_id = f"{OWN}{uuid.uuid4()}"
    kept = settings.model_dump(mode="json")
    finishing_store.put_purpose(visit.session, purpose_id, name, kept)
    return _found(visit, purpose_id)


def forget_purpose(visit: Visit, purpose_id: str) -> None:
    """Take an own purpose away, or let one that ships set what it did at first."""
    finishing_store.drop_purpose(visit.session, purpose_id)


def purpose_settings(visit: Visit, purpose_id: str) -> FileSettings:
    """Return what a purpose sets.

    Raises
    ------
    NotThereError
        There is no such purpose.
    """
    return _found(visit, purpose_id).settings


def _found(visit: Visit, purpose_id: str) -> OfferedPurpose:
    row = finishing_store.find_purpose(visit.session, purpose_id)
    if purpose_id in PURPOSES:
        return _shipped(purpose_id, row)
    if row is None:
        raise NotThereError("purpose")
    return _own(row)


def _shipped(purpose_id: PurposeId, row: PurposeRow | None) -> OfferedPurpose:
    title, usual = PURPOSES[purpose_id]
    settings = usual if row is None else _settings(row, usual)
    return OfferedPurpose(
        id=purpose_id,
        title=title,
        is_own=False,
        is_changed=settings != usual,
        settings=settings,
    )


def _own(row: PurposeRow) -> OfferedPurpose:
    return OfferedPurpose(
        id=row.id,
        title=row.name or "my own",
        is_own=True,
        is_changed=False,
        settings=_settings(row, PURPOSES["own"].settings),
    )


def _settings(row: PurposeRow, otherwise: FileSettings) -> FileSettings:
    """Return what was kept, or something else where a later version kept it."""
    try:
        return FileSettings.model_validate(row.settings)
    except ValidationError:
        return otherwise

"""Plan files that travel: a plan, and the pictures, mattes and strokes that stay in it.

What stays lies in the same JSON, under `files` by its SHA-256 as Base64, and under
`strokes` as layered files have them.
"""

from __future__ import annotations

import base64
import binascii
import hashlib
import json
from typing import TYPE_CHECKING, Any, Final, NamedTuple

from pydantic import TypeAdapter, ValidationError

from glyphaneme.core.errors import CoreError, PlanRefusedError
from glyphaneme.core.mask import MattePart
from glyphaneme.core.mask.strokes import NamedStroke, require_strokes_named
from glyphaneme.core.plans import plan_json, read_plan
from glyphaneme.core.plans.layers import PlanPhoto

if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Sequence

    from glyphaneme.core.plans import Plan
    from glyphaneme.core.plans.layers import PlanLayer

FILES: Final = "files"
STROKES: Final = "strokes"
NO_PLAN: Final = "This file is no plan."
MOST_FILES: Final = 400


class PlanFile(NamedTuple):
    """A plan, and what stays in it."""

    plan: Plan
    files: Mapping[str, bytes]
    """By their SHA-256."""
    strokes: Sequence[NamedStroke]


def pack_plan(packed: PlanFile) -> bytes:
    """Return a plan file as people can read it."""
    value: dict[str, Any] = plan_json(packed.plan)
    if packed.strokes:
        value[STROKES] = [one.model_dump(mode="json") for one in packed.strokes]
    if packed.files:
        value[FILES] = {
            name: base64.b64encode(data).decode() for name, data in packed.files.items()
        }
    return (json.dumps(value, ensure_ascii=False, indent=2) + "\n").encode()


def unpack_plan(data: bytes) -> PlanFile:
    """Read a plan file.

    Raises
    ------
    PlanRefusedError
        It is none, it is damaged, or a newer version wrote it.
    """
    try:
        value = json.loads(data.decode("utf-8-sig"), parse_constant=_refuse)
    except (ValueError, RecursionError) as cause:
        message = f"{NO_PLAN} It is not even JSON that could be read."
        raise PlanRefusedError(message) from cause
    if not isinstance(value, dict):
        raise PlanRefusedError(NO_PLAN)
    files, strokes = value.pop(FILES, {}), value.pop(STROKES, [])
    return PlanFile(read_plan(value), _files(files), _strokes(strokes))


def _refuse(_constant: str) -> float:
    message = "no number"
    raise ValueError(message)


def _files(value: object) -> dict[str, bytes]:
    """Return files by their names.

    Raises
    ------
    PlanRefusedError
        One is not what its name says.
    """
    if not isinstance(value, dict) or len(value) > MOST_FILES:
        raise PlanRefusedError(DAMAGED)
    found = {}
    for name, text in value.items():
        try:
            data = base64.b64decode(text, validate=True)
        except (binascii.Error, ValueError, TypeError) as cause:
            raise PlanRefusedError(DAMAGED) from cause
        if hashlib.sha256(data).hexdigest() != name:
            raise PlanRefusedError(DAMAGED)
        found[name] = data
    return found


INCOMPLETE: Final = (
    "This plan is not whole: something that stays in it is missing. Save its file anew "
    "where it comes from."
)
DAMAGED: Final = (
    "This plan is damaged: a picture in it is not the one that it names. Save it anew "
    "where it comes from."
)


def _strokes(value: object) -> list[NamedStroke]:
    """Return strokes.

    Raises
    ------
    PlanRefusedError
        One is not what its name says.
    """
    try:
        strokes = TypeAdapter(list[NamedStroke]).validate_python(value)
        require_strokes_named(strokes)
    except (ValidationError, CoreError) as cause:
        message = "This plan is damaged: a stroke in it is not the one that it names."
        raise PlanRefusedError(message) from cause
    return strokes


def staying_mattes(layer: PlanLayer) -> Iterator[MattePart]:
    """Yield the mattes of a layer that stay, as its photo does."""
    if isinstance(layer, PlanPhoto) and layer.slot is not None:
        return
    for part in layer.mask.parts if layer.mask else ():
        if isinstance(part, MattePart):
            yield part

"""Plan files: JSON that is read with every doubt, and written for people to read."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any, Final

from pydantic import ValidationError

from glyphaneme.core.errors import PlanRefusedError
from glyphaneme.core.plans.values import PLAN_VERSION, Plan

if TYPE_CHECKING:
    from collections.abc import Mapping

VERSION_KEY: Final = "glyphaneme_plan"
DEEPEST: Final = 40
"""How deep lists and objects may lie in one another."""


def read_plan(value: object) -> Plan:
    """Read a plan from its JSON form.

    Parameters
    ----------
    value : object
        What was parsed of a file, whatever that was.

    Returns
    -------
    Plan
        Checked.

    Raises
    ------
    PlanRefusedError
        It is none, it was written by a newer version, or something in it does not fit;
        its words say which.

    Examples
    --------
    >>> read_plan([])
    Traceback (most recent call last):
    ...
    glyphaneme.core.errors.PlanRefusedError: This file is no plan.
    """
    if not isinstance(value, dict) or VERSION_KEY not in value:
        raise PlanRefusedError(NO_PLAN)
    version = value[VERSION_KEY]
    if isinstance(version, int) and version > PLAN_VERSION:
        message = (
            f"This plan is of version {version}, and only those up to {PLAN_VERSION} "
            "are known here. A newer Glyphaneme made it."
        )
        raise PlanRefusedError(message)
    _require_shallow(value)
    try:
        return Plan.model_validate(value)
    except ValidationError as cause:
        raise PlanRefusedError(_said_of(cause)) from cause


NO_PLAN: Final = "This file is no plan."


def parse_plan(text: str | bytes) -> Plan:
    """Read a plan from the text of its file.

    Parameters
    ----------
    text : str or bytes
        JSON in UTF-8; a byte-order mark is passed over.

    Returns
    -------
    Plan
        Checked.

    Raises
    ------
    PlanRefusedError
        As `read_plan` says; or it is no JSON.
    """
    try:
        if isinstance(text, bytes):
            text = text.decode("utf-8-sig")
        value = json.loads(text.removeprefix("\ufeff"), parse_constant=_refuse)
    except (ValueError, RecursionError) as cause:
        message = f"{NO_PLAN} It is not even JSON that could be read."
        raise PlanRefusedError(message) from cause
    return read_plan(value)


def plan_json(plan: Plan) -> dict[str, Any]:
    """Return a plan's JSON form, without what says nothing.

    Parameters
    ----------
    plan : Plan
        Any.

    Returns
    -------
    dict
        `read_plan` makes the same plan of it.
    """
    found = plan.model_dump(mode="json", exclude_defaults=True)
    return {
        VERSION_KEY: PLAN_VERSION,
        **_with_kinds(found, plan.model_dump(mode="json")),
    }


KINDS: Final = ("kind", "rule")
"""What tells values apart, and is written although each has but one."""


def _with_kinds(short: Any, full: Any) -> Any:  # noqa: ANN401  # JSON
    """Put back what tells kinds apart into JSON that was left without it."""
    if isinstance(short, dict):
        kinds = {name: full[name] for name in KINDS if name in full}
        rest = {name: _with_kinds(one, full[name]) for name, one in short.items()}
        return {**kinds, **rest}
    if isinstance(short, list):
        return [_with_kinds(one, two) for one, two in zip(short, full, strict=True)]
    return short


def _require_shallow(value: object, depth: int = 0) -> None:
    """Require that nothing lies deeper in one another than any plan needs.

    Raises
    ------
    PlanRefusedError
        Something does.
    """
    if depth > DEEPEST:
        message = "This plan is damaged: its parts lie too deep in one another."
        raise PlanRefusedError(message)
    children: Any = ()
    if isinstance(value, dict):
        children = value.values()
    elif isinstance(value, list):
        children = value
    for one in children:
        _require_shallow(one, depth + 1)


def _said_of(cause: ValidationError) -> str:
    first: Mapping[str, Any] = cause.errors(include_url=False, include_context=False)[0]
    where = ", ".join(str(one) for one in first["loc"] if not _is_kind(one))
    message = str(first["msg"]).removeprefix("Value error, ")
    said = f"{where}: {message}" if where else message
    return f"This plan cannot be used. {said[:300]}."


def _is_kind(place: object) -> bool:
    return place in {
        "photo",
        "color",
        "gradient",
        "toning",
        "mending",
        "words",
        "group",
    }


def _refuse(_constant: str) -> float:
    message = "no number"
    raise ValueError(message)

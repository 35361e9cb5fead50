"""Blueprints, and whether what they take and give is described.

To describe it takes as long as all else of a start together. So a server answers with
what was described once, and is committed; only who describes it anew says so before
any blueprint is made.
"""

from __future__ import annotations

from flask_openapi3 import APIBlueprint, Tag


class _Describing:
    is_wanted = False


def describe_anew() -> None:
    """Describe blueprints that are made from now on."""
    _Describing.is_wanted = True


def is_described_anew() -> bool:
    """Tell whether blueprints describe themselves."""
    return _Describing.is_wanted


def blueprint(name: str) -> APIBlueprint:
    """Return a blueprint of the HTTP interface."""
    return APIBlueprint(
        name,
        name,
        url_prefix="/api",
        abp_tags=[Tag(name=name)],
        doc_ui=_Describing.is_wanted,
    )

"""Composites as they are stored, and what earlier versions stored.

Each stored composite says its version. What an earlier version wrote is brought up to
date when it is read, one step a version; `tests/golden` holds what each released
version wrote.

Version 1 let positions, lengths and names that followed from others grow beyond the
limits. Version 2 knew neither masks nor fades: its layers have none.
Version 3 knew no backdrops that were found, and cleaned no edges.
Version 4 cropped no layer by itself, and set none into corners.
Version 5 knew no tones. Version 6 knew no effects, and
mended nothing. Version 7 mended photos alone. Version 8 had no words.
"""

from __future__ import annotations

from typing import Any

from glyphaneme.core.document.model import SCHEMA_VERSION, Composite
from glyphaneme.core.document.naming import LONGEST_NAME
from glyphaneme.core.errors import NewerVersionError, NoCompositeError
from glyphaneme.core.place import kept_position
from glyphaneme.core.place.span import GREATEST_LENGTH

Stored = dict[str, Any]


def store_composite(composite: Composite) -> Stored:
    """Return a composite as it is stored.

    Parameters
    ----------
    composite : Composite
        Any state.

    Returns
    -------
    dict
        Its JSON, with the version in it.

    Examples
    --------
    >>> from glyphaneme.core.document.model import Canvas
    >>> store_composite(Composite(canvas=Canvas(width=4, height=3)))["schema_version"]
    9
    """
    return composite.model_dump(mode="json")


def open_composite(stored: Stored) -> Composite:
    """Return a composite that this version or an earlier one stored.

    Parameters
    ----------
    stored : dict
        As `store_composite` wrote it.

    Returns
    -------
    Composite
        Brought up to date; pydantic's ValidationError where it is no composite.

    Raises
    ------
    NewerVersionError
        A later version wrote it.
    NoCompositeError
        It is nothing of the kind.
    """
    try:
        version = stored.get("schema_version", 1)
        require_known(version)
        if version == 1:
            layers = [_layer_of_version_1(one) for one in stored.get("layers", ())]
            stored = {**stored, "layers": layers}
        stored = {**stored, "schema_version": SCHEMA_VERSION}
    except (AttributeError, KeyError, RecursionError, TypeError) as cause:
        raise NoCompositeError from cause
    return Composite.model_validate(stored)


def require_known(version: object) -> None:
    """Require a version of what is stored that can be brought up to date.

    Parameters
    ----------
    version : object
        What is written where the version should be.

    Raises
    ------
    NewerVersionError
        It is none that this version of the product knows.
    """
    # A list: a version that is no number is unknown, whatever it is.
    if version not in [*range(1, SCHEMA_VERSION + 1)]:
        raise NewerVersionError(version)


def _layer_of_version_1(layer: Stored) -> Stored:
    """Keep what followed from other values within the limits."""
    kept = {**layer, "name": layer["name"][:LONGEST_NAME]}
    if "placement" in layer:
        kept["placement"] = _placement_of_version_1(layer["placement"])
    if "gradient" in layer:
        kept["gradient"] = _gradient_of_version_1(layer["gradient"])
    if "layers" in layer:
        kept["layers"] = [_layer_of_version_1(one) for one in layer["layers"]]
    return kept


def _placement_of_version_1(placement: Stored) -> Stored:
    x, y = kept_position(placement["x"]), kept_position(placement["y"])
    return {**placement, "x": x, "y": y}


def _gradient_of_version_1(gradient: Stored) -> Stored:
    return {
        **gradient,
        "x": kept_position(gradient["x"]),
        "y": kept_position(gradient["y"]),
        "length": min(gradient["length"], GREATEST_LENGTH),
    }

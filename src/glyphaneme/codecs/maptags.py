"""The map coordinates that a GeoTIFF carries (OGC GeoTIFF 1.1), kept as they are."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from PIL import Image

MAP_TAGS = {
    33550: "pixel_scale",
    33922: "tie_points",
    34264: "transformation",
    34735: "geo_keys",
    34736: "geo_doubles",
    34737: "geo_text",
}
"""Numbers and names of the format's own tags."""

MOST_VALUES = 4096


def map_tags_of(image: Image.Image) -> dict[str, Any] | None:
    """Read where on a map a picture lies.

    Parameters
    ----------
    image : PIL.Image.Image
        Opened.

    Returns
    -------
    dict or None
        Lists of finite numbers, and `geo_text`, by the names of `MAP_TAGS`; None
        where the file has no such tags, or broken ones.
    """
    tags = getattr(image, "tag_v2", None)
    if tags is None:
        return None
    found = {name: tags[number] for number, name in MAP_TAGS.items() if number in tags}
    kept = {name: _plain(value) for name, value in found.items()}
    return kept if kept and None not in kept.values() else None


def _plain(value: object) -> list[float] | str | None:
    if isinstance(value, str):
        return value.replace("\0", "")[:MOST_VALUES]
    values = value if isinstance(value, tuple) else (value,)
    if len(values) > MOST_VALUES:
        return None
    try:
        numbers = [float(number) for number in values]
    except (TypeError, ValueError, OverflowError, ZeroDivisionError):
        return None
    return numbers if all(map(math.isfinite, numbers)) else None

"""The list of all pictures that are made, in the order in which they are shown."""

from __future__ import annotations

from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    from collections.abc import Callable

    import numpy as np
    from numpy.typing import NDArray

    Painter = Callable[[], NDArray[np.float32]]


class Made(NamedTuple):
    """A picture: how it is painted, and what it is found by."""

    name: str
    title: str
    kind: str
    words: str
    paint: Painter


ALL: list[Made] = []


def picture(kind: str, title: str, words: str) -> Callable[[Painter], Painter]:
    """Put a picture into the list; the function's name names its file."""

    def keep(paint: Painter) -> Painter:
        name = paint.__name__.replace("_", "-")
        ALL.append(Made(name, title, kind, words, paint))
        return paint

    return keep

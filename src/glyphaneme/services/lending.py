"""Pictures of the library, which become ordinary ones when they are first wanted."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.services.library import LibraryPicture
from glyphaneme.services.pictures import BroughtIn, bring_in_as, get_picture
from glyphaneme.store.pictures import library_pictures

if TYPE_CHECKING:
    from glyphaneme.services.studio import Visit


def list_library(visit: Visit) -> list[LibraryPicture]:
    """Return all pictures of the library, in the order of its catalogue."""
    known = library_pictures(visit.session)
    return [
        LibraryPicture(**entry.model_dump(), picture=known.get(entry.name))
        for entry in visit.studio.library.entries.values()
    ]


def bring_from_library(visit: Visit, name: str) -> BroughtIn:
    """Make a picture of the library an ordinary one, once.

    Raises
    ------
    NotThereError
        The library has no such picture.
    """
    path = visit.studio.library.file(name)
    known = library_pictures(visit.session).get(name)
    if known is not None:
        picture = get_picture(visit, known)
        return BroughtIn(**picture.model_dump(), job_id=None, was_there=True)
    title = visit.studio.library.entries[name].title
    with path.open("rb") as file:
        return bring_in_as(visit, file, name=title, on_shelf=False, library=name)

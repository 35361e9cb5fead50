"""What a picture says of itself: who made it, and what it shows."""

from __future__ import annotations

from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

LONGEST_LINE = 300
LONGEST_TEXT = 4000


def _without_controls(text: str) -> str:
    """Leave out what no file may hold as text: controls but for new lines."""
    kept = (one for one in text if one in "\n\t" or ord(one) >= ord(" "))
    return "".join(kept).strip()


Line = Annotated[str, Field(max_length=LONGEST_LINE), AfterValidator(_without_controls)]
Text = Annotated[str, Field(max_length=LONGEST_TEXT), AfterValidator(_without_controls)]


class About(BaseModel):
    """What is written into finished files of a picture; what is empty is left out."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    title: Line = ""
    author: Line = ""
    description: Text = ""
    licence: Text = ""
    alt: Text = ""
    """What those hear who do not see the picture."""

    @property
    def is_empty(self) -> bool:
        """Whether nothing is said.

        Returns
        -------
        bool
            True where every field is empty.
        """
        return not any(dict(self).values())

"""What things are called: names that a file and a database can hold."""

from __future__ import annotations

import re
from typing import Annotated, Final

from pydantic import BeforeValidator, Field

LONGEST_NAME = 120
REPLACED: Final = "\N{REPLACEMENT CHARACTER}"
# The characters that XML 1.0 has, section 2.2; PostgreSQL can hold all of them.
UNHOLDABLE = re.compile("[^\t\n\r\x20-\ud7ff\ue000-\ufffd\U00010000-\U0010ffff]")


def holdable(name: object) -> object:
    r"""Replace what no file or database can hold in a name.

    Parameters
    ----------
    name : object
        Mostly a str; others are left to whoever checks them.

    Returns
    -------
    object
        As long as before.

    Examples
    --------
    >>> holdable("Night\x08moths")
    'Night�moths'
    """
    return UNHOLDABLE.sub(REPLACED, name) if isinstance(name, str) else name


Name = Annotated[
    str, BeforeValidator(holdable), Field(min_length=1, max_length=LONGEST_NAME)
]

"""Files that may be hostile are read by programs of their own, which they may end."""

from __future__ import annotations

import json
import subprocess
import sys
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from pathlib import Path


def read_apart(reader: Path, data: bytes, *, seconds: float) -> Any | None:  # noqa: ANN401  # JSON
    """Have a program read a file from its input; return the JSON that it writes.

    None where it ended badly, or took longer than so many seconds. What it may take of
    memory it limits itself.
    """
    try:
        done = subprocess.run(  # noqa: S603  # words of our own
            [sys.executable, "-P", str(reader)],
            input=data,
            capture_output=True,
            timeout=seconds,
            check=True,
        )
        return json.loads(done.stdout)
    except (subprocess.SubprocessError, ValueError):
        return None

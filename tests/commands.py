"""Commands of the product, run in this process: starting another takes seconds."""

from __future__ import annotations

import io
from contextlib import redirect_stderr, redirect_stdout
from typing import NamedTuple

import pytest

from glyphaneme.cli.main import main


class Done(NamedTuple):
    """How a command ended, and what it said."""

    returncode: int
    stdout: str
    stderr: str


def run_here(*arguments: object, **environment: str) -> Done:
    """Run a command in these surroundings."""
    out, err = io.StringIO(), io.StringIO()
    with pytest.MonkeyPatch.context() as surroundings:
        for name, value in environment.items():
            surroundings.setenv(name, value)
        with redirect_stdout(out), redirect_stderr(err):
            try:
                status = main([*map(str, arguments)])
            except SystemExit as ended:
                status = int(ended.code or 0)
    return Done(status, out.getvalue(), err.getvalue())

from __future__ import annotations

import json
import subprocess
import sys
from itertools import chain
from pathlib import Path

from glyphaneme.core.kernels import SHARES
from tools.generate_blend_loops import generated_source

ROOT = Path(__file__).parents[2]


def test_blend_loops_are_what_their_generator_writes() -> None:
    formatted = subprocess.run(
        [sys.executable, "-m", "ruff", "format", "--stdin-filename", "loops.py", "-"],
        input=generated_source(),
        capture_output=True,
        text=True,
        check=True,
        cwd=ROOT,
    ).stdout

    committed = ROOT / "src/glyphaneme/core/_kernels/blend_loops.py"
    assert committed.read_text() == formatted


def test_every_kernel_is_compiled_before_the_first_picture() -> None:
    modules = (ROOT / "src/glyphaneme/core/_kernels").glob("*.py")
    having = {path.stem for path in modules if "**KERNEL" in path.read_text()}

    assert sorted(chain(*SHARES)) == sorted(having)


def test_committed_api_description_is_what_the_service_says(client) -> None:
    described = subprocess.run(
        [sys.executable, "-m", "glyphaneme", "openapi"],
        capture_output=True,
        text=True,
        check=True,
        cwd=ROOT,
    ).stdout

    assert (ROOT / "docs/openapi.json").read_text() == described
    assert client.get("/api/openapi.json").get_json() == json.loads(described)

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

SOURCES = Path(__file__).parents[2] / "src"
LOAD = """
from glyphaneme.core._kernels.splitting import split_rows_into
stats = split_rows_into.stats
print(sum(stats.cache_hits.values()), sum(stats.cache_misses.values()))
"""


def test_a_checkout_elsewhere_finds_what_was_compiled(tmp_path: Path) -> None:
    shutil.copytree(SOURCES, tmp_path / "src")

    loaded = subprocess.run(
        [sys.executable, "-c", LOAD],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "PYTHONPATH": str(tmp_path / "src")},
    )

    assert loaded.stdout == "1 0\n"

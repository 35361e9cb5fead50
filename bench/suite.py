"""Where the tests spend their time: as a whole, by folder, and the slowest forty."""

from __future__ import annotations

import subprocess
import sys
import tempfile
import time
from collections import Counter
from pathlib import Path
from typing import TYPE_CHECKING

from defusedxml import ElementTree

from bench.figures import Figure

if TYPE_CHECKING:
    from collections.abc import Iterator
    from xml.etree.ElementTree import Element

ROOT = Path(__file__).parents[1]
PYTEST = [str(ROOT / ".venv" / "bin" / "python"), "-m", "pytest"]
AT_ONCE = ["-n", "2", "--dist", "worksteal"]
MOST_MIN = 12.0
SLOWEST = 40


def figures() -> Iterator[Figure]:
    """Run all tests, two at a time; say what took how long."""
    began = time.monotonic()
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.xml"
        # Its own words go beside the table of figures.
        subprocess.run(  # noqa: S603  # words of our own
            [*PYTEST, *AT_ONCE, "-q", "--junitxml", str(report)],
            cwd=ROOT,
            check=False,
            stdout=sys.stderr,
        )
        minutes = (time.monotonic() - began) / 60
        cases = ElementTree.parse(report).getroot().iter("testcase")
        took = [(float(one.get("time", 0)), *_names(one)) for one in cases]
    by_folder: Counter[str] = Counter()
    for seconds, folder_name, _ in took:
        by_folder[folder_name] += seconds
    for folder_name, seconds in by_folder.most_common():
        sys.stderr.write(f"{seconds:8.1f} s  {folder_name}\n")
    for seconds, folder_name, name in sorted(took, reverse=True)[:SLOWEST]:
        sys.stderr.write(f"{seconds:8.1f} s  {folder_name}: {name}\n")
    yield Figure("all tests, two at a time", minutes, MOST_MIN, 8, unit=" min")


def _names(case: Element) -> tuple[str, str]:
    """Return the folder that a test lies in, and what it is called."""
    module = case.get("classname", "")
    return ".".join(module.split(".")[:2]), f"{module}: {case.get('name')}"

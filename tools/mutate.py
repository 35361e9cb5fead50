"""Breaks the code in one place after another, and tells which breaks tests notice.

`python -m tools.mutate python` or `page`, with `--only WORDS` those alone whose file or
change has the words in it. Everything happens in a copy of the checkout. What is broken
stands in `tools/mutating`: a line is a file, what stands there, what takes its place,
and the tests that read the file.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from queue import SimpleQueue
from typing import TYPE_CHECKING

from tools.mutating.page import PAGE
from tools.mutating.python import PYTHON

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence

    from tools.mutating.kinds import Mutation

ROOT = Path(__file__).resolve().parents[1]
WHOLE = ("demo", "docs", "library", "models", ".venv", "frontend/node_modules")
"""Nothing of it is broken: the copy has links to it."""
GENERATED = "frontend/generated"
LONGEST_S = 300


def copied(folder: Path) -> None:
    """Copy the checkout as it lies there, with links to what is large."""
    listed = subprocess.run(
        [
            "/usr/bin/git",
            "ls-files",
            "-z",
            "--cached",
            "--others",
            "--exclude-standard",
        ],
        cwd=ROOT,
        capture_output=True,
        check=True,
    ).stdout.decode()
    for name in filter(None, listed.split("\0")):
        if name.split("/", 1)[0] in WHOLE or not (ROOT / name).is_file():
            continue
        place = folder / name
        place.parent.mkdir(parents=True, exist_ok=True)
        shutil.copyfile(ROOT / name, place)
    for name in WHOLE:
        (folder / name).symlink_to(ROOT / name)
    shutil.copytree(ROOT / GENERATED, folder / GENERATED)


def is_passed(folder: Path, half: str, tests: Sequence[str]) -> bool:
    """Run some tests of a copy, and say whether they pass."""
    if half == "page":
        command = ["npx", "vitest", "run", "--bail=1", *tests]
        where = folder / "frontend"
    else:
        python = str(ROOT / ".venv/bin/python")
        options = ["-q", "-x", "-n0", "-p", "no:cacheprovider"]
        command = [python, "-m", "pytest", *options, *tests]
        where = folder
    surroundings = {**os.environ, "PYTHONPATH": f"{folder / 'src'}:{folder}"}
    surroundings["PYTHONDONTWRITEBYTECODE"] = "1"
    surroundings.setdefault("GLYPHANEME_FONTS", str(ROOT / "var/fonts"))
    done = subprocess.run(  # noqa: S603  # commands of our own
        command,
        cwd=where,
        env=surroundings,
        capture_output=True,
        timeout=LONGEST_S,
        check=False,
    )
    return done.returncode == 0


def is_noticed(folder: Path, half: str, mutation: Mutation) -> bool:
    """Break one place, run the tests, and mend it again."""
    place = folder / mutation.file
    text = place.read_text()
    place.write_text(text.replace(mutation.was, mutation.becomes, 1))
    try:
        return not is_passed(folder, half, mutation.tests)
    except subprocess.TimeoutExpired:
        return True
    finally:
        place.write_text(text)


def require_there(mutations: Sequence[Mutation]) -> None:
    """Require that every place is there, and once."""
    lost = [
        f"{one.file}: {one.was!r}"
        for one in mutations
        if (ROOT / one.file).read_text().count(one.was) != 1
    ]
    if lost:
        sys.exit("These must stand there once, and do not:\n" + "\n".join(lost))


def chosen(half: str, only: str) -> list[Mutation]:
    """Return those of one half that have some words in them."""
    table = PAGE if half == "page" else PYTHON
    return [one for one in table if only in one.file or only in one.was]


def verdicts(half: str, mutations: Sequence[Mutation], workers: int) -> Iterator[bool]:
    """Say of each in turn whether it is noticed; several copies are broken at once.

    The tests run once on what is whole: what fails there would notice everything.
    """
    with (
        tempfile.TemporaryDirectory() as folder,
        ThreadPoolExecutor(workers) as threads,
    ):
        free: SimpleQueue[Path] = SimpleQueue()
        for number in range(workers):
            copied(Path(folder) / str(number))
            free.put(Path(folder) / str(number))

        def judged(judge: Callable[[Path], bool]) -> bool:
            copy = free.get()
            try:
                return judge(copy)
            finally:
                free.put(copy)

        tests = sorted({one.tests for one in mutations})
        for these, passed in zip(
            tests,
            threads.map(
                lambda these: judged(lambda copy: is_passed(copy, half, these)), tests
            ),
            strict=True,
        ):
            if not passed:
                sys.exit(f"Nothing is broken, and these fail: {' '.join(these)}")
        yield from threads.map(
            lambda one: judged(lambda copy: is_noticed(copy, half, one)), mutations
        )


def main() -> int:
    """Break what is asked for; return how many breaks nobody noticed."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("half", choices=["python", "page"])
    parser.add_argument("--only", default="")
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    asked = parser.parse_args()
    mutations = chosen(asked.half, asked.only)
    require_there(mutations)
    survivors = 0
    for mutation, noticed in zip(
        mutations, verdicts(asked.half, mutations, asked.workers), strict=True
    ):
        said = "killed  " if noticed else "SURVIVED"
        survivors += not noticed
        change = f"{mutation.was.strip()} → {mutation.becomes.strip()}"
        sys.stdout.write(f"{said} {mutation.file}: {change}\n")
        sys.stdout.flush()
    share = 100 * (1 - survivors / max(len(mutations), 1))
    sys.stdout.write(f"{len(mutations)} broken, {share:.0f} % noticed\n")
    return survivors


if __name__ == "__main__":
    sys.exit(main())

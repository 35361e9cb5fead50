"""The commands `plans` and `make`: pictures by plans, without the interface."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from glyphaneme.cli.serving import CHECKOUT

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.finish import FileSettings
    from glyphaneme.services.plans.files import PutIn, Tools
    from glyphaneme.services.plans.packing import PlanFile
    from glyphaneme.services.plans.tables import TableRow

PLANS = CHECKOUT / "plans"
LAYERED = ".ora"
USUAL_ENDING = ".png"


def add_plan_commands(
    commands: argparse._SubParsersAction[argparse.ArgumentParser],
) -> None:
    """Add both commands to the command line."""
    listing = commands.add_parser("plans", help="list the kinds of pictures")
    listing.add_argument("--json", action="store_true", help="for programs")
    make = commands.add_parser("make", help="make a known kind of picture")
    make.add_argument("plan", help="its name, or a plan file", metavar="PLAN")
    for name, text, metavar in (
        ("--slot", "a photo for a slot; several for one that takes several", "FILE"),
        ("--words", "words", "TEXT"),
        ("--choice", "one of the ways there are", "WAY"),
    ):
        make.add_argument(
            name,
            action="append",
            default=[],
            type=_named,
            help=text,
            metavar=f"NAME={metavar}",
        )
    make.add_argument("--table", type=Path, help="a row each, in CSV")
    make.add_argument("--width", type=int, help="of the picture, in pixels")
    make.add_argument("--quality", type=int, default=92, help="1 to 100")
    make.add_argument(
        *("-o", "--output"),
        type=Path,
        required=True,
        help="a file, or for a table a folder or such as folder/*.png",
    )


def run_plans(options: argparse.Namespace) -> int:
    """List the plans that ship; return the exit status."""
    from glyphaneme.services.plan_folder import PlanFolder

    plans = PlanFolder(PLANS).plans.values()
    if options.json:
        said = [
            {
                "name": plan.name,
                "title": plan.title,
                "slots": [
                    {"name": slot.name, "suits": slot.suits, "needed": slot.needed}
                    for slot in plan.slots
                ],
            }
            for plan in plans
        ]
        sys.stdout.write(json.dumps(said, ensure_ascii=False, indent=2) + "\n")
        return 0
    for plan in plans:
        slots = ", ".join(
            slot.name if slot.needed else f"[{slot.name}]" for slot in plan.slots
        )
        sys.stdout.write(f"{plan.name:20} {plan.title} ({slots})\n")
    return 0


class _Output(NamedTuple):
    settings: FileSettings
    ending: str


def run_make(options: argparse.Namespace, models: tuple[Path, ...], fonts: Path) -> int:
    """Make one picture, or one for each row of a table; return the exit status."""
    # Imported late: serving must not wait for the compositor.
    from pydantic import ValidationError

    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.core.errors import CoreError
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.font_folder import FontFolder
    from glyphaneme.services.networks import Networks
    from glyphaneme.services.plans.files import Tools

    tools = Tools(Networks(models), FontFolder(fonts))
    try:
        plan = _plan(options.plan)
        output = _output(options)
        if options.table is not None:
            return _make_rows(plan, options, output, tools)
        _make(plan, _put_in(options), options.output, output, tools)
    except ValidationError as error:
        reason = error.errors()[0]
        field = ".".join(map(str, reason["loc"]))
        return _fail(f"{field}: {reason['msg']}")
    except (CoreError, ServiceError, PictureRefusedError, OSError) as error:
        return _fail(str(error))
    return 0


def _plan(named: str) -> PlanFile:
    """Return a plan that ships, or one of a file.

    Raises
    ------
    ServiceError
        There is no such plan.
    """
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.plan_folder import PlanFolder
    from glyphaneme.services.plans.packing import PlanFile, unpack_plan

    folder = PlanFolder(PLANS)
    if named in folder.plans:
        return PlanFile(folder.require(named), {}, ())
    file = Path(named)
    if not file.is_file():
        there = ", ".join(folder.plans)
        message = f"there is no plan called {named}; there are {there}"
        raise ServiceError(message)
    return unpack_plan(file.read_bytes())


def _output(options: argparse.Namespace) -> _Output:
    """Return how files are written.

    Raises
    ------
    ServiceError
        The output's name ends in nothing that is known.
    """
    from glyphaneme.core.finish import FileSettings
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.rendering import FORMAT_ENDINGS

    is_folder = options.table is not None and not options.output.suffix
    ending = USUAL_ENDING if is_folder else options.output.suffix.lower()
    if ending != LAYERED and ending not in FORMAT_ENDINGS:
        known = ", ".join((*FORMAT_ENDINGS, LAYERED))
        message = f"the output must end in one of {known}"
        raise ServiceError(message)
    size = {} if options.width is None else {"by": "width", "width": options.width}
    chosen = {"format": FORMAT_ENDINGS.get(ending), "size": size or None}
    said = {name: one for name, one in chosen.items() if one is not None}
    return _Output(
        FileSettings.model_validate({"quality": options.quality} | said), ending
    )


def _put_in(options: argparse.Namespace) -> PutIn:
    from glyphaneme.services.plans.files import PutIn

    photos: dict[str, list[Path]] = {}
    for name, file in options.slot:
        photos.setdefault(name, []).append(Path(file))
    return PutIn(photos, dict(options.words), dict(options.choice))


def _make_rows(
    plan: PlanFile, options: argparse.Namespace, output: _Output, tools: Tools
) -> int:
    """Make a picture of each row; one that fails is told, and the rest goes on."""
    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.core.errors import CoreError
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.plans.files import PutIn
    from glyphaneme.services.plans.tables import read_table

    rows = read_table(options.table.read_bytes(), plan.plan)
    common, here = _put_in(options), options.table.parent
    folder = options.output if not options.output.suffix else options.output.parent
    folder.mkdir(parents=True, exist_ok=True)
    failed = 0
    for name, row in _called(rows):
        put = PutIn(
            {
                **common.photos,
                **{
                    slot: [here / file for file in files]
                    for slot, files in row.files.items()
                },
            },
            {**common.words, **row.words},
            {**common.choices, **row.choices},
        )
        try:
            _make(plan, put, folder / f"{name}{output.ending}", output, tools)
        except (CoreError, ServiceError, PictureRefusedError, OSError) as error:
            failed += 1
            sys.stderr.write(f"glyphaneme: row {row.number}: {error}\n")
    return 1 if failed else 0


def _called(rows: tuple[TableRow, ...]) -> Iterator[tuple[str, TableRow]]:
    """Yield rows with what their files are called, each otherwise."""
    taken: set[str] = set()
    for row in rows:
        usual = row.name or next(
            (Path(files[0]).stem for files in row.files.values() if files),
            f"row-{row.number}",
        )
        stem = "".join(
            one if one.isprintable() and one not in "/\\:" else "-" for one in usual
        )
        stem = stem.strip(". ")[:80] or f"row-{row.number}"
        name, number = stem, 1
        while name.lower() in taken:
            number += 1
            name = f"{stem}-{number}"
        taken.add(name.lower())
        yield name, row


def _make(
    plan: PlanFile, put: PutIn, target: Path, output: _Output, tools: Tools
) -> None:
    from glyphaneme.services.plans.files import MadeOfFiles

    made = MadeOfFiles(plan, put, tools)
    # Beside the output: whoever looks there finds a whole picture or none.
    draft = target.with_name(f".{target.name}.draft")
    try:
        with draft.open("w+b") as file:
            if output.ending == LAYERED:
                width, height = made.write_layers(file)
            else:
                width, height = made.write(file, output.settings)
        draft.rename(target)
    finally:
        draft.unlink(missing_ok=True)
    for said in made.sayings:
        sys.stderr.write(f"glyphaneme: {target.name}: {said}\n")
    sys.stdout.write(f"{target}: {width} × {height} pixels\n")


def _named(text: str) -> tuple[str, str]:
    """Read NAME=VALUE.

    Raises
    ------
    ArgumentTypeError
        It is none.
    """
    name, is_there, value = text.partition("=")
    if not is_there or not name.strip():
        message = f"must be NAME=…; got “{text}”"
        raise argparse.ArgumentTypeError(message)
    return name.strip(), value


def _fail(message: str) -> int:
    sys.stderr.write(f"glyphaneme: {message}\n")
    return 1

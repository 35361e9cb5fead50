"""The command `render`: layered files to pictures and pages, without the interface."""

from __future__ import annotations

import argparse
import re
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glyphaneme.core.finish import FileSettings

FORMATS = ("png", "jpeg", "webp", "avif", "tiff", "gif", "pdf")
PURPOSES = ("print-shop", "home", "web", "listing", "message", "slide")
UNITS = {"": 1, "b": 1, "kb": 1000, "mb": 1_000_000}
MM = {"mm": 1.0, "cm": 10.0, "in": 25.4}


def add_render_command(
    commands: argparse._SubParsersAction[argparse.ArgumentParser],
) -> None:
    """Add the command to the command line."""
    command = commands.add_parser("render", help="render layered OpenRaster files")
    command.add_argument("files", type=Path, nargs="+", help="layered files, .ora")
    command.add_argument(
        "-o", "--output", type=Path, required=True, help="a file, or a folder for many"
    )
    command.add_argument(
        "--for", dest="purpose", choices=PURPOSES, help="what it is made for"
    )
    command.add_argument("--format", choices=FORMATS)
    size = command.add_mutually_exclusive_group()
    size.add_argument("--scale", type=float)
    size.add_argument("--width", type=int, help="of the picture, in pixels")
    command.add_argument("--quality", type=int, help="1 to 100")
    command.add_argument("--bits", type=int, choices=(8, 16))
    command.add_argument("--under", type=_bytes, help="at most so large, as 500kB")
    command.add_argument("--profile", type=Path, help="the printer's colours, .icc")
    command.add_argument("--bleed", type=_millimetres, help="as 3mm or 0.125in")
    command.add_argument("--marks", action="store_true", help="where it is to be cut")
    command.add_argument("--pages", action="store_true", help="all of them in one PDF")
    command.add_argument(
        "--compare", action="store_true", help="a page that compares two files"
    )
    command.add_argument("--layer", metavar="NAME", help="only the layer of that name")


def run_render(options: argparse.Namespace) -> int:
    """Render the files; return the exit status."""
    # Imported late: serving must not wait for the compositor.
    from pydantic import ValidationError

    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.core.errors import CoreError
    from glyphaneme.services.errors import ServiceError

    try:
        settings = _settings(options)
        if options.pages or options.compare:
            _render_together(options, settings)
        elif len(options.files) > 1 or options.output.is_dir():
            return _render_many(options, settings)
        else:
            _render_one(options.files[0], options.output, options, settings)
    except ValidationError as error:
        reason = error.errors()[0]
        field = ".".join(map(str, reason["loc"]))
        said = reason["msg"].removeprefix("Value error, ")
        return _fail(f"{field}: {said}" if field else said)
    except (CoreError, ServiceError, PictureRefusedError, OSError) as error:
        return _fail(str(error))
    return 0


def _settings(options: argparse.Namespace) -> FileSettings:
    """Return what the options ask for, on top of what their purpose sets.

    Raises
    ------
    ServiceError
        The output's name ends in nothing that is known.
    """
    from glyphaneme.core.finish import PURPOSES as SHIPPED
    from glyphaneme.core.finish import FileSettings
    from glyphaneme.core.values import with_fields
    from glyphaneme.services.errors import ServiceError
    from glyphaneme.services.rendering import FORMAT_ENDINGS

    chosen = FORMAT_ENDINGS.get(options.output.suffix.lower())
    is_known = chosen is not None or options.compare or options.output.is_dir()
    if options.output.suffix and not is_known:
        known = ", ".join(FORMAT_ENDINGS)
        message = f"the output must end in one of {known}, or be a folder"
        raise ServiceError(message)
    usual = FileSettings(quality=92)
    settings = SHIPPED[options.purpose].settings if options.purpose else usual
    paper, size = _paper(options, settings), _size(options)
    asked: dict[str, Any] = {
        "format": options.format or ("pdf" if options.pages else None) or chosen,
        "size": size,
        "quality": options.quality,
        "bits": options.bits,
        "most_bytes": options.under,
        "paper": paper,
        "coloring": options.profile and dict(settings.coloring) | {"space": "ink"},
    }
    said = {name: one for name, one in asked.items() if one is not None}
    return with_fields(settings, **said)


def _size(options: argparse.Namespace) -> dict[str, Any] | None:
    if options.scale is not None:
        return {"by": "share", "share": options.scale}
    return None if options.width is None else {"by": "width", "width": options.width}


def _paper(
    options: argparse.Namespace, settings: FileSettings
) -> dict[str, Any] | None:
    if options.bleed is None and not options.marks:
        return None
    paper = dict(settings.paper)
    bleed = paper["bleed_mm"] if options.bleed is None else options.bleed
    return paper | {"bleed_mm": bleed, "marks": options.marks or paper["marks"]}


def _render_one(
    file: Path, output: Path, options: argparse.Namespace, settings: FileSettings
) -> None:
    from glyphaneme.services.rendering import render_layered

    # Beside the output: whoever looks there finds a whole picture or none.
    draft = output.with_name(f".{output.name}.draft")
    try:
        with file.open("rb") as source, draft.open("wb") as target:
            width, height = render_layered(
                source,
                target,
                settings,
                layer_name=options.layer,
                profile=_profile(options),
            )
        draft.rename(output)
    finally:
        draft.unlink(missing_ok=True)
    sys.stdout.write(f"{output}: {width} × {height} pixels\n")


def _render_many(options: argparse.Namespace, settings: FileSettings) -> int:
    """Render each file into a folder; one that fails is told, and the rest goes on."""
    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.core.errors import CoreError
    from glyphaneme.core.finish import FileFormat
    from glyphaneme.services.errors import ServiceError

    options.output.mkdir(parents=True, exist_ok=True)
    ending = FileFormat(settings.format).facts.ending
    failed = 0
    taken: set[str] = set()
    for file in options.files:
        name = stem = file.stem
        number = 1
        while name.lower() in taken:
            number += 1
            name = f"{stem}-{number}"
        taken.add(name.lower())
        try:
            _render_one(file, options.output / f"{name}.{ending}", options, settings)
        except (CoreError, ServiceError, PictureRefusedError, OSError) as error:
            failed += 1
            sys.stderr.write(f"glyphaneme: {file}: {error}\n")
    return 1 if failed else 0


def _render_together(options: argparse.Namespace, settings: FileSettings) -> None:
    """Render all files into one: pages, or a page that compares two."""
    from glyphaneme.services.rendering import render_comparison, render_pages

    output = options.output
    draft = output.with_name(f".{output.name}.draft")
    try:
        with draft.open("wb") as target:
            if options.compare:
                render_comparison(options.files, target, settings)
                made = "a page that compares two pictures"
            else:
                profile = _profile(options)
                count = render_pages(options.files, target, settings, profile=profile)
                made = f"{count} pages"
        draft.rename(output)
    finally:
        draft.unlink(missing_ok=True)
    sys.stdout.write(f"{output}: {made}\n")


def _profile(options: argparse.Namespace) -> tuple[bytes, str] | None:
    """Return the printer's profile that was asked for, once it is found to be one."""
    if options.profile is None:
        return None
    from glyphaneme.services.profiles import checked_profile

    return checked_profile(options.profile.read_bytes())


def _bytes(text: str) -> int:
    """Read a size, such as 500kB.

    Raises
    ------
    ArgumentTypeError
        It is none.
    """
    found = re.fullmatch(r"([\d.]+)\s*([a-zA-Z]*)", text)
    unit = UNITS.get(found[2].lower()) if found else None
    if found is None or unit is None:
        message = f"a size is written as 500kB or 2MB; got {text}"
        raise argparse.ArgumentTypeError(message)
    return int(float(found[1]) * unit)


def _millimetres(text: str) -> float:
    """Read a length, such as 3mm.

    Raises
    ------
    ArgumentTypeError
        It is none.
    """
    found = re.fullmatch(r"([\d.]+)\s*(mm|cm|in)", text)
    if found is None:
        message = f"a length is written as 3mm, 0.3cm or 0.125in; got {text}"
        raise argparse.ArgumentTypeError(message)
    return float(found[1]) * MM[found[2]]


def _fail(message: str) -> int:
    sys.stderr.write(f"glyphaneme: {message}\n")
    return 1

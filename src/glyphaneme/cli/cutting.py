"""The command `cutout`: pictures without their backdrops, without the interface."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glyphaneme.services.matting import CutRequest
    from glyphaneme.services.networks import Networks

Point = tuple[float, float]
PNG = ".png"
STROKE_SHARE = 0.015
"""How wide strokes are, as a share of how far the rectangle or all strokes reach."""
LEAST_STROKE = 4.0


def add_cutout_command(
    commands: argparse._SubParsersAction[argparse.ArgumentParser],
) -> None:
    """Add the command to the command line."""
    command = commands.add_parser("cutout", help="take the background away")
    command.add_argument("files", type=Path, nargs="+", help="pictures", metavar="IN")
    command.add_argument(
        *("-o", "--output"),
        type=Path,
        required=True,
        help="a .png file, or for several pictures a folder",
    )
    command.add_argument("--width", type=int, help="of the pictures, in pixels")
    command.add_argument("--way", default="itself", help="how the subject is found")
    command.add_argument(
        *("--rect",), type=_rectangle, help="where it lies", metavar="X,Y,W,H"
    )
    for name, text in (("--keep", "what is to stay"), ("--drop", "what is to go")):
        command.add_argument(
            name,
            type=_points,
            action="append",
            default=[],
            help=f"a rough stroke over {text}",
            metavar='"X,Y X,Y …"',
        )


def run_cutout(options: argparse.Namespace, models: tuple[Path, ...]) -> int:
    """Cut all pictures out; return the exit status. One that fails stops no other.

    Networks are looked for in the folders `models`.
    """
    # Imported late: serving must not wait for the compositor.
    from pydantic import ValidationError

    from glyphaneme.services.networks import Networks

    try:
        request = _request(options)
    except ValidationError as error:
        return _fail(f"that cannot be looked for: {error.errors()[0]['msg']}")
    if options.width is not None and options.width < 1:
        return _fail("the width must be above 0")
    is_folder = options.output.suffix.lower() != PNG
    if len(options.files) > 1 and not is_folder:
        return _fail("several pictures need a folder to go to, not one file")
    if is_folder and options.output.suffix:
        return _fail("the output must end in .png, or be a folder")
    networks = Networks(models)
    status = 0
    for file in options.files:
        output = options.output / f"{file.stem}.png" if is_folder else options.output
        status |= _cut(file, output, request, networks, options.width)
    return status


def _cut(
    file: Path, output: Path, request: CutRequest, networks: Networks, width: int | None
) -> int:
    from glyphaneme.codecs.errors import PictureRefusedError
    from glyphaneme.services.cutting_files import cut_file
    from glyphaneme.services.errors import ServiceError

    # Beside the output: whoever looks there finds a whole picture or none.
    draft = output.with_name(f".{output.name}.draft")
    try:
        output.parent.mkdir(parents=True, exist_ok=True)
        with file.open("rb") as source, draft.open("wb") as target:
            columns, rows = cut_file(
                source,
                target,
                request=request,
                networks=networks,
                name=file.name,
                width=width,
            )
        draft.rename(output)
    except (ServiceError, PictureRefusedError, OSError) as error:
        return _fail(f"{file}: {error}")
    finally:
        draft.unlink(missing_ok=True)
    sys.stdout.write(f"{output}: {columns} × {rows} pixels\n")
    return 0


def _request(options: argparse.Namespace) -> CutRequest:
    from glyphaneme.services.matting import CutRequest

    points = [at for stroke in (*options.keep, *options.drop) for at in stroke] + list(
        options.rect or ()
    )
    reach = max((max(at) for at in points), default=0.0)
    size = max(STROKE_SHARE * reach, LEAST_STROKE)
    strokes = [
        {"keeps": keeps, "size": size, "points": stroke}
        for keeps, all_of in ((True, options.keep), (False, options.drop))
        for stroke in all_of
    ]
    hints = {"around": options.rect, "strokes": strokes}
    return CutRequest.model_validate({"way": options.way, "hints": hints})


def _points(text: str) -> tuple[Point, ...]:
    """Read positions in a photo's pixels, such as "10,20 30,40".

    Raises
    ------
    ArgumentTypeError
        They are none.
    """
    try:
        pairs = [one.split(",") for one in text.split()]
        return tuple((float(x), float(y)) for x, y in pairs)
    except ValueError as cause:
        message = f'must be pixels such as "10,20 30,40"; got "{text}"'
        raise argparse.ArgumentTypeError(message) from cause


def _rectangle(text: str) -> tuple[Point, ...]:
    """Read a rectangle's corners from its left, top, width and height.

    Raises
    ------
    ArgumentTypeError
        It is none.
    """
    try:
        left, top, width, height = map(float, text.split(","))
    except ValueError as cause:
        message = f'must be left, top, width and height in pixels; got "{text}"'
        raise argparse.ArgumentTypeError(message) from cause
    right, bottom = left + width, top + height
    return ((left, top), (right, top), (right, bottom), (left, bottom))


def _fail(message: str) -> int:
    sys.stderr.write(f"glyphaneme: {message}\n")
    return 1

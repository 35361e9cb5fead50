"""Tables in CSV: a row for each picture, a column for each slot, words and choice."""

from __future__ import annotations

import csv
import io
from typing import TYPE_CHECKING, Final, NamedTuple

from glyphaneme.core.plans.values import LONGEST_WORDS, MOST_PHOTOS
from glyphaneme.services.errors import TableRefusedError

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glyphaneme.core.plans import Plan

MOST_ROWS: Final = 10_000
MOST_BYTES: Final = 32 * 2**20
NAME: Final = "name"
"""The column that says what a row's picture is called."""
BETWEEN: Final = "|"
"""Between the files of a slot that takes several."""
ENCODINGS: Final = ("utf-8-sig", "utf-16", "cp1252")


class TableRow(NamedTuple):
    """What one row puts into a plan."""

    number: int
    """Of its line, as a spreadsheet counts them: the first row of data is 2."""
    name: str | None
    files: dict[str, tuple[str, ...]]
    words: dict[str, str]
    choices: dict[str, str]


def read_table(data: bytes, plan: Plan) -> tuple[TableRow, ...]:
    """Read a table for a plan.

    Its first row names columns: slots, words and choices of the plan, and perhaps
    `name`. Commas, semicolons and tabs may stand between cells; rows that are empty
    count nothing.

    Raises
    ------
    TableRefusedError
        It is no table, or none for this plan.
    """
    rows = _rows(data)
    try:
        header = next(rows)
    except StopIteration:
        raise TableRefusedError("It is empty.") from None
    columns = [one.strip() for one in header]
    _require_columns(columns, plan)
    found: list[TableRow] = []
    for number, cells in enumerate(rows, 2):
        if not any(cell.strip() for cell in cells):
            continue
        if len(found) == MOST_ROWS:
            message = f"It has more than {MOST_ROWS} rows."
            raise TableRefusedError(message)
        if len(cells) > len(columns):
            message = (
                f"Row {number} has {len(cells)} cells, and there are {len(columns)} "
                "columns. Words with a comma in them need quotes round them."
            )
            raise TableRefusedError(message)
        found.append(_row(number, dict(zip(columns, cells, strict=False)), plan))
    if not found:
        raise TableRefusedError("It has no rows beneath its first one.")
    return tuple(found)


def _rows(data: bytes) -> Iterator[list[str]]:
    text = _text(data)
    first = text.partition("\n")[0]
    between = max(",;\t", key=first.count)
    csv.field_size_limit(MOST_BYTES)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=between)
    try:
        yield from reader
    except csv.Error as cause:
        message = f"Row {reader.line_num} cannot be read."
        raise TableRefusedError(message) from cause


def _text(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        message = f"It is larger than {MOST_BYTES // 2**20} MB."
        raise TableRefusedError(message)
    for encoding in ENCODINGS:
        if encoding == "utf-16" and data[:2] not in {b"\xff\xfe", b"\xfe\xff"}:
            continue
        try:
            text = data.decode(encoding)
        except UnicodeDecodeError:
            continue
        if "\0" not in text:
            return text
    raise TableRefusedError("It is no text: save it as CSV in UTF-8.")


def _require_columns(columns: list[str], plan: Plan) -> None:
    known = [slot.name for slot in plan.slots]
    known += [one.name for one in plan.words] + [one.name for one in plan.choices]
    strange = [one for one in columns if one not in {*known, NAME}]
    if strange or len(set(columns)) < len(columns):
        what = f"the column “{strange[0][:40]}”" if strange else "a column twice"
        message = f"It has {what}; “{plan.title}” knows {', '.join((NAME, *known))}."
        raise TableRefusedError(message)


def _row(number: int, cells: dict[str, str], plan: Plan) -> TableRow:
    files = {}
    for slot in plan.slots:
        named = [one.strip() for one in cells.get(slot.name, "").split(BETWEEN)]
        files[slot.name] = tuple(filter(None, named))[:MOST_PHOTOS]
    words = {one.name: cells[one.name] for one in plan.words if cells.get(one.name)}
    long = next((name for name, said in words.items() if len(said) > LONGEST_WORDS), "")
    if long:
        message = f"Row {number} has more than {LONGEST_WORDS} letters in “{long}”."
        raise TableRefusedError(message)
    choices = {
        one.name: cells[one.name].strip()
        for one in plan.choices
        if cells.get(one.name, "").strip()
    }
    name = cells.get(NAME, "").strip() or None
    return TableRow(number, name, {k: v for k, v in files.items() if v}, words, choices)

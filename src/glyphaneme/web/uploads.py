"""Files that come with a request."""

from __future__ import annotations

from typing import TYPE_CHECKING, BinaryIO, NamedTuple, cast

from flask import request

from glyphaneme.web.problems import problem

if TYPE_CHECKING:
    from flask import Response


class Upload(NamedTuple):
    """A file, and what it is called."""

    file: BinaryIO
    name: str


def uploaded(what: str) -> Upload | Response:
    """Return the form field `file`, or the problem to answer with."""
    upload = request.files.get("file")
    if upload is not None:
        return Upload(cast("BinaryIO", upload.stream), upload.filename or "")
    # Werkzeug takes a file part without a name for a plain form field.
    nameless = "file" in request.form
    code = "nameless-file" if nameless else "invalid-request"
    detail = (
        "The file has no name. Nothing was kept; name it and bring it in again."
        if nameless
        else f"The request must carry {what} in the form field `file`."
    )
    return problem(422, code, detail)

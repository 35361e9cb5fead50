"""Turns errors into problem details (RFC 9457) with a sentence for people."""

from __future__ import annotations

import json
import logging
from http import HTTPStatus
from typing import TYPE_CHECKING

from flask import Response, request
from werkzeug.exceptions import HTTPException, RequestEntityTooLarge

from glyphaneme.codecs.errors import PictureRefusedError, RefusalCode
from glyphaneme.core.errors import CoreError, LayerLockedError
from glyphaneme.services import errors
from glyphaneme.services.room import NO_ROOM, is_no_room

if TYPE_CHECKING:
    from flask import Flask
    from pydantic import ValidationError

log = logging.getLogger(__name__)

MEDIA_TYPE = "application/problem+json"
DRAIN_BYTES = 1 << 20
MOST_DRAINED = 1 << 30

STATUS: dict[type[Exception], tuple[HTTPStatus, str]] = {
    errors.NotThereError: (HTTPStatus.NOT_FOUND, "not-there"),
    errors.KeyReusedError: (HTTPStatus.CONFLICT, "key-reused"),
    errors.PictureMismatchError: (HTTPStatus.CONFLICT, "picture-mismatch"),
    errors.NamelessFileError: (HTTPStatus.UNPROCESSABLE_ENTITY, "nameless-file"),
    errors.NetworkMissingError: (HTTPStatus.CONFLICT, "network-missing"),
    errors.NotAlignedError: (HTTPStatus.CONFLICT, "not-aligned"),
    errors.TooManyVersionsError: (HTTPStatus.CONFLICT, "too-many-versions"),
    errors.TooManyPurposesError: (HTTPStatus.CONFLICT, "too-many-purposes"),
    errors.LibraryPictureError: (HTTPStatus.CONFLICT, "library-picture"),
    errors.SlotsEmptyError: (HTTPStatus.UNPROCESSABLE_ENTITY, "slots-empty"),
    errors.ExportSizeError: (HTTPStatus.UNPROCESSABLE_ENTITY, "export-size"),
}


def problem(status: int, code: str, detail: str, **members: object) -> Response:
    """Return a problem details answer."""
    body = problem_body(status, code, detail, **members)
    return Response(body, status=status, content_type=MEDIA_TYPE)


def problem_body(status: int, code: str, detail: str, **members: object) -> str:
    """Return problem details as JSON."""
    return json.dumps(
        {
            "type": f"urn:glyphaneme:problem:{code}",
            "title": HTTPStatus(status).phrase,
            "status": int(status),
            "detail": detail,
            **members,
        }
    )


def answer_invalid_request(error: ValidationError) -> Response:
    """Answer a request whose body, query or path does not fit."""
    fields = [
        {"field": ".".join(map(str, item["loc"])), "reason": item["msg"]}
        for item in error.errors(include_url=False, include_context=False)
    ]
    first = fields[0] if fields else {"field": "", "reason": ""}
    detail = f"The request does not fit: {first['field']}: {first['reason']}."
    return problem(422, "invalid-request", detail, errors=fields)


def map_problems(app: Flask) -> None:
    """Answer every error of the application with problem details."""
    _map_refusals(app)
    _map_faults(app)


def _map_refusals(app: Flask) -> None:
    """Say why something was refused."""

    @app.errorhandler(errors.ServiceError)
    def on_service_error(error: errors.ServiceError) -> Response:
        status, code = STATUS.get(
            type(error), (HTTPStatus.UNPROCESSABLE_ENTITY, "refused")
        )
        return problem(status, code, str(error))

    @app.errorhandler(PictureRefusedError)
    def on_refused_picture(error: PictureRefusedError) -> Response:
        heavy = {RefusalCode.TOO_HEAVY, RefusalCode.TOO_MANY_PIXELS}
        return problem(413 if error.code in heavy else 415, error.code, str(error))

    @app.errorhandler(CoreError)
    def on_core_error(error: CoreError) -> Response:
        if isinstance(error, LayerLockedError):
            detail = f"{error.layer_name} is locked. Unlock it first."
            return problem(409, "layer-locked", detail)
        return problem(409, "edit-does-not-fit", f"This change does not fit: {error}.")

    @app.errorhandler(RequestEntityTooLarge)
    def on_too_large(_error: RequestEntityTooLarge) -> Response:
        _drain()
        limit = app.config["MAX_CONTENT_LENGTH"] // (1024 * 1024)
        return problem(
            413,
            RefusalCode.TOO_HEAVY,
            f"The file is larger than {limit} MB. Nothing of it was kept; bring in a "
            "smaller copy.",
        )

    @app.errorhandler(RecursionError)
    def on_too_deep(_error: RecursionError) -> Response:
        return problem(
            422,
            "invalid-request",
            "The request nests deeper than anything that is taken here.",
        )

    @app.errorhandler(HTTPException)
    def on_http_error(error: HTTPException) -> Response:
        code = error.code or 500
        return problem(code, "http", error.description or HTTPStatus(code).phrase)


def _map_faults(app: Flask) -> None:
    """Say what is wrong with us."""

    def on_database_away(error: Exception) -> Response:
        if is_no_room(error):
            return _no_room(error)
        log.warning("database away: %s", error, extra={"action": "database_away"})
        response = problem(
            503,
            "database-away",
            "The database does not answer at the moment. Everything saved is safe; "
            "try again in a moment.",
        )
        response.headers["Retry-After"] = "1"
        return response

    for away in errors.DATABASE_AWAY:
        app.register_error_handler(away, on_database_away)

    @app.errorhandler(Exception)
    def on_unexpected(error: Exception) -> Response:
        if is_no_room(error):
            return _no_room(error)
        log.error("request failed", exc_info=error, extra={"action": "request_failed"})
        return problem(
            500,
            "unexpected",
            "Something went wrong on our side. Everything saved is still there; "
            "try again.",
        )


def _no_room(error: Exception) -> Response:
    log.error("no room: %s", error, extra={"action": "no_room"})
    return problem(HTTPStatus.INSUFFICIENT_STORAGE, "no-room", NO_ROOM)


def _drain() -> None:
    """Read what is still coming: a client that is cut off never sees the answer."""
    stream = request.environ["wsgi.input"]
    left = min(request.content_length or 0, MOST_DRAINED)
    while left > 0:
        data = stream.read(min(DRAIN_BYTES, left))
        if not data:
            return
        left -= len(data)

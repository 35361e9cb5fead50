"""Keeps strangers out: other hosts, other origins, and scripts that are not ours."""

from __future__ import annotations

import secrets
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from flask import g, request

from glyphaneme.web.problems import problem

if TYPE_CHECKING:
    from flask import Flask, Response

MAX_UPLOAD_BYTES = 300 * 1024 * 1024
USUAL_PORTS = {"http": 80, "https": 443}
SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}
SECURITY_HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


def guard(app: Flask, allowed_hosts: frozenset[str]) -> None:
    """Check every request's Host and Origin, and harden every answer."""

    @app.before_request
    def refuse_strangers() -> Response | None:
        g.nonce = secrets.token_urlsafe(16)
        if not is_served(request.host, allowed_hosts):
            return problem(
                421,
                "unknown-host",
                "This address is not served here; open the one "
                "that was printed at the start.",
            )
        origin = request.headers.get("Origin")
        if (
            request.method not in SAFE_METHODS
            and origin is not None
            and _place(origin) != _place(request.host_url)
        ):
            return problem(
                403, "other-origin", "Another website may not change your pictures."
            )
        return None

    @app.after_request
    def harden(response: Response) -> Response:
        nonce = g.get("nonce", "")
        response.headers["Content-Security-Policy"] = (
            "default-src 'none'; "
            f"script-src 'self' 'nonce-{nonce}'; style-src 'self' 'nonce-{nonce}'; "
            "img-src 'self' blob: data:; font-src 'self'; connect-src 'self'; "
            "base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
        )
        response.headers.update(SECURITY_HEADERS)
        response.headers.setdefault("Cache-Control", "no-store")
        return response


def is_served(host: str, allowed_hosts: frozenset[str]) -> bool:
    """Tell whether a Host header names one of ours."""
    return _host_name(f"//{host}") in allowed_hosts


def _place(url: str) -> tuple[str, int] | None:
    """Return host and port, which browsers leave out where it is the usual one."""
    try:
        parts = urlsplit(url)
        port = parts.port or USUAL_PORTS.get(parts.scheme, 0)
    except ValueError:
        return None
    return (parts.hostname or "", port)


def _host_name(address: str) -> str:
    try:
        return urlsplit(address).hostname or ""
    except ValueError:
        return ""

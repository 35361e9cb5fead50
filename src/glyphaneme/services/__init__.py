"""One function per thing a person can ask for."""

from __future__ import annotations

__all__: list[str] = []

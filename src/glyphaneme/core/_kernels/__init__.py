"""Compiled loops: no checks, no allocation; callers have checked every input."""

from __future__ import annotations

__all__: list[str] = []

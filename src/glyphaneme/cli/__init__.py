"""Commands of the launcher."""

from __future__ import annotations

__all__: list[str] = []

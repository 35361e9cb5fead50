"""Glyphaneme combines several photos into one picture."""

from __future__ import annotations

__all__: list[str] = []

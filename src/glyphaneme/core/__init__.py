"""Pixel arithmetic and the composite model; no files, clock, network or interface."""

from __future__ import annotations

__all__: list[str] = []

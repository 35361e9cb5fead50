"""Breaks the code in one place after another, and tells which breaks tests notice."""

from __future__ import annotations

__all__: list[str] = []

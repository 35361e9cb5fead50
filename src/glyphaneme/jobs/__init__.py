"""Queue tasks, thin like blueprints, and the worker that runs them."""

from __future__ import annotations

__all__: list[str] = []

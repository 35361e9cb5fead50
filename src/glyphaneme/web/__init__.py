"""The HTTP interface: reads, calls a service, answers; decides nothing."""

from __future__ import annotations

__all__: list[str] = []

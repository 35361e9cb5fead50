"""Everything people made, in PostgreSQL: typed rows and the functions over them."""

from __future__ import annotations

__all__: list[str] = []

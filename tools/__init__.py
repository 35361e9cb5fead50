"""Programs for developers; nothing here ships."""

from __future__ import annotations

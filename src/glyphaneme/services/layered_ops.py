"""How layers blend, as OpenRaster files call it."""

from __future__ import annotations

from glyphaneme.core.blend import BlendMode

PLAIN_OP = "svg:src-over"
OPS: dict[BlendMode, str] = {
    mode: PLAIN_OP if mode is BlendMode.NORMAL else f"svg:{mode.value}"
    for mode in BlendMode
}
MODES = {op: mode for mode, op in OPS.items()}

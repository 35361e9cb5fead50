"""Gradients of several colours."""

from __future__ import annotations

from tools.make_library.catalogue import picture
from tools.make_library.painting import WIDE, Field, color, falloff, grid, mix, ramp


@picture("Gradients", "Dawn", "pink peach soft morning warm")
def dawn() -> Field:
    """Paint a gradient from violet to peach."""
    _, y = grid(WIDE)
    return ramp(
        y, [(0, "#6f6aa8"), (0.45, "#d99bb0"), (0.8, "#f8c9a4"), (1, "#fdeccb")]
    )


@picture("Gradients", "Deep sea", "blue green teal dark water")
def deep_sea() -> Field:
    """Paint a gradient from light water to dark."""
    _, y = grid(WIDE)
    return ramp(
        y, [(0, "#9fe0d6"), (0.35, "#2f9aa6"), (0.75, "#0f4c6a"), (1, "#06213a")]
    )


@picture("Gradients", "Ember", "red orange glow round warm fire")
def ember() -> Field:
    """Paint a round glow."""
    glow = falloff(WIDE, 0.75, 0.55, 0.38)
    return ramp(
        glow, [(0, "#1d0a10"), (0.3, "#6d1622"), (0.65, "#d8502a"), (1, "#ffd08a")]
    )


@picture("Gradients", "Meadow", "green yellow spring fresh soft")
def meadow() -> Field:
    """Paint a gradient across, from yellow to green."""
    x, y = grid(WIDE)
    return ramp(
        0.75 * x / 1.5 + 0.25 * y, [(0, "#f7eaa0"), (0.5, "#a9cf7a"), (1, "#2f7d5b")]
    )


@picture("Gradients", "Northern lights", "green violet night aurora dark")
def northern_lights() -> Field:
    """Paint glows of three colours that run into one another."""
    shown = mix(
        color("#0a1230"), color("#1fae8a"), falloff(WIDE, 0.4, 0.45, 0.32) * 0.95
    )
    shown = mix(shown, color("#7a3fc0"), falloff(WIDE, 1.05, 0.35, 0.33) * 0.85)
    return mix(shown, color("#123a7a"), falloff(WIDE, 0.85, 1.0, 0.35) * 0.7)

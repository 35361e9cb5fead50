"""Pairs of pictures of one place, whose lie over one another is known."""

from __future__ import annotations

import cv2
import numpy as np


def turned(degrees: float, scale: float, x: float, y: float) -> np.ndarray:
    angle = np.radians(degrees)
    cosine, sine = scale * np.cos(angle), scale * np.sin(angle)
    return np.array([[cosine, -sine, x], [sine, cosine, y], [0, 0, 1]])


def seen_through(pixels: np.ndarray, to_other: np.ndarray) -> np.ndarray:
    """Return the picture that another camera took; positions map by `to_other`."""
    half = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    between = np.linalg.inv(half) @ to_other @ half
    height, width = pixels.shape[:2]
    seen = cv2.warpPerspective(
        pixels,
        between,
        (width, height),
        flags=cv2.INTER_CUBIC,
        borderMode=cv2.BORDER_REFLECT,
    )
    return np.ascontiguousarray(seen)


def another_season(pixels: np.ndarray) -> np.ndarray:
    """Return it darker, of other colours, and with grain."""
    shown = pixels.astype(np.float64) / 255
    shown[..., :3] = 0.8 * shown[..., :3] ** 1.4
    shown[..., 0] = 0.8 * shown[..., 0] + 0.2 * shown[..., 1]
    grain = np.random.default_rng(5).normal(0, 0.02, shown[..., :3].shape)
    shown[..., :3] = np.clip(shown[..., :3] + grain, 0, 1)
    return np.ascontiguousarray((shown * 255).astype(np.uint8))

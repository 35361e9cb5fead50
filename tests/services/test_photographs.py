"""Cutting photographs, which nobody drew: those that a library for images ships."""

from __future__ import annotations

import os
from pathlib import Path

import numpy as np
import pytest
import skimage.data

from glyphaneme.core.mask import CutWay, Hints
from glyphaneme.core.place import build_pyramid
from glyphaneme.services.matting import Cut, CutRequest
from glyphaneme.services.networks import LARGE, LIGHT, Networks

MODELS = Path(__file__).parents[2] / "var" / "models"
SUBJECT, BACKDROP = 230, 25
"""Levels from which on a pixel belongs to the one, and up to which to the other."""
CUP, CAT, ROCKET = "coffee", "chelsea", "rocket"
INSIDE = {
    CUP: [(292, 115), (110, 200), (360, 285), (280, 360)],
    CAT: [(263, 240), (265, 70), (170, 120), (60, 60)],
    ROCKET: [(320, 210), (320, 280), (320, 340)],
}
"""Across and down: places of the subject."""
OUTSIDE = {
    CUP: [(550, 300), (20, 350), (40, 20), (560, 20)],
    CAT: [(440, 150), (430, 280), (445, 60)],
    ROCKET: [(160, 60), (30, 250), (460, 100), (620, 200)],
}
LEFT, TOP, RIGHT, BOTTOM = 170, 120, 220, 400
"""A tower beside the rocket, which is not what the eye goes to first."""


@pytest.fixture(scope="module")
def networks() -> Networks:
    found = Networks((Path(os.environ.get("GLYPHANEME_MODELS", MODELS)),))
    if not {LARGE, LIGHT} <= set(found.manifests):
        pytest.skip("set-up could not fetch the networks")
    return found


def matte_of(networks: Networks, name: str, request: CutRequest) -> np.ndarray:
    rgb = getattr(skimage.data, name)()
    pixels = np.dstack([rgb, np.full(rgb.shape[:2], 255, np.uint8)])
    pyramid = build_pyramid(np.ascontiguousarray(pixels))
    return Cut.begun(networks, pyramid, request).matte()[0]


@pytest.mark.parametrize(
    ("name", "way"),
    [
        (CUP, CutWay.ITSELF),
        (CUP, CutWay.FINER),
        (CAT, CutWay.ITSELF),
        (CAT, CutWay.BLOCK),
        (ROCKET, CutWay.BLOCK),
    ],
)
def test_the_subject_of_a_photograph_is_told_from_its_backdrop(
    networks: Networks, name: str, way: CutWay
) -> None:
    matte = matte_of(networks, name, CutRequest(way=way))

    assert min(matte[y, x] for x, y in INSIDE[name]) >= SUBJECT
    assert max(matte[y, x] for x, y in OUTSIDE[name]) <= BACKDROP


def test_a_ring_picks_what_the_eye_does_not_go_to_first(networks: Networks) -> None:
    ring = ((LEFT, TOP), (RIGHT, TOP), (RIGHT, BOTTOM), (LEFT, BOTTOM))

    matte = matte_of(networks, ROCKET, CutRequest(hints=Hints(around=ring)))

    assert matte[250, LEFT:RIGHT].max() >= SUBJECT
    assert max(matte[y, x] for x, y in INSIDE[ROCKET]) <= BACKDROP

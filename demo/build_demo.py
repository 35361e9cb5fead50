"""Builds the demo projects through the public HTTP interface, and nothing else.

Ids are made from names, so that running it again changes nothing.
"""

from __future__ import annotations

import json
import sys
import time
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from typing import TYPE_CHECKING, Any

import httpx

if TYPE_CHECKING:
    from collections.abc import Iterator

PHOTOS = Path(__file__).parent
WORLD = uuid.UUID("6d6f7468-6c61-4e74-8e72-6e6d6f746873")
TIMEOUT_S = 120.0
ASK_AGAIN_S = 0.2
CM_PER_INCH = 2.54


Spot = tuple[float, float]
"""A position, as shares of the canvas."""


@dataclass(frozen=True)
class Crop:
    """The part of a photo that shows: its middle, width and ratio (width by height)."""

    x: float = 0.5
    y: float = 0.5
    width: float = 1.0
    ratio: float = 1.0
    shape: str = "rectangle"
    corner: float = 0.0
    """Radius, as a share of its width."""


@dataclass(frozen=True)
class Laid:
    """A photo on the canvas: middle and width as shares of the canvas."""

    photo: str
    name: str
    x: float = 0.5
    y: float = 0.5
    width: float = 1.0
    turn: float = 0.0
    flipped: bool = False
    mode: str = "normal"
    opacity: float = 1.0
    crop: Crop | None = None
    onto: tuple[Spot, Spot, Spot, Spot] | None = None
    """Where its corners lie, from the top left clockwise, instead of all of that."""


@dataclass(frozen=True)
class LinedUp:
    """A photo that is there already is lined up with another by map coordinates."""

    name: str
    onto: str


@dataclass(frozen=True)
class Washed:
    """A gradient over everything, from a colour to clear; `x`, `y` as shares."""

    name: str
    color: str
    angle: float
    mode: str
    opacity: float
    y: float = 0.5
    length: float = 1.0


@dataclass(frozen=True)
class Together:
    """Layers that are laid over the rest as one."""

    name: str
    members: tuple[str, ...]
    mode: str


@dataclass(frozen=True)
class Colored:
    """One colour over everything."""

    name: str
    color: str
    mode: str = "normal"
    opacity: float = 1.0


@dataclass(frozen=True)
class Changed:
    """Any edit of a layer that is there already, or of several."""

    name: str
    kind: str
    values: dict[str, Any]
    several: tuple[str, ...] = ()


@dataclass(frozen=True)
class CutOut:
    """A photo that is there already loses its backdrop, found by itself."""

    name: str
    photo: str


@dataclass(frozen=True)
class Named:
    """The moment that is reached gets a name."""

    name: str


@dataclass(frozen=True)
class Mended:
    """Places of a photo that is there already are mended."""

    name: str
    dust: str
    """The file that says where its specks and scratches lie, in the photo's pixels."""
    size: float


@dataclass(frozen=True)
class Painted:
    """A colour is painted on a photo, by strokes of a brush of some size."""

    name: str
    onto: str
    color: str
    strokes: tuple[tuple[float, tuple[Spot, ...]], ...]


@dataclass(frozen=True)
class Matched:
    """A layer is matched to another one, by one of the ways that are offered."""

    name: str
    to: str
    way: str
    then: tuple[dict[str, Any], ...] = ()
    """Tones that come after it."""
    strength: float = 1.0


@dataclass(frozen=True)
class Said:
    """Words, in a font by its name; spots and sizes as shares of the canvas."""

    name: str
    """What they say."""
    font: str
    size: float
    """Of the em, as a share of the width."""
    x: float = 0.5
    y: float = 0.5
    """Of the first baseline."""
    setting: dict[str, Any] = field(default_factory=dict)
    words: dict[str, Any] = field(default_factory=dict)
    """Ink, contour and panel."""
    mode: str = "normal"
    onto: tuple[Spot, Spot, Spot, Spot] | None = None
    """Where the corners of their frame lie, from the top left clockwise."""


Step = (
    Laid
    | LinedUp
    | Washed
    | Together
    | Colored
    | Changed
    | CutOut
    | Named
    | Mended
    | Painted
    | Matched
    | Said
)


@dataclass(frozen=True)
class DemoProject:
    """A picture of the Lanternmoth Marionettes."""

    name: str
    width_cm: float
    height_cm: float
    ppi: float
    background: str
    layers: tuple[Step, ...]


def _toned(name: str, *tones: dict[str, Any]) -> Changed:
    """Return what tones a layer that is there already."""
    return Changed(name, "tone_layer", {"tones": tones})


def _toned_all(name: str, *tones: dict[str, Any]) -> Changed:
    """Return what tones everything that is there already."""
    return Changed(name, "add_toning", {"name": name, "tones": tones})


FOOTLIGHTS = (
    {"kind": "warmth", "warmth": 24},
    {"kind": "light", "brightness": -0.15, "contrast": 0.1},
)
"""As if a layer had stood in the light of the stage."""

POSTCARD = DemoProject(
    name="Evening postcard",
    width_cm=14.8,
    height_cm=10.5,
    ppi=300,
    background="#ffffff",
    layers=(
        Laid("forest-dusk.jpg", "Forest at dusk", width=1.07),
        Laid(
            "lantern-glow.jpg",
            "Lantern glow",
            y=0.5,
            width=1.05,
            mode="screen",
            opacity=0.9,
        ),
        Laid(
            "moths-on-white.jpg",
            "Moths",
            x=0.79,
            y=0.3,
            width=0.4,
            turn=-14,
            mode="color-burn",
            opacity=0.9,
        ),
        Laid(
            "misty-hills.jpg",
            "Misty hills",
            y=0.55,
            width=1.2,
            mode="soft-light",
            opacity=0.5,
        ),
        Washed("Night above", "#1d2150", angle=90, mode="multiply", opacity=0.8, y=0.3),
    ),
)

PROFILE = DemoProject(
    name="Forest in the profile",
    width_cm=24,
    height_cm=30,
    ppi=180,
    background="#ffffff",
    layers=(
        Laid("puppet-profile-studio.jpg", "Puppet in profile", width=1.0),
        Laid(
            "forest-dusk.jpg",
            "Forest at dusk",
            x=0.4,
            y=0.52,
            width=1.95,
            mode="screen",
        ),
    ),
)

OPENING = DemoProject(
    name="Opening night",
    width_cm=20.32,
    height_cm=11.43,
    ppi=240,
    background="#000000",
    layers=(
        Laid("stage-set.jpg", "Stage", width=1.1),
        Laid(
            "forest-dusk.jpg",
            "Forest at dusk",
            y=0.42,
            width=1.05,
            mode="soft-light",
            opacity=0.7,
        ),
        Laid(
            "lantern-glow.jpg",
            "Lanterns",
            y=0.5,
            width=1.1,
            flipped=True,
            mode="screen",
            opacity=0.6,
        ),
        Laid(
            "moths-on-white.jpg",
            "Moths",
            x=0.5,
            y=0.36,
            width=0.42,
            turn=8,
            mode="multiply",
            opacity=0.9,
        ),
    ),
)

POSTER = DemoProject(
    name="Season poster",
    width_cm=30,
    height_cm=40,
    ppi=150,
    background="#ffffff",
    layers=(
        Laid("puppet-profile-studio.jpg", "Puppet in profile", x=0.47, width=1.09),
        CutOut("Puppet in profile", "puppet-profile-studio.jpg"),
        Laid(
            "forest-dusk.jpg",
            "Forest at dusk",
            x=0.42,
            y=0.53,
            width=2.05,
            mode="screen",
        ),
        Changed(
            "Forest at dusk",
            "fade_layer",
            {"fades": [{"x": 1230, "y": 420, "length": 520, "angle": -90}]},
        ),
        Named("On white"),
        Laid(
            "misty-hills.jpg",
            "Misty hills",
            width=2.2,
            mode="multiply",
            opacity=0.3,
        ),
        Laid(
            "paper-texture.jpg",
            "Old paper",
            width=1.9,
            turn=90,
            mode="multiply",
            opacity=0.8,
        ),
        Laid(
            "lantern-glow.jpg",
            "Lanterns",
            x=0.52,
            y=0.52,
            width=1.95,
            flipped=True,
            mode="screen",
            opacity=0.32,
        ),
        Matched("Lanterns", "Forest at dusk", "Cast only"),
        Named("Without the moths"),
        Laid(
            "moths-on-white.jpg",
            "Moths",
            x=0.8,
            y=0.56,
            width=0.5,
            turn=-12,
            mode="darken",
        ),
        Laid(
            "moths-on-white.jpg",
            "Small moths",
            x=0.82,
            y=0.1,
            width=0.26,
            turn=24,
            flipped=True,
            mode="darken",
            opacity=0.85,
        ),
        Together("Moths in flight", ("Moths", "Small moths"), mode="darken"),
        Laid(
            "paper-texture.jpg",
            "Paper grain",
            width=1.9,
            turn=-90,
            mode="soft-light",
            opacity=0.4,
        ),
        Said(
            "Opening night",
            "Lobster",
            size=0.142,
            y=0.845,
            words={"ink": {"kind": "plain", "color": "#fbf1d8"}},
        ),
        Changed(
            "Opening night",
            "shade_layer",
            {
                "effects": [
                    {
                        "kind": "soft",
                        "distance": 6,
                        "softness": 26,
                        "strength": 0.6,
                        "color": "#2a1408",
                    }
                ]
            },
        ),
        Said(
            "The Lanternmoth Marionettes",
            "EB Garamond",
            size=0.05,
            y=0.905,
            setting={"features": ["smcp"], "letter_gap": 0.06},
            words={"ink": {"kind": "plain", "color": "#fbf1d8"}},
        ),
        _toned_all(
            "Printed",
            {"kind": "light", "blacks": 0.12, "contrast": 0.15},
            {"kind": "warmth", "warmth": 8},
        ),
    ),
)


def _circle(side: float, *, softness: float = 0, join: str = "add") -> dict[str, Any]:
    """Return a circle about the middle of the medallion."""
    name = f"{join}-{side:g}"
    size = {"width": side, "height": side, "softness": softness}
    return {"kind": "ellipse", "id": name, "join": join, "x": 900, "y": 900, **size}


def _ring(name: str, color: str, outer: float, inner: float) -> tuple[Any, ...]:
    hole = _circle(inner, join="take")
    return (
        Colored(name, color),
        Changed(name, "add_part", {"part": _circle(outer)}),
        Changed(name, "add_part", {"part": hole}),
    )


MEDALLION = DemoProject(
    name="Medallion",
    width_cm=15.24,
    height_cm=15.24,
    ppi=300,
    background="#efe6d2",
    layers=(
        Laid("paper-texture.jpg", "Paper", width=1.45, mode="multiply"),
        Laid("old-photo-keeper.jpg", "Keeper", x=0.5, y=0.63, width=0.86),
        Changed(
            "Keeper",
            "add_part",
            {
                "part": {
                    "kind": "ellipse",
                    "id": "rim",
                    "x": 800,
                    "y": 770,
                    "width": 1090,
                    "height": 1090,
                    "softness": 110,
                }
            },
        ),
        *_ring("Outer band", "#3b2414", 1500, 1432),
        *_ring("Gold band", "#b98a3a", 1420, 1300),
        *_ring("Inner band", "#3b2414", 1290, 1262),
        Laid(
            "moths-on-white.jpg",
            "Moths",
            x=0.77,
            y=0.2,
            width=0.34,
            turn=20,
            mode="multiply",
            opacity=0.85,
        ),
        Changed(
            "Moths",
            "fade_layer",
            {
                "fades": [
                    {
                        "shape": "sides",
                        "x": 850,
                        "y": 650,
                        "length": 850,
                        "aspect": 0.76,
                        "full": 0.7,
                    }
                ]
            },
        ),
    ),
)

TWO_SKIES = DemoProject(
    name="Two skies",
    width_cm=30,
    height_cm=13.5,
    ppi=180,
    background="#ffffff",
    layers=(
        Laid("misty-hills.jpg", "Misty hills", x=0.3, width=0.7),
        Laid("forest-dusk.jpg", "Forest at dusk", x=0.75, width=0.7),
        Changed(
            "Forest at dusk",
            "melt_photos",
            {"axis": "across", "overlap": 760},
            several=("Misty hills", "Forest at dusk"),
        ),
        _toned_all(
            "Brought back",
            {"kind": "light", "brightness": -0.2, "contrast": 0.35, "blacks": -0.2},
            {"kind": "coloring", "vibrance": 0.5},
        ),
    ),
)

TWICE = DemoProject(
    name="Twice on stage",
    width_cm=28,
    height_cm=17.6,
    ppi=220,
    background="#10343a",
    layers=(
        Laid("stage-set.jpg", "Stage", y=0.5, width=1.05),
        Laid(
            "puppet-facing-right.jpg",
            "Puppet at the right",
            x=0.72,
            y=0.62,
            width=0.5,
        ),
        CutOut("Puppet at the right", "puppet-facing-right.jpg"),
        Laid("puppet-facing-left.jpg", "Puppet at the left", x=0.33, y=0.62, width=0.5),
        CutOut("Puppet at the left", "puppet-facing-left.jpg"),
        Changed(
            "Puppet at the left",
            "fade_layer",
            {"fades": [{"x": 900, "y": 1750, "length": 700, "angle": 90}]},
        ),
        Changed(
            "Puppet at the left",
            "blend_layer",
            {"mode": "normal", "opacity": 0.85},
        ),
        Matched("Puppet at the right", "Stage", "Light and contrast", FOOTLIGHTS),
        Matched("Puppet at the left", "Stage", "Light and contrast", FOOTLIGHTS),
    ),
)

KIT = DemoProject(
    name="Puppet kit",
    width_cm=20,
    height_cm=15,
    ppi=240,
    background="#ffffff",
    layers=(
        Laid("workbench.jpg", "Workbench", width=1.14),
        Laid("puppet-kit-box.jpg", "Kit", x=0.52, y=0.56, width=0.72),
        CutOut("Kit", "puppet-kit-box.jpg"),
        Matched(
            "Kit",
            "Workbench",
            "All of it",
            ({"kind": "light", "whites": -0.15},),
        ),
        Changed(
            "Kit",
            "shade_layer",
            {
                "effects": [
                    {
                        "kind": "cast",
                        "direction": 25,
                        "length": 0.2,
                        "softness": 0.1,
                        "strength": 0.7,
                        "color": "#1c120b",
                    },
                ]
            },
        ),
        Said(
            "Make your own puppet",
            "Oswald bold",
            size=0.052,
            y=0.93,
            setting={"letter_gap": 0.02},
            words={
                "ink": {"kind": "plain", "color": "#fbf4e4"},
                "panel": {
                    "color": "#7a2b1d",
                    "opacity": 0.95,
                    "padding": 0.3,
                    "roundness": 1,
                },
            },
        ),
    ),
)

OLD_KEEPER = DemoProject(
    name="Old keeper, in colour",
    width_cm=16,
    height_cm=20.21,
    ppi=254,
    background="#f4ecd8",
    layers=(
        Laid("old-photo-keeper.jpg", "Keeper"),
        Mended("Keeper", dust="old-photo-keeper-dust.json", size=13),
        _toned("Keeper", {"kind": "monochrome", "reds": 0.1}),
        Painted(
            "Skin",
            "Keeper",
            "#c3a18d",
            (
                (150, ((660, 370), (760, 330), (880, 350))),
                (150, ((650, 450), (690, 520))),
                (130, ((720, 420), (720, 530))),
                (170, ((840, 430), (870, 520), (850, 580))),
                (110, ((900, 380), (920, 480))),
                (130, ((760, 640), (770, 690))),
                (110, ((745, 770), (820, 770))),
                (55, ((520, 1215), (495, 1245), (478, 1285))),
                (55, ((905, 1265), (935, 1270), (948, 1305))),
            ),
        ),
        Painted(
            "Coat",
            "Keeper",
            "#59667c",
            (
                (300, ((700, 1000), (850, 1000), (850, 1060))),
                (220, ((640, 930), (900, 930), (930, 1090), (650, 1100))),
                (120, ((590, 900), (570, 1000), (590, 1130))),
                (110, ((980, 890), (990, 1000), (960, 1120))),
                (130, ((505, 900), (465, 1010), (450, 1110), (470, 1180))),
                (140, ((1075, 900), (1110, 1020), (1110, 1130), (1060, 1190))),
            ),
        ),
        Painted(
            "Lantern",
            "Keeper",
            "#d0953c",
            (
                (190, ((1315, 1125), (1385, 1125))),
                (215, ((1350, 1125),)),
            ),
        ),
        Painted(
            "Carpet",
            "Keeper",
            "#9c3a3a",
            (
                (115, ((200, 1715), (430, 1715))),
                (115, ((170, 1785), (430, 1785))),
                (115, ((130, 1855), (440, 1855))),
                (100, ((660, 1715), (735, 1715))),
                (100, ((650, 1785), (740, 1785))),
                (100, ((640, 1855), (735, 1860))),
                (115, ((940, 1715), (1350, 1715))),
                (115, ((940, 1785), (1390, 1785))),
                (115, ((950, 1855), (1440, 1855))),
                (115, ((105, 1925), (1470, 1930))),
            ),
        ),
    ),
)

ON_THE_WALL = DemoProject(
    name="Poster on the wall",
    width_cm=22.352,
    height_cm=16.764,
    ppi=250,
    background="#ffffff",
    layers=(
        Laid("wall-poster-frame.jpg", "Wall"),
        Laid(
            "stage-set.jpg",
            "Stage",
            mode="multiply",
            opacity=0.94,
            crop=Crop(width=0.43, ratio=0.7),
            onto=(
                (0.3395, 0.1636),
                (0.5745, 0.2218),
                (0.5745, 0.7085),
                (0.3377, 0.7327),
            ),
        ),
        Said(
            "Tonight at eight",
            "Lobster",
            size=0.06,
            words={"ink": {"kind": "plain", "color": "#fbf0d0"}},
            onto=(
                (0.353, 0.602),
                (0.563, 0.589),
                (0.563, 0.668),
                (0.353, 0.69),
            ),
        ),
    ),
)

MEADOW = DemoProject(
    name="Spring and tent",
    width_cm=24.384,
    height_cm=18.288,
    ppi=250,
    background="#ffffff",
    layers=(
        Laid("meadow-spring.tif", "Meadow in spring"),
        Laid("meadow-tent.tif", "Meadow with the tent", width=0.7),
        LinedUp("Meadow with the tent", onto="Meadow in spring"),
        Named("The tent alone"),
        Changed(
            "Meadow with the tent",
            "fade_layer",
            {"fades": [{"x": 1150, "y": 870, "length": 240, "angle": 180}]},
        ),
    ),
)

NINE = (
    ("lantern-glow.jpg", "Lanterns", Crop(width=0.55)),
    ("stage-set.jpg", "Stage", Crop(width=0.5)),
    ("forest-dusk.jpg", "Forest", Crop(x=0.55, width=0.6)),
    ("puppet-facing-left.jpg", "Puppet", Crop(y=0.36, width=0.8)),
    ("puppet-kit-box.jpg", "Kit", Crop(y=0.55, width=0.7, shape="ellipse")),
    ("puppet-facing-right.jpg", "Puppet, turned", Crop(y=0.36, width=0.8)),
    ("misty-hills.jpg", "Hills", Crop(width=0.55)),
    ("workbench.jpg", "Workbench", Crop(x=0.4, width=0.6)),
    ("wall-poster-frame.jpg", "Wall", Crop(x=0.45, width=0.6)),
)
NAMES = tuple(name for _, name, _ in NINE)
ROWS = tuple(NAMES[at : at + 3] for at in (0, 3, 6))
COLUMNS = tuple(NAMES[at::3] for at in range(3))
THREE_BY_THREE = DemoProject(
    name="Three by three",
    width_cm=25,
    height_cm=25,
    ppi=150,
    background="#f1e8d6",
    layers=(
        # Roughly, and then brought into rows and columns by rule.
        *(
            Laid(
                photo,
                name,
                x=0.2 + 0.3 * (place % 3),
                y=0.2 + 0.3 * (place // 3),
                width=0.28,
                crop=crop,
            )
            for place, (photo, name, crop) in enumerate(NINE)
        ),
        *(
            Changed(
                row[0],
                "space_layers",
                {"axis": "across", "over": "canvas"},
                several=row,
            )
            for row in ROWS
        ),
        *(
            Changed(
                column[0],
                "space_layers",
                {"axis": "down", "over": "canvas"},
                several=column,
            )
            for column in COLUMNS
        ),
        *(
            Changed(row[0], "align_layers", {"side": "top", "to": "first"}, several=row)
            for row in ROWS
        ),
    ),
)

PROJECTS = (
    OPENING,
    POSTCARD,
    PROFILE,
    MEDALLION,
    TWO_SKIES,
    KIT,
    OLD_KEEPER,
    MEADOW,
    THREE_BY_THREE,
    ON_THE_WALL,
    TWICE,
    POSTER,
)


class DemoBuilder:
    """Speaks to a running Glyphaneme."""

    def __init__(self, address: str) -> None:
        self._http = httpx.Client(base_url=address, timeout=TIMEOUT_S)
        self._pictures: dict[str, dict[str, Any]] = {}

    def build_all(self) -> None:
        """Bring every photo in and make every project."""
        for photo in sorted([*PHOTOS.glob("*.jpg"), *PHOTOS.glob("*.tif")]):
            self._picture(photo.name)
        for project in PROJECTS:
            self._build(project)

    def _build(self, project: DemoProject) -> None:
        project_id = _id(project.name)
        canvas = {
            "width": round(project.width_cm / CM_PER_INCH * project.ppi),
            "height": round(project.height_cm / CM_PER_INCH * project.ppi),
            "ppi": project.ppi,
            "background": project.background,
        }
        state = self._post(
            "/api/projects", {"id": project_id, "name": project.name, "canvas": canvas}
        )
        head = state["head"]
        for place, laid in enumerate(project.layers):
            if isinstance(laid, Named):
                self._name(project_id, head, laid.name)
                continue
            if isinstance(laid, Said):
                head = self._say(project, canvas, laid, head)
                continue
            edits = (
                [self._lined_up(project, laid, head)]
                if isinstance(laid, LinedUp)
                else [self._matched(project, laid, head)]
                if isinstance(laid, Matched)
                else self._edits(project, canvas, laid)
            )
            for step, edit in enumerate(edits):
                key = _id(project.name, *_named(laid, place), str(step))
                answer = self._post(
                    f"/api/projects/{project_id}/edits",
                    {"key": key, "parent": head, "edit": edit},
                )
                head = answer["state"]["head"]

    def _name(self, project_id: str, moment: str, name: str) -> None:
        address = f"/api/projects/{project_id}/versions/{moment}"
        self._http.put(address, json={"name": name}).raise_for_status()

    def _edits(
        self,
        project: DemoProject,
        canvas: dict[str, Any],
        step: Laid | Washed | Together | Colored | Changed | CutOut | Mended | Painted,
    ) -> list[dict[str, Any]]:
        """Return the edits that make a step."""
        layer_id = _id(project.name, step.name)
        if isinstance(step, Changed):
            return [_changed(project, step, layer_id)]
        if isinstance(step, CutOut):
            return self._cut(step, layer_id)
        if isinstance(step, Mended):
            return list(_mended(step, layer_id))
        if isinstance(step, Painted):
            return list(_painted(project, step, layer_id))
        if isinstance(step, Laid):
            edits = self._laid(canvas, step, layer_id)
            strength = step.opacity
        elif isinstance(step, Washed):
            edits = [_washed(canvas, step, layer_id)]
            strength = step.opacity
        elif isinstance(step, Colored):
            color = {"name": step.name, "color": step.color}
            edits = [{"kind": "add_color", "layer_id": layer_id, **color}]
            strength = step.opacity
        else:
            members = [_id(project.name, name) for name in step.members]
            edits = [
                {
                    "kind": "group_layers",
                    "group_id": layer_id,
                    "name": step.name,
                    "layer_ids": members,
                }
            ]
            strength = 1.0
        if (step.mode, strength) != ("normal", 1):
            blend = {"mode": step.mode, "opacity": strength}
            edits.append({"kind": "blend_layer", "layer_id": layer_id, **blend})
        return edits

    def _laid(
        self, canvas: dict[str, Any], laid: Laid, layer_id: str
    ) -> list[dict[str, Any]]:
        picture = self._picture(laid.photo)
        crop = None if laid.crop is None else _cropped(laid.crop, picture)
        frame = crop or picture
        scale = laid.width * canvas["width"] / frame["width"]
        placement = {
            "x": laid.x * canvas["width"],
            "y": laid.y * canvas["height"],
            "scale_x": scale,
            "scale_y": scale,
            "turn": laid.turn,
            "flipped": laid.flipped,
            "crop": crop,
            **({} if laid.onto is None else _cornered(laid.onto, canvas, frame)),
        }
        add = {
            "kind": "add_layer",
            "layer_id": layer_id,
            "picture": picture["id"],
            "name": laid.name,
            "width": picture["width"],
            "height": picture["height"],
        }
        place = {"kind": "place_layer", "layer_id": layer_id, "placement": placement}
        return [add, place]

    def _say(
        self, project: DemoProject, canvas: dict[str, Any], step: Said, head: str
    ) -> str:
        """Lay words on; where their font was not fetched, do without them."""
        fonts = self._http.get("/api/fonts").json()["fonts"]
        font = next((one for one in fonts if one["name"] == step.font), None)
        if font is None or not font["is_here"]:
            return head
        layer_id = _id(project.name, step.name)
        setting = {
            "text": step.name,
            "fonts": [{"id": font["id"], "name": font["name"]}],
            "size": step.size * canvas["width"],
            "align": "middle",
            **step.setting,
        }
        at = [step.x * canvas["width"], step.y * canvas["height"]]
        edits: list[dict[str, Any]] = [
            {
                "kind": "add_words",
                "layer_id": layer_id,
                "words": {"setting": setting, **step.words},
                "at": at,
            }
        ]
        if step.mode != "normal":
            blend = {"mode": step.mode, "opacity": 1.0}
            edits.append({"kind": "blend_layer", "layer_id": layer_id, **blend})
        state: dict[str, Any] = {}
        for place, edit in enumerate(edits):
            state = self._edit(project, f"{step.name}/{place}", head, edit)
            head = state["head"]
        if step.onto is None:
            return head
        (layer,) = (
            one for one in state["composite"]["layers"] if one["id"] == layer_id
        )
        placement = _cornered(step.onto, canvas, layer)
        place_it = {
            "kind": "place_layer",
            "layer_id": layer_id,
            "placement": placement,
        }
        state = self._edit(project, f"{step.name}/placed", head, place_it)
        return str(state["head"])

    def _edit(
        self, project: DemoProject, name: str, head: str, edit: dict[str, Any]
    ) -> Any:  # noqa: ANN401  # JSON
        """Make one edit; return the state after it."""
        key = _id(project.name, name, "edit")
        address = f"/api/projects/{_id(project.name)}/edits"
        answer = self._post(address, {"key": key, "parent": head, "edit": edit})
        return answer["state"]

    def _lined_up(
        self, project: DemoProject, step: LinedUp, head: str
    ) -> dict[str, Any]:
        """Have a photo lined up with another."""
        moving, fixed = (_id(project.name, one) for one in (step.name, step.onto))
        answer = self._post(
            f"/api/projects/{_id(project.name)}/alignments",
            {
                "revision": head,
                "request": {"moving": moving, "fixed": fixed, "by": "map"},
            },
        )
        place = {"layer_id": moving, "placement": answer["found"]["placement"]}
        return {"kind": "place_layers", "places": [place], "deed": "lined up"}

    def _matched(
        self, project: DemoProject, step: Matched, head: str
    ) -> dict[str, Any]:
        """Have a layer matched to another."""
        layer_id, to = (_id(project.name, one) for one in (step.name, step.to))
        found = self._post(
            f"/api/projects/{_id(project.name)}/matches",
            {"revision": head, "layer_id": layer_id, "place": 0, "to": to},
        )
        tone = next(
            one["tone"]
            for one in found["offers"]
            if (one["title"], one["strength"]) == (step.way, step.strength)
        )
        return {
            "kind": "tone_layer",
            "layer_id": layer_id,
            "tones": [tone, *step.then],
        }

    def _cut(self, step: CutOut, layer_id: str) -> list[dict[str, Any]]:
        """Have a backdrop found; without a network the photo stays whole."""
        picture = self._picture(step.photo)["id"]
        answer = self._http.post(f"/api/pictures/{picture}/mattes", json={})
        if answer.status_code == httpx.codes.CONFLICT:
            return []
        answer.raise_for_status()
        found = answer.json()["found"] or self._found(answer.json()["job"]["id"])
        part = {
            "kind": "matte",
            "id": "backdrop",
            "picture": picture,
            "matte": found["matte"],
            "level": found["level"],
        }
        return [{"kind": "cut_out", "layer_id": layer_id, "part": part}]

    def _found(self, job_id: str) -> Any:  # noqa: ANN401  # JSON
        """Wait until a job is done, and return what it found.

        Raises
        ------
        TimeoutError
            It did not end.
        """
        for _ in range(round(TIMEOUT_S / ASK_AGAIN_S)):
            answer = self._http.get(f"/api/jobs/{job_id}")
            answer.raise_for_status()
            job = answer.json()
            if job["state"] == "done":
                return job["found"]
            time.sleep(ASK_AGAIN_S)
        raise TimeoutError(job_id)

    def _picture(self, name: str) -> dict[str, Any]:
        if name not in self._pictures:
            with (PHOTOS / name).open("rb") as file:
                answer = self._http.post("/api/pictures", files={"file": (name, file)})
            answer.raise_for_status()
            self._pictures[name] = answer.json()
        return self._pictures[name]

    def _post(self, path: str, body: dict[str, Any]) -> Any:  # noqa: ANN401  # JSON
        answer = self._http.post(path, json=body)
        answer.raise_for_status()
        return answer.json()


def _cropped(crop: Crop, picture: dict[str, Any]) -> dict[str, Any]:
    width = crop.width * picture["width"]
    return {
        "x": crop.x * picture["width"],
        "y": crop.y * picture["height"],
        "width": width,
        "height": width / crop.ratio,
        "shape": crop.shape,
        "corner": crop.corner * width,
    }


def _cornered(
    onto: tuple[Spot, ...], canvas: dict[str, Any], frame: dict[str, Any]
) -> dict[str, Any]:
    """Lay a frame over the box round four spots, and pull its corners to them."""
    across = [x * canvas["width"] for x, _ in onto]
    down = [y * canvas["height"] for _, y in onto]
    left, top = min(across), min(down)
    width, height = max(across) - left, max(down) - top
    names = ("top_left", "top_right", "bottom_right", "bottom_left")
    homes = ((0, 0), (1, 0), (1, 1), (0, 1))
    pulls = {
        name: ((x - left) / width - home_x, (y - top) / height - home_y)
        for name, x, y, (home_x, home_y) in zip(names, across, down, homes, strict=True)
    }
    return {
        "x": left + width / 2,
        "y": top + height / 2,
        "scale_x": width / frame["width"],
        "scale_y": height / frame["height"],
        "corners": pulls,
    }


def _washed(canvas: dict[str, Any], washed: Washed, layer_id: str) -> dict[str, Any]:
    gradient = {
        "x": canvas["width"] / 2,
        "y": washed.y * canvas["height"],
        "length": washed.length * canvas["height"],
        "angle": washed.angle,
        "start": {"color": washed.color},
        "end": {"color": washed.color, "opacity": 0},
    }
    return {
        "kind": "add_gradient",
        "layer_id": layer_id,
        "name": washed.name,
        "gradient": gradient,
    }


def _changed(project: DemoProject, step: Changed, layer_id: str) -> dict[str, Any]:
    if step.several:
        layers = [_id(project.name, name) for name in step.several]
        return {"kind": step.kind, "layer_ids": layers, **step.values}
    return {"kind": step.kind, "layer_id": layer_id, **step.values}


def _mended(step: Mended, layer_id: str) -> Iterator[dict[str, Any]]:
    dust = json.loads((PHOTOS / step.dust).read_text())
    ways = [*([speck] for speck in dust["specks"]), *dust["scratches"]]
    for place, points in enumerate(ways):
        mend = {"id": f"mend-{place}", "points": points, "size": step.size}
        yield {"kind": "mend_photo", "layer_id": layer_id, "mend": mend}


def _painted(
    project: DemoProject, step: Painted, layer_id: str
) -> Iterator[dict[str, Any]]:
    part = {"part_id": "brushed"}
    yield {
        "kind": "color_by_brush",
        "layer_id": _id(project.name, step.onto),
        "color_id": layer_id,
        "group_id": _id(project.name, step.onto, "in colour"),
        "name": step.name,
        "color": step.color,
        **part,
    }
    for size, way in step.strokes:
        points = [(x, y, 1) for x, y in way]
        brush = {"size": size, "softness": 0.5, "strength": 0.8, "shows": True}
        stroke = {"points": points, **brush}
        yield {"kind": "paint_stroke", "layer_id": layer_id, "stroke": stroke, **part}


def _named(step: Step, place: int) -> list[str]:
    """Name a step: a layer is laid on once, but may be changed several times."""
    again = isinstance(step, Changed | CutOut | LinedUp | Mended | Matched)
    return [step.name, str(place)] if again else [step.name]


def _id(*names: str) -> str:
    return str(uuid.uuid5(WORLD, "/".join(names)))


if __name__ == "__main__":
    DemoBuilder(sys.argv[1]).build_all()

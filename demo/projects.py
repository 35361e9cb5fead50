"""The pictures of the Lanternmoth Marionettes, step by step."""

from __future__ import annotations

from typing import Any

from steps import (
    Changed,
    Colored,
    Crop,
    CutOut,
    DemoProject,
    Laid,
    LinedUp,
    Matched,
    Mended,
    Named,
    Painted,
    Planned,
    Said,
    Together,
    Washed,
)


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
    about={
        "title": "Opening night",
        "author": "Lanternmoth Marionettes",
        "description": "The poster of the season.",
        "alt": "A puppet in profile, and inside it a forest at dusk; moths fly away.",
    },
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

PLANNED = (
    Planned("December at the stage", "sheet-with-words", {"photo": ("stage-set.jpg",)}),
    Planned("Kit on white", "product-on-white", {"product": ("puppet-kit-box.jpg",)}),
    Planned(
        "Keeper and apprentice",
        "two-together",
        {
            "one": ("old-photo-keeper.jpg",),
            "other": ("old-photo-apprentice.jpg",),
            "backdrop": ("paper-texture.jpg",),
        },
    ),
)
"""Made by plans: whoever opens them is led to the same with other photos."""

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

"""Writes a history of every kind of edit, as this version stores it.

Run once for each released version, and keep what it writes:
`PYTHONPATH=src python -m tools.write_golden_history tests/golden/version-9.jsonl`
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

from glyphaneme.core.document import Canvas, Composite, store_composite
from glyphaneme.core.edits import apply, decided, parse_edit, store_edit

Fields = dict[str, object]

CANVAS = {"width": 1200, "height": 900, "ppi": 240.0, "background": "#f5f1e8"}
GLOW = {
    "shape": "round",
    "x": 600,
    "y": 400,
    "length": 700,
    "start": {"color": "#ffb060"},
    "end": {"color": "#203050", "opacity": 0},
}
AT_THE_EDGE = {**GLOW, "shape": "linear", "x": 199_995, "y": -199_999, "angle": 30}

MOON = {
    "kind": "ellipse",
    "id": "moon",
    "x": 300,
    "y": 200,
    "width": 240,
    "height": 240,
    "softness": 40,
}
CARD = {
    "kind": "rectangle",
    "id": "card",
    "join": "keep",
    "x": 400,
    "y": 250,
    "width": 600,
    "height": 300,
    "turn": 12,
    "corner": 30,
    "inverted": True,
}
STROKE = {"points": [[100, 200, 1], [300, 250, 0.5]], "size": 80, "softness": 0.4}
IN_THE_PUPPET = {"kind": "layer", "id": "in", "layer_id": "puppet"}
BACKDROP = {
    "kind": "matte",
    "id": "found",
    "picture": "picture-of-puppet",
    "matte": "0123456789abcdef" * 4,
    "level": 1,
}
SAID = {
    "around": [[10, 10], [700, 20.5], [400, 1500]],
    "strokes": [{"keeps": True, "size": 40, "points": [[100, 100], [200, 300]]}],
}
FONTS = [{"id": "a1" * 32, "name": "Lobster"}, {"id": "b2" * 32, "name": "Amiri"}]
TITLE = {
    "setting": {"text": "Opening night", "fonts": FONTS[:1], "size": 90, "width": 640},
    "ink": {"kind": "plain", "color": "#f5f1e8"},
}
LARGER = {
    "setting": {
        "text": "Opening\nnight",
        "fonts": FONTS[:1],
        "axes": [{"tag": "wght", "value": 650}],
        "size": 120,
        "align": "middle",
        "letter_gap": -0.05,
        "line_gap": 0.9,
        "ligatures": False,
        "features": ["smcp", "swsh"],
        "form": {"kind": "circle", "radius": 300, "start": 20, "inside": True},
    },
    "ink": {"kind": "blended", "start": "#ff8000", "end": "#400020", "each": True},
}
MEASURED = {
    "fonts": FONTS,
    "width": 640,
    "height": 131,
    "block": [12.5, 4, 612.5, 112],
    "baselines": [88.25],
    "capital": 67.5,
}
LIFE_SIZE = {"y": 90, "scale_x": 1, "scale_y": 1}
ROUND_CROP = {
    "x": 420,
    "y": 380,
    "width": 500,
    "height": 400,
    "zoom": 1.25,
    "turn": 12,
    "shape": "ellipse",
}
LEANING = {"top_right": [-0.1, 0.15], "bottom_left": [0.05, 0]}
BELLIED = {"moves": [[0, 0], [0, 0.08], [0, 0]] * 3}
EFFECTS = [
    {"kind": "cast", "direction": -40, "tilt": 8, "lift": 0.02, "contact": 0.5},
    {"kind": "soft", "distance": 30, "angle": 90, "color": "#302010"},
    {"kind": "outline", "width": 4, "softness": 1.5, "strength": 0.8, "works": False},
]
TONES = [
    {"kind": "light", "exposure": 0.5, "contrast": 0.3, "shadows": -0.2},
    {"kind": "levels", "red": {"darkest": 0.1, "middle": 1.4, "low": 0.05}},
    {"kind": "curves", "all": [[0, 0.1], [0.4, 0.5], [1, 0.9]]},
    {"kind": "warmth", "warmth": 35, "tint": -4},
    {"kind": "coloring", "saturation": -0.2, "vibrance": 0.4, "turn": 15},
    {"kind": "one_hue", "hue": 250, "width": 80, "lightness": -0.3},
    {"kind": "monochrome", "reds": 0.9, "tint": "#a0703c", "tinted": 0.3},
    {"kind": "sharpen", "amount": 1.5, "radius": 2.5, "threshold": 4},
    {"kind": "blur", "radius": 12.5},
    {"kind": "lens", "radius": 30, "shine": 0.8},
    {"kind": "clarity", "amount": -0.4, "radius": 60},
    {"kind": "painterly", "brush": 24, "detail": 0.75},
    {"kind": "grain", "amount": 0.1, "size": 3},
]
TO_THE_LEFT = {"x": 200, "y": 250, "length": 180, "angle": 180}
ALL_ROUND = {
    "shape": "sides",
    "x": 450,
    "y": 300,
    "length": 500,
    "aspect": 0.6,
    "full": 0.4,
    "roundness": 0.5,
    "curve": "late",
}


def photo(layer_id: str, name: str, width: int, height: int, **more: object) -> Fields:
    """Return an edit that lays a photo on."""
    facts = {"layer_id": layer_id, "name": name, "width": width, "height": height}
    return {"kind": "add_layer", "picture": f"picture-of-{layer_id}"} | facts | more


def placed(layer_id: str, x: float, y: float, scale: float, **more: object) -> Fields:
    """Return an edit that places a layer."""
    place = {"x": x, "y": y, "scale_x": scale, "scale_y": scale, **more}
    return {"kind": "place_layer", "layer_id": layer_id, "placement": place}


def of(kind: str, layer_id: str, **more: object) -> Fields:
    """Return an edit of one layer."""
    return {"kind": kind, "layer_id": layer_id, **more}


def group(group_id: str, name: str, *layer_ids: str, **more: object) -> Fields:
    """Return an edit that groups layers."""
    named = {"group_id": group_id, "name": name, "layer_ids": layer_ids}
    return {"kind": "group_layers", **named, **more}


STEPS = [
    photo("hills", "Hills", 4000, 3000),
    photo("moths", "Moths", 900, 500, at=(300.5, 200.25)),
    photo("puppet", "Puppet 7", 800, 1600, index=1),
    photo("banner", "Banner", 30_000, 40),
    of("add_color", "dusk", name="Dusk", color="#203040", index=0),
    of("add_gradient", "glow", name="Glow", gradient=GLOW),
    of("blend_layer", "moths", mode="multiply", opacity=0.75),
    of("blend_layer", "glow", mode="screen", opacity=0.4),
    placed("moths", 400, 300, 0.6, turn=-12.5, flipped=True),
    placed("puppet", 700.5, 450.25, 0.33, upended=True),
    of("duplicate_layer", "moths", copy_id="moths-again"),
    of("duplicate_layer", "moths-again", copy_id="moths-thrice"),
    of("duplicate_layer", "puppet", copy_id="puppet-again"),
    of("duplicate_layer", "glow", copy_id="glow-again"),
    of("grade_layer", "glow", gradient={**GLOW, "angle": 200, "shape": "linear"}),
    of("tint_layer", "dusk", color="#a8412a"),
    of("name_layer", "banner", name="Ünïcode 旗 99"),
    of("duplicate_layer", "banner", copy_id="banner-again"),
    of("name_layer", "banner", name="N" * 120),
    of("duplicate_layer", "banner", copy_id="banner-thrice"),
    group("flock", "Flock", "moths", "moths-again"),
    placed("flock", 500, 350, 0.8, turn=20, flipped=True),
    of("blend_layer", "flock", mode="luminosity", opacity=0.9),
    of("move_layer", "moths-thrice", index=1, into="flock"),
    of("move_layer", "glow-again", index=0, into="flock"),
    group("crowd", "Crowd", "flock", "puppet", mode="lighten"),
    placed("crowd", 610, 440, 1.25, turn=-45, upended=True),
    of("duplicate_layer", "crowd", copy_id="crowd-again"),
    of("move_layer", "moths", index=9),
    of("dissolve_group", "flock"),
    of("show_layer", "dusk", visible=False),
    of("lock_layer", "hills", locked=True),
    of("duplicate_layer", "hills", copy_id="hills-again"),
    of("lock_layer", "hills", locked=False),
    of("remove_layer", "hills"),
    {
        "kind": "set_canvas",
        "canvas": {**CANVAS, "width": 2000, "background": None},
        "shift_x": 400,
        "shift_y": -20.5,
    },
    of("dissolve_group", "crowd-again"),
    {"kind": "set_canvas", "canvas": CANVAS, "shift_x": -400, "shift_y": 20.5},
    of("add_gradient", "edge", name="Edge", gradient=AT_THE_EDGE),
    of("duplicate_layer", "edge", copy_id="edge-again"),
    of("duplicate_layer", "edge-again", copy_id="edge-thrice"),
    of("move_layer", "glow", index=0),
    of("name_layer", "puppet-again", name="Puppet, again"),
    placed("banner", -150_000.5, 120_000, 3, turn=359),
    of("duplicate_layer", "banner", copy_id="banner-fourth"),
    group("far", "Far", "banner", "banner-fourth"),
    placed("far", 100, 100, 0.002),
    of("move_layer", "banner-fourth", index=3),
    of("remove_layer", "dusk"),
    {"kind": "tint_sheet", "background": "#123456"},
    {"kind": "tint_sheet", "background": None},
    of("add_part", "moths", part=MOON),
    of("add_part", "moths", part=CARD, index=0),
    of("move_part", "moths", part_id="moon", index=0),
    of("change_part", "moths", part={**CARD, "works": False}),
    of("settle_mask", "moths", inverted=True, strength=0.75),
    of("add_part", "moths", part=IN_THE_PUPPET),
    of("settle_mask", "moths", inverted=True, strength=0.75, grown=-2, softened=3),
    of("link_mask", "moths", linked=False),
    placed("moths", 500, 350, 0.7, turn=33),
    of("copy_mask", "hills-again", from_id="moths"),
    of("link_mask", "moths", linked=True),
    of("add_part", "glow", part={**MOON, "join": "take"}),
    of("fade_layer", "moths", fades=[TO_THE_LEFT, {**ALL_ROUND, "linked": False}]),
    of("fade_layer", "glow", fades=[TO_THE_LEFT]),
    of("copy_fades", "puppet", from_id="moths"),
    group("masked", "Masked", "moths", "glow"),
    placed("masked", 480, 320, 0.9, turn=-20, flipped=True),
    of("duplicate_layer", "masked", copy_id="masked-again"),
    of("copy_mask", "masked-again", from_id="moths"),
    of("dissolve_group", "masked"),
    {
        "kind": "set_canvas",
        "canvas": {**CANVAS, "width": 1500},
        "shift_x": 150,
        "shift_y": 10,
    },
    of("remove_part", "glow", part_id="moon"),
    of("paint_stroke", "puppet", part_id="brush", stroke=STROKE),
    of("paint_stroke", "puppet", part_id="brush", stroke={**STROKE, "shows": True}),
    of("cut_out", "puppet", part=BACKDROP),
    of("settle_mask", "puppet", inverted=False, strength=1, cleaned=0.4),
    of("cut_out", "puppet", part={**BACKDROP, "way": "gaps", "hints": SAID}),
    of("cut_out", "puppet", part={**BACKDROP, "id": "second"}),
    of("copy_mask", "hills-again", from_id="puppet"),
    of("drop_mask", "puppet"),
    photo("west", "West", 900, 700, at=(200, 300)),
    photo("east", "East", 800, 800, at=(700, 300)),
    {"kind": "melt_photos", "layer_ids": ["west", "east"], "overlap": 120},
    placed("west", 300, 250, 0.8, turn=5, crop=ROUND_CROP),
    placed("west", 300, 250, 0.8, turn=5, crop=ROUND_CROP, corners=LEANING),
    placed("west", 300, 250, 0.8, crop=ROUND_CROP, corners=LEANING, bend=BELLIED),
    placed("east", 700, 350, 0.6, corners=LEANING),
    {
        "kind": "set_canvas",
        "canvas": {**CANVAS, "width": 900, "height": 700, "ppi": 150},
        "shift_x": -20,
        "shift_y": 30,
        "scale": 0.75,
        "turn": -2.5,
    },
    {
        "kind": "place_layers",
        "places": [
            {
                "layer_id": one,
                "placement": {"x": x, "y": 90, "scale_x": 1, "scale_y": 1},
            }
            for one, x in (("west", 200), ("east", 500))
        ],
        "deed": "lined up",
    },
    {"kind": "align_layers", "layer_ids": ["west", "east"], "side": "top"},
    {"kind": "align_layers", "layer_ids": ["east"], "side": "right", "to": "canvas"},
    {
        "kind": "space_layers",
        "layer_ids": ["west", "east"],
        "axis": "down",
        "over": "canvas",
    },
    of("add_part", "west", part=MOON),
    of(
        "exchange_photo",
        "west",
        picture="picture-of-south",
        name="South",
        width=640,
        height=800,
    ),
    of("tone_layer", "west", tones=TONES),
    of("copy_tones", "puppet", from_id="west"),
    of("add_toning", "all", name="All of it", tones=TONES[:2]),
    of("tone_layer", "all", tones=[*TONES[::-1], {"kind": "invert", "works": False}]),
    of("add_part", "all", part={**MOON, "join": "take"}),
    group("toned", "Toned", "west", "all"),
    of("tone_layer", "toned", tones=TONES[3:5]),
    of("dissolve_group", "toned"),
    of("shade_layer", "puppet", effects=EFFECTS),
    of("shade_layer", "west", effects=[{"kind": "soft"}, {"kind": "outline"}]),
    of(
        "color_by_brush",
        "west",
        color_id="skin",
        group_id="tinted",
        part_id="brushed",
        name="Skin",
        color="#c98f6b",
    ),
    of("shade_layer", "tinted", effects=EFFECTS[1:]),
    of("mend_photo", "west", mend={"id": "dust", "points": [[40, 60]], "size": 9}),
    of(
        "mend_photo",
        "west",
        mend={"id": "wire", "points": [[20, 20], [90, 35.5], [200, 80]], "size": 6},
    ),
    of("switch_mend", "west", mend_id="dust", works=False),
    of("remove_mend", "west", mend_id="wire"),
    of("dissolve_group", "tinted"),
    of("add_mending", "repairs", name="Repairs"),
    of("mend_photo", "repairs", mend={"id": "a", "points": [[30, 90]], "size": 12}),
    of(
        "mend_photo",
        "repairs",
        mend={"id": "b", "points": [[200, 30], [380.5, 95]], "size": 5},
    ),
    {
        "kind": "set_canvas",
        "canvas": {**CANVAS, "width": 1000},
        "shift_x": 15,
        "shift_y": -8,
        "scale": 1.25,
        "turn": 3,
    },
    of("switch_mend", "repairs", mend_id="b", works=False),
    of("add_color", "cloth", name="Cloth", color="#705040", index=9),
    group("mended", "Mended", "cloth", "repairs"),
    placed("mended", 520, 330, 0.8, turn=15),
    of("dissolve_group", "mended"),
    of("remove_mend", "repairs", mend_id="a"),
    of("add_words", "title", words=TITLE, measure=MEASURED, at=[300, 200]),
    placed("title", 420, 250, 1.5, turn=-6),
    of("set_words", "title", words=LARGER, measure={**MEASURED, "width": 420}),
    group("titled", "Titled", "title", "cloth"),
    of(
        "set_words",
        "title",
        words={**LARGER, "panel": {"softness": 0.2}, "contour": {"side": "inside"}},
        measure={**MEASURED, "lacking": "\u4e16", "lent": ["Amiri"]},
    ),
]


def main(target: Path) -> None:
    """Write the history: first what it begins with, then a line for each step."""
    state = Composite(canvas=Canvas.model_validate(CANVAS))
    lines: list[Fields] = [store_composite(state)]
    for step in STEPS:
        edit = decided(state, parse_edit(step))
        state = apply(state, edit)
        lines.append({"edit": store_edit(edit), "after": store_composite(state)})
    text = "".join(json.dumps(line, ensure_ascii=False) + "\n" for line in lines)
    target.write_text(text)


if __name__ == "__main__":
    main(Path(sys.argv[1]))

"""Builds the demo projects through the public HTTP interface, and nothing else.

Ids are made from names, so that running it again changes nothing.
"""

from __future__ import annotations

import json
import sys
import time
import uuid
from pathlib import Path
from typing import TYPE_CHECKING, Any

import httpx
from projects import PLANNED, PROJECTS
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
    Spot,
    Step,
    Together,
    Washed,
)

if TYPE_CHECKING:
    from collections.abc import Iterator

PHOTOS = Path(__file__).parent
WORLD = uuid.UUID("6d6f7468-6c61-4e74-8e72-6e6d6f746873")
TIMEOUT_S = 120.0
ASK_AGAIN_S = 0.2
CM_PER_INCH = 2.54


class DemoBuilder:
    """Speaks to a running Glyphaneme."""

    def __init__(self, address: str) -> None:
        self._http = httpx.Client(base_url=address, timeout=TIMEOUT_S)
        self._pictures: dict[str, dict[str, Any]] = {}

    def build_all(self) -> None:
        """Bring every photo in and make every project."""
        for photo in sorted([*PHOTOS.glob("*.jpg"), *PHOTOS.glob("*.tif")]):
            self._picture(photo.name)
        for planned in PLANNED:
            self._plan(planned)
        for project in PROJECTS:
            self._build(project)

    def _plan(self, planned: Planned) -> None:
        photos = {
            slot: [self._picture(file)["id"] for file in files]
            for slot, files in planned.photos.items()
        }
        filling = {"photos": photos, "words": planned.words, "name": planned.name}
        address = f"/api/plans/{planned.plan}/projects"
        self._post(address, {"id": _id(planned.name), "filling": filling})

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

        if project.about is not None:
            address = f"/api/projects/{project_id}/about"
            self._http.put(address, json=project.about).raise_for_status()

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

from __future__ import annotations

import contextlib
import http.client
import json
import os
import shutil
import subprocess
import sys
import threading
import urllib.request
import uuid
from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np
import pytest
from PIL import Image

from tests.product import Product, wait_for
from tests.tiny_network import write_network

if TYPE_CHECKING:
    from collections.abc import Iterator

    from tests.databases import Databases

CANVAS = {"width": 6000, "height": 6000, "ppi": 240, "background": "#ffffff"}


@pytest.fixture
def product(databases: Databases) -> Iterator[Product]:
    url = databases.prepared()
    product = Product(url)
    product.start()
    yield product
    product.close()
    databases.drop(url)


@pytest.fixture
def whole_product() -> Iterator[Product]:
    """With a database server of its own, as people run it."""
    product = Product()
    product.start()
    yield product
    product.close()


def begin(product: Product) -> dict:
    return product.post("/api/projects", {"name": "Poster", "canvas": CANVAS})


def add_edit(product: Product, project: dict, width: int) -> dict:
    edit = {"kind": "set_canvas", "canvas": {**CANVAS, "width": width}}
    body = {"key": str(uuid.uuid4()), "parent": project["head"], "edit": edit}
    return product.post(f"/api/projects/{project['id']}/edits", body)["state"]


def test_everything_acknowledged_survives_kill_9_of_all_processes(
    whole_product: Product,
) -> None:
    state = begin(whole_product)
    for width in (5000, 4000, 3000):
        state = add_edit(whole_product, state, width)
    undone = whole_product.post(
        f"/api/projects/{state['id']}/standing",
        {"to": state["undo_to"], "came_from": state["head"]},
    )

    whole_product.kill_launcher()
    whole_product.kill()
    wait_for(lambda: not whole_product.processes())
    whole_product.start()

    found = whole_product.get(f"/api/projects/{state['id']}")
    assert found == undone
    assert found["redo_to"] == state["head"]


def test_strokes_are_kept_once_each_through_kill_9_between_and_while_they_come(
    product: Product,
) -> None:
    def paint(project: dict, number: int, key: str) -> dict:
        points = [[100 * number, 100, 1], [100 * number, 5900, 1]]
        stroke = {"points": points, "size": 150, "shows": number % 3 == 2}
        edit = {"kind": "paint_stroke", "layer_id": "w", "part_id": "p"}
        body = {"key": key, "parent": project["head"]}
        body["edit"] = {**edit, "stroke": stroke}
        return product.post(f"/api/projects/{project['id']}/edits", body)["state"]

    def with_wash() -> dict:
        project = begin(product)
        wash = {"layer_id": "w", "name": "Wash", "color": "#204060"}
        body = {"key": str(uuid.uuid4()), "parent": project["head"]}
        body["edit"] = {"kind": "add_color", **wash}
        return product.post(f"/api/projects/{project['id']}/edits", body)["state"]

    def mask(project: dict) -> bytes:
        view = {"x": 0, "y": 0, "width": 300, "height": 300, "scale": 0.05}
        asked = {"revision": project["head"], "view": {**view, "mask_of": "w"}}
        return product.fetch(f"/api/projects/{project['id']}/frame", asked)

    killed, calm = with_wash(), with_wash()
    for number in range(1, 13):
        calm = paint(calm, number, str(uuid.uuid4()))
        key, again = str(uuid.uuid4()), True
        # The answer may be on its way, the work half done, or nothing begun.
        slayer = threading.Timer(0.002 * number, product.kill, ["glyphaneme web"])
        if number % 4 == 0:
            slayer.start()
        while again:
            try:
                killed, again = paint(killed, number, key), False
            except (OSError, http.client.HTTPException):
                product.wait_until_open()
        if number % 4 == 0:
            slayer.join()
            product.wait_until_open()

    [part] = killed["composite"]["layers"][0]["mask"]["parts"]
    assert part["strokes"] == 12
    assert mask(killed) == mask(calm)


def test_web_server_killed_alone_is_started_again(product: Product) -> None:
    state = begin(product)

    product.kill("glyphaneme web")
    product.wait_until_open()

    assert add_edit(product, state, 1234)["composite"]["canvas"]["width"] == 1234


def test_work_of_a_killed_worker_is_taken_up_again(product: Product) -> None:
    state = begin(product)
    request = {"revision": state["head"], "format": "png", "width": 6000}
    job = product.post(f"/api/projects/{state['id']}/exports", {"request": request})
    address = f"/api/jobs/{job['id']}"
    wait_for(lambda: product.get(address)["state"] == "running")

    product.kill("glyphaneme worker")

    wait_for(lambda: product.get(address)["state"] == "done", within_s=60)


def test_killed_database_is_started_again_and_everything_goes_on(
    whole_product: Product,
) -> None:
    state = add_edit(whole_product, begin(whole_product), 5000)
    address = whole_product.database_address()

    whole_product.kill("postgres")
    told = wait_for(lambda: whole_product.health() != 200 and whole_product.health())
    wait_for(lambda: whole_product.health() == 200)

    assert told == 503
    assert whole_product.database_address() == address
    assert whole_product.get(f"/api/projects/{state['id']}") == state
    state = add_edit(whole_product, state, 60)
    request = {"revision": state["head"], "format": "png", "width": 60}
    job = whole_product.post(
        f"/api/projects/{state['id']}/exports", {"request": request}
    )
    path = f"/api/jobs/{job['id']}"
    wait_for(lambda: whole_product.get(path)["state"] == "done", within_s=60)


def test_frames_go_on_beside_sixty_open_streams(product: Product) -> None:
    state = begin(product)
    view = {"x": 0, "y": 0, "width": 80, "height": 60, "scale": 0.01}
    path = f"/api/projects/{state['id']}"
    with contextlib.ExitStack() as kept:
        streams = [
            kept.enter_context(
                urllib.request.urlopen(f"{product.address}/api/events", timeout=60)
            )
            for _ in range(60)
        ]
        for stream in streams:
            assert b"catch_up" in stream.readline()

        for _ in range(40):
            frame = {"revision": state["head"], "view": view}
            assert product.fetch(f"{path}/frame", frame)
        add_edit(product, state, 5000)

        for stream in streams:
            while b'"kind": "project"' not in stream.readline():
                pass
        # Open streams do not keep it from ending.
        assert product.stop() == 0


def test_ctrl_c_leaves_no_process_behind(whole_product: Product) -> None:
    assert whole_product.processes("glyphaneme web")
    assert whole_product.processes("postgres")

    status = whole_product.stop()

    assert status == 0
    assert whole_product.processes() == []


def test_body_of_half_a_gigabyte_is_refused_with_the_limit(product: Product) -> None:
    connection = http.client.HTTPConnection("127.0.0.1", product.port, timeout=120)
    connection.putrequest("POST", "/api/pictures")
    connection.putheader("Content-Type", "multipart/form-data; boundary=x")
    connection.putheader("Content-Length", str(500 * 1024 * 1024))
    connection.endheaders()

    for _ in range(500):
        connection.send(bytes(1024 * 1024))
    answer = connection.getresponse()
    problem = json.load(answer)
    connection.close()

    assert answer.status == 413
    assert "larger than 300 MB" in problem["detail"]
    assert product.get("/api/pictures")["pictures"] == []


def test_page_tells_that_the_compositor_is_being_compiled(
    databases: Databases, tmp_path: Path, request: pytest.FixtureRequest
) -> None:
    compiled = Path(os.environ["NUMBA_CACHE_DIR"])
    kernels = tmp_path / "kernels"
    # All but one kernel: all take a minute.
    [missing] = [one.name for one in compiled.glob("matting.lines*.nbi")]
    shutil.copytree(compiled, kernels, ignore=lambda *_: {missing, "whole"})
    product = Product(databases.prepared())
    request.addfinalizer(product.close)
    product.begin(NUMBA_CACHE_DIR=str(kernels))

    def told() -> str:
        connection = http.client.HTTPConnection("127.0.0.1", product.port, timeout=5)
        try:
            connection.request("GET", "/desk/anything")
            answer = connection.getresponse()
            return answer.read().decode() if answer.status == 503 else ""
        except OSError:
            return ""
        finally:
            connection.close()

    page = wait_for(told)
    product.wait_for_its_word()
    health = product.get("/api/health")

    assert "compiled once on this machine" in page
    assert 'aria-label="Compiling"' in page
    assert health == {"status": "ok"}
    assert (kernels / missing).exists()
    assert (kernels / "whole").exists()


def test_taken_port_is_named_with_the_way_out(product: Product, tmp_path: Path) -> None:
    second = subprocess.run(
        [sys.executable, "-m", "glyphaneme", "start"]
        + ["--home", str(tmp_path), "--port", str(product.port)],
        capture_output=True,
        text=True,
        check=False,
    )

    assert second.returncode == 1
    assert f"port {product.port} on 127.0.0.1 must be free" in second.stderr
    assert "--port" in second.stderr


def test_what_nobody_waits_for_is_done_by_a_worker_that_stands_back(
    product: Product, tmp_path: Path
) -> None:
    def niceness(*words: str) -> set[int]:
        return {
            os.getpriority(os.PRIO_PROCESS, one) for one in product.processes(*words)
        }

    write_network(product.home / "models")
    pixels = np.full((120, 160, 3), (20, 20, 200), np.uint8)
    pixels[30:90, 50:110] = (200, 20, 20)
    Image.fromarray(pixels).save(tmp_path / "red.png")
    picture = product.bring_in(tmp_path / "red.png")["id"]
    before = product.processes("glyphaneme worker behind")

    asked = {"haste": "whenever"}
    job = product.post(f"/api/pictures/{picture}/mattes", asked)["job"]["id"]
    behind = wait_for(lambda: niceness("glyphaneme worker behind"))
    wait_for(lambda: product.get(f"/api/jobs/{job}")["state"] == "done")

    assert before == []
    assert niceness("glyphaneme worker") - behind == {0}
    assert min(behind) > 0

"""Networks: what set-up fetches, what is found in folders, and what is kept."""

from __future__ import annotations

import json
import threading
from pathlib import Path

import numpy as np
import pytest

from glyphaneme.services.errors import NetworkMissingError
from glyphaneme.services.networks import LARGE, LIGHT, Manifest, Networks
from tests.tiny_network import SIDE, write_network

SHIPPED = Path(__file__).parents[2] / "models"
RED = np.full((50, 70, 3), (250, 20, 20), np.uint8)


def test_manifests_that_are_shipped_say_all_that_set_up_needs() -> None:
    stored = [json.loads(place.read_text()) for place in SHIPPED.glob("*.json")]

    names = {Manifest.model_validate(one).name for one in stored}
    assert names == {LARGE, LIGHT}
    assert all(one["package"] and one["file"].endswith(".onnx") for one in stored)


def test_a_network_is_kept_in_memory_until_it_is_let_go(tmp_path: Path) -> None:
    write_network(tmp_path)
    networks = Networks((tmp_path,))
    first = networks.network(LARGE)

    assert networks.network(LARGE) is first
    timers = [one for one in threading.enumerate() if isinstance(one, threading.Timer)]
    assert timers
    assert all(timer.daemon for timer in timers)
    networks.let_go()
    assert networks.network(LARGE) is not first


@pytest.mark.parametrize("side", [SIDE, 96])
def test_a_network_that_says_so_is_run_at_a_larger_size(
    tmp_path: Path, side: int
) -> None:
    write_network(tmp_path)

    seen = Networks((tmp_path,)).network(LARGE).saliency(RED, side)

    assert seen.shape == (side, side)
    assert seen.min() > 0.99


def test_of_one_name_the_first_folder_counts(tmp_path: Path) -> None:
    write_network(tmp_path / "home", prefers="blue")
    write_network(tmp_path / "fetched", prefers="red")
    networks = Networks((tmp_path / "home", tmp_path / "fetched"))

    assert networks.network(LARGE).saliency(RED, SIDE).max() < 0.01


def test_manifests_without_a_model_and_broken_ones_are_passed_over(
    tmp_path: Path,
) -> None:
    write_network(tmp_path, "gone").unlink()
    (tmp_path / "broken.json").write_text('{"name": "UPPER CASE"}')

    networks = Networks((tmp_path, tmp_path / "nowhere"))

    assert dict(networks.manifests) == {}
    with pytest.raises(NetworkMissingError, match="gone"):
        networks.network("gone")

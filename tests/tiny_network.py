"""A network that tells red from blue: small, and as real as any for whoever runs it."""

from __future__ import annotations

import hashlib
import json
from typing import TYPE_CHECKING

import numpy as np
from onnx import TensorProto, helper, numpy_helper

if TYPE_CHECKING:
    from pathlib import Path

SIDE = 64


def write_network(folder: Path, name: str = "large", *, prefers: str = "red") -> Path:
    """Write a model and its manifest; return where the model lies."""
    sign = 1.0 if prefers == "red" else -1.0
    weights = np.array([12 * sign, 0, -12 * sign], np.float32).reshape(1, 3, 1, 1)
    kept = [
        numpy_helper.from_array(weights, "weights"),
        numpy_helper.from_array(np.array([-2], np.float32), "bias"),
    ]
    shape = [1, 3, SIDE, SIDE]
    graph = helper.make_graph(
        [
            helper.make_node("Conv", ["picture", "weights", "bias"], ["sum"]),
            helper.make_node("Sigmoid", ["sum"], ["matte"]),
        ],
        "red-or-blue",
        [helper.make_tensor_value_info("picture", TensorProto.FLOAT, shape)],
        [helper.make_tensor_value_info("matte", TensorProto.FLOAT, [1, 1, SIDE, SIDE])],
        initializer=kept,
    )
    opset = [helper.make_opsetid("", 17)]
    data = helper.make_model(graph, opset_imports=opset, ir_version=9)
    folder.mkdir(parents=True, exist_ok=True)
    place = folder / f"{name}.onnx"
    place.write_bytes(data.SerializeToString())
    manifest = {
        "name": name,
        "title": f"Made for {prefers}",
        "version": "1",
        "licence": "Apache-2.0",
        "sha256": hashlib.sha256(place.read_bytes()).hexdigest(),
        "side": SIDE,
        "larger_side": 96,
        "mean": [0, 0, 0],
        "deviation": [1, 1, 1],
    }
    place.with_suffix(".json").write_text(json.dumps(manifest))
    return place

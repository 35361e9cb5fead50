"""Networks that tell a subject from its backdrop: a folder of models, run on arrays."""

from __future__ import annotations

import hashlib
import logging
import os
import threading
from typing import TYPE_CHECKING, Annotated

import cv2
import numpy as np
from pydantic import BaseModel, ConfigDict, Field, ValidationError

from glyphaneme.services.errors import NetworkMissingError

if TYPE_CHECKING:
    from collections.abc import Iterable, Mapping
    from pathlib import Path

    from onnxruntime import InferenceSession

    from glyphaneme.core.cutout import ColorsU8, MatteF32

log = logging.getLogger(__name__)

LARGE, LIGHT = "large", "light"
"""The two that set-up fetches."""
KEPT_S = 600.0
"""How long a network stays in memory after it was last used."""
STEP = 32
MOST_SIDE = 1024

Share = Annotated[float, Field(allow_inf_nan=False)]
Side = Annotated[int, Field(ge=STEP, le=MOST_SIDE, multiple_of=STEP)]


class Manifest(BaseModel):
    """What a model's file does not say of itself.

    The picture, red, green and blue, is divided by its largest value; `mean` is taken
    from it and it is divided by `deviation`. The first output is the matte.
    """

    model_config = ConfigDict(frozen=True, extra="ignore")

    name: Annotated[str, Field(pattern=r"^[a-z0-9-]{1,40}$")]
    title: Annotated[str, Field(min_length=1, max_length=80)]
    version: Annotated[str, Field(min_length=1, max_length=40)]
    licence: Annotated[str, Field(min_length=1, max_length=80)]
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    side: Side
    """Pixels of its input, on both sides."""
    larger_side: Side | None = None
    """A larger size that it can be run at too."""
    mean: tuple[Share, Share, Share]
    deviation: tuple[Share, Share, Share]


class Network:
    """One network, in memory."""

    def __init__(self, manifest: Manifest, session: InferenceSession) -> None:
        self.manifest = manifest
        self._session = session
        self._input = session.get_inputs()[0].name
        self._output = session.get_outputs()[0].name

    def saliency(self, rgb: ColorsU8, side: int) -> MatteF32:
        """Return how much each place belongs to what the eye is drawn to.

        The answer is as the network gives it, 0..1 and `side` by `side`: a picture
        without a subject has no large values.
        """
        rows = rgb.shape[0]
        way = cv2.INTER_AREA if rows > side else cv2.INTER_LINEAR
        small = cv2.resize(rgb, (side, side), interpolation=way).astype(np.float32)
        small /= max(float(small.max()), 1e-6)
        small -= np.array(self.manifest.mean, np.float32)
        small /= np.array(self.manifest.deviation, np.float32)
        fed = np.ascontiguousarray(small.transpose(2, 0, 1)[None])
        (answer,) = self._session.run([self._output], {self._input: fed})
        return np.asarray(answer[0, 0], np.float32)


class Networks:
    """The networks that are there; each is loaded when it is asked for, and let go."""

    def __init__(self, folders: Iterable[Path]) -> None:
        self._folders = tuple(folders)
        self._loaded: dict[str, Network] = {}
        self._lock = threading.Lock()
        self._timer: threading.Timer | None = None

    @property
    def manifests(self) -> Mapping[str, Manifest]:
        """What is there, by name."""
        return {name: manifest for name, (manifest, _) in self._found().items()}

    def network(self, name: str) -> Network:
        """Return a network, loaded.

        Raises
        ------
        NetworkMissingError
            There is none of that name, or its file is not what its manifest says.
        """
        with self._lock:
            self._keep_for_a_while()
            if name not in self._loaded:
                found = self._found().get(name)
                if found is None:
                    raise NetworkMissingError(name)
                self._loaded[name] = _loaded(*found)
            return self._loaded[name]

    def let_go(self) -> None:
        """Forget what is loaded."""
        with self._lock:
            self._loaded.clear()

    def _keep_for_a_while(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
        self._timer = threading.Timer(KEPT_S, self.let_go)
        self._timer.daemon = True
        self._timer.start()

    def _found(self) -> dict[str, tuple[Manifest, Path]]:
        """Return manifests that have a model beside them; of one name the first."""
        found: dict[str, tuple[Manifest, Path]] = {}
        for folder in self._folders:
            for place in sorted(folder.glob("*.json")):
                model = place.with_suffix(".onnx")
                manifest = _manifest(place)
                if manifest is not None and model.exists():
                    found.setdefault(manifest.name, (manifest, model))
        return found


def _manifest(place: Path) -> Manifest | None:
    try:
        return Manifest.model_validate_json(place.read_bytes())
    except (ValidationError, OSError):
        log.warning("manifest not read", extra={"action": "manifest_refused"})
        return None


def _loaded(manifest: Manifest, model: Path) -> Network:
    """Load a network into a session that takes its input at any size.

    Raises
    ------
    NetworkMissingError
        Its file is not what its manifest says.
    """
    # Imported late: only who cuts something out needs them, and they take a while.
    import onnxruntime

    data = model.read_bytes()
    if hashlib.sha256(data).hexdigest() != manifest.sha256:
        raise NetworkMissingError(manifest.name)
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = os.cpu_count() or 1
    options.enable_cpu_mem_arena = False
    options.log_severity_level = 3
    # Threads that spin while they wait would take the processor from everyone else.
    options.add_session_config_entry("session.intra_op.allow_spinning", "0")
    if manifest.larger_side is not None:
        data = _of_any_size(data)
    session = onnxruntime.InferenceSession(
        data, options, providers=["CPUExecutionProvider"]
    )
    return Network(manifest, session)


def _of_any_size(data: bytes) -> bytes:
    """Free the height and width of a model's input and outputs."""
    import onnx

    model = onnx.load_model_from_string(data)
    sides = model.graph.input[0].type.tensor_type.shape.dim[2:4]
    for side, name in zip(sides, ("height", "width"), strict=True):
        side.ClearField("dim_value")
        side.dim_param = name
    for output in model.graph.output:
        output.type.tensor_type.ClearField("shape")
    return bytes(model.SerializeToString())

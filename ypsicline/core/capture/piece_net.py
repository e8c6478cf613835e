"""A small network that places pieces on a table as a person sees them, roughly: where, not where exactly.

It was trained on views painted by lot (`training/` in the project, with how to make it anew); no
photograph was among them. It is run by onnxruntime. What it says is a coarse place: the edge itself is
measured in the photograph.
"""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files

import cv2
import numpy as np
import onnxruntime
from numpy.typing import NDArray

__all__ = ["CHANNELS", "STRIDE", "as_input", "run", "tap_mark"]

CHANNELS = 7
# pictures' sides are multiples of this
STRIDE = 32
TAP_PX = 2.5
_LEAST_SPREAD = 12.0

Mask = NDArray[np.bool_]
Float = NDArray[np.float32]


def as_input(pixels: NDArray[np.uint8], sheets: Mask, visible: Mask, prior: Float | None, taps: Float | None) -> Float:
    """What the network is given, (7, rows, columns).

    `pixels` (rows, columns, 3) are evened out to the picture's own mean and spread; `sheets` is where
    reference sheets lie, `visible` what the photo shows. `prior` is what a coarser look said, from -1
    (table) to 1 (piece), 0 where nothing is known; `taps` are marks by `tap_mark`, those on the
    table negative.
    """
    rows, columns = visible.shape
    out = np.zeros((CHANNELS, rows, columns), dtype=np.float32)
    pixels_counted = visible & ~sheets
    of = pixels[pixels_counted if pixels_counted.any() else np.ones_like(visible)].astype(np.float32)
    spread = max(float(of.std()), _LEAST_SPREAD)
    out[:3] = ((pixels.astype(np.float32) - of.mean(axis=0)) / (2 * spread)).transpose(2, 0, 1) * visible
    out[3], out[4] = sheets, visible
    if prior is not None:
        out[5] = prior
    if taps is not None:
        out[6] = taps
    return np.clip(out, -3, 3)


def tap_mark(shape: tuple[int, ...], column: float, row: float) -> Float:
    """A soft spot of height 1 at a place, px."""
    r = (np.arange(shape[0], dtype=np.float32) - row) ** 2
    c = (np.arange(shape[1], dtype=np.float32) - column) ** 2
    return np.asarray(np.exp(-(r[:, None] + c[None, :]) / np.float32(2 * TAP_PX**2)), dtype=np.float32)


@lru_cache(maxsize=1)
def _session() -> onnxruntime.InferenceSession:
    how = onnxruntime.SessionOptions()
    how.log_severity_level = 3
    how.intra_op_num_threads = cv2.getNumThreads()
    # threads that wait for the next layer leave the processor to others
    how.add_session_config_entry("session.intra_op.allow_spinning", "0")
    weights = files("ypsicline.core.capture").joinpath("piece_net.onnx").read_bytes()
    return onnxruntime.InferenceSession(weights, how, providers=["CPUExecutionProvider"])


def run(inputs: Float) -> tuple[Float, Float]:
    """Shares of piece and of shadow, 0 to 1, (k, rows, columns) each, for inputs (k, 7, rows, columns)."""
    (logits,) = _session().run(None, {"view": np.ascontiguousarray(inputs, dtype=np.float32)})
    shares = (1 / (1 + np.exp(-np.asarray(logits)))).astype(np.float32)
    return shares[:, 0], shares[:, 1]

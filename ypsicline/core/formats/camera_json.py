"""The camera profile as a file: written by calibration, read with later photos."""

from __future__ import annotations

import dataclasses
import json

from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.errors import Refused
from ypsicline.core.messages import message

__all__ = ["camera_json", "read_camera_json"]

MAX_BYTES = 100_000


def camera_json(profile: CameraProfile) -> bytes:
    """Version 1; the numbers' meaning and order are told in docs/formats.md."""
    return json.dumps({"version": 1, "kind": "camera profile", **dataclasses.asdict(profile)}, indent=1).encode()


def read_camera_json(data: bytes) -> CameraProfile:
    """Raises `Refused` for another file."""
    try:
        if len(data) > MAX_BYTES:
            raise ValueError
        found = json.loads(data)
        if found["version"] != 1 or found["kind"] != "camera profile":
            raise ValueError
        width, height, photos = int(found["width"]), int(found["height"]), int(found["photos"])
        if not (0 < width < 1e5 and 0 < height < 1e5):
            raise ValueError
        return CameraProfile(
            str(found["camera"])[:100], width, height, tuple(map(float, found["numbers"])),
            tuple(tuple(map(float, row)) for row in found["covariance"]), float(found["residual_px"]), photos,
        )  # fmt: skip
    except Refused:
        raise
    except (ValueError, KeyError, TypeError, OverflowError, RecursionError) as e:
        raise Refused(message("profile_unreadable"), "camera") from e

"""The camera profile as a file: written by calibration, read with later photos."""

from __future__ import annotations

from dataclasses import asdict, dataclass, field, fields
from typing import Literal

from ypsicline.core.capture.profile import CameraProfile
from ypsicline.core.errors import Refusal
from ypsicline.core.formats.documents import dump, load
from ypsicline.core.messages import message

__all__ = ["camera_json", "read_camera_json"]

MAX_BYTES = 100_000


@dataclass(frozen=True)
class _CameraFile(CameraProfile):
    """Version 1; the numbers' meaning and order are told in docs/formats.md."""

    version: Literal[1] = field(kw_only=True)
    kind: Literal["camera profile"] = field(kw_only=True)


def camera_json(profile: CameraProfile) -> bytes:
    """The file of a profile."""
    return dump(_CameraFile(**asdict(profile), version=1, kind="camera profile"))


def read_camera_json(data: bytes) -> CameraProfile:
    """Raises `Refusal` for another file."""
    if len(data) > MAX_BYTES:
        raise Refusal(message("profile_unreadable"), "camera")
    file = load(_CameraFile, data, message("document_camera_profile"))
    return CameraProfile(**{f.name: getattr(file, f.name) for f in fields(CameraProfile)})

"""All kinds of long work."""

from __future__ import annotations

from ypsicline.server.jobs import fillings
from ypsicline.server.photos import cameras, photos

__all__ = ["resume_all"]


def resume_all(*, at_start: bool = False) -> int:
    """Take up what workers that fell silent left behind, see `WorkKind.resume`; how many rows."""
    return sum(kind.resume(at_start=at_start) for kind in (photos.WORK, cameras.WORK, fillings.WORK))

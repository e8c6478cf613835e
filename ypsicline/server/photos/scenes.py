"""The scene that was measured last, so that pointing at a piece in its photos doesn't measure them all anew."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.scene import Progress, Scene, read_scene

__all__ = ["scene_of"]

# larger ones aren't worth the memory that a worker would hold between two jobs
MOST_PIXELS = 30_000_000


@dataclass
class _Last:
    of: tuple[Any, ...] = ()
    scene: Scene | None = None


_last = _Last()


def scene_of(names: Sequence[str], photos: Sequence[Photo], *, progress: Progress, **how: Any) -> Scene:
    """The scene of stored photos, by their files' `names`; `how` and what is raised as with `read_scene`. A worker takes one
    photo at a time, so that one scene is all it has to remember."""
    of = (*names, *how.items())
    if _last.scene is None or _last.of != of:
        _last.of, _last.scene = (), None
        scene = read_scene(photos, progress=progress, **how)
        if sum(p.width * p.height for p in photos) > MOST_PIXELS:
            return scene
        _last.of, _last.scene = of, scene
    return _last.scene

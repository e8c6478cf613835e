"""The stretches of an outline whose edge isn't sure."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy

from ypsicline.core.geometry.edges import Array, Point

__all__ = ["Stretch", "stretches"]

# edges are doubtful from here on; stretches this many points apart are one, and shorter ones are none
DOUBTFUL_MM, JOINED_POINTS, LEAST_POINTS = 0.8, 8, 5


@dataclass(frozen=True)
class Stretch:
    """A stretch of an outline that isn't sure, along `line`: it may be up to `off_mm` off there."""

    line: tuple[Point, ...]
    off_mm: float


def stretches(outline: tuple[Point, ...], doubts: Array) -> tuple[Stretch, ...]:
    """The parts of a closed outline that are doubtful by `doubts` (n,), mm; those that almost meet are one."""
    weak = scipy.ndimage.binary_closing(np.tile(doubts > DOUBTFUL_MM, 3), iterations=JOINED_POINTS)[
        len(doubts) : 2 * len(doubts)
    ]
    if weak.all():
        return (Stretch((*outline, outline[0]), round(float(doubts.max()), 2)),)
    first = int(np.argmin(weak))
    labels, count = scipy.ndimage.label(np.roll(weak, -first))
    parts = []
    for own in scipy.ndimage.find_objects(labels, count):
        at = (np.arange(own[0].start, own[0].stop) + first) % len(doubts)
        if len(at) >= LEAST_POINTS:
            parts.append(Stretch(tuple(outline[k] for k in at), round(float(doubts[at].max()), 2)))
    return tuple(parts)

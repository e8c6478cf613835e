"""The stretches of an outline whose edge isn't sure."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.geometry.edges import Array, Point

__all__ = ["Stretch", "doubts_where_vague", "keeps_within", "run_lengths", "stretches"]

Mask = NDArray[np.bool_]

# edges are doubtful from here on; stretches this many points apart are one, and shorter ones are none
DOUBTFUL_MM, JOINED_POINTS, LEAST_POINTS = 0.8, 8, 5
# where no edge is seen along a stretch, or the colours to its sides don't tell piece from table, how far off it may be as a
# share of the stretch's length
VAGUE_SHARE, LEAST_VAGUE_MM, MOST_VAGUE_MM = 0.2, 1.0, 40.0
# a stripe or dot of the table's colour lets it bite in, or be bitten, by so much of the stretch's length, at most so far
BITE_SHARE, MOST_BITE_MM = 0.6, 4.0


@dataclass(frozen=True)
class Stretch:
    """A stretch of an outline that isn't sure, along `line`: it may be up to `off_mm` off there."""

    line: tuple[Point, ...]
    off_mm: float


def doubts_where_vague(vague: Mask, line: Array, *, is_closed: bool = True) -> Array:
    """How far off each point of a line (n, 2) may be, mm, that is `vague` (n,): no edge is seen there; 0 elsewhere."""
    runs = run_lengths(vague, line, is_closed=is_closed)
    off = np.clip(VAGUE_SHARE * runs, LEAST_VAGUE_MM, MOST_VAGUE_MM)
    return np.where(vague, np.maximum(off, np.minimum(BITE_SHARE * runs, MOST_BITE_MM)), 0.0)


def run_lengths(at: Mask, line: Array, *, is_closed: bool = True) -> Array:
    """Of each point of a line (n, 2) that is `at` (n,), the length of its run, mm; 0 elsewhere."""
    steps = np.linalg.norm(np.roll(line, -1, axis=0) - line, axis=1)
    if not is_closed:
        steps[-1] = 0.0
    runs = _runs(at, is_closed=is_closed)
    lengths = np.bincount(runs, steps)
    lengths[0] = 0
    return np.asarray(lengths[runs], dtype=float)


def _runs(at: Mask, *, is_closed: bool) -> NDArray[np.intp]:
    """The number of its run, from 1, of each point of a line that is `at` (n,); 0 elsewhere."""
    first = int(np.argmin(at)) if is_closed else 0
    runs: NDArray[np.intp] = scipy.ndimage.label(np.roll(at, -first))[0]
    return np.roll(runs, first)


def keeps_within(errors: Array, outline: Array, doubts: Array) -> float:
    """What 95 % of the true outline keeps within, mm, of one found as `outline` (n, 2) with `errors` and `doubts` (n,), mm.

    Where a stretch may be off by some way, the true one may lead there and back: across the mouth of a notch that was missed
    the outline is short, and the notch is long. Each such stretch counts as if it did.
    """
    steps = np.linalg.norm(np.roll(outline, -1, axis=0) - outline, axis=1)
    runs = _runs(doubts > DOUBTFUL_MM, is_closed=True)
    farthest = scipy.ndimage.maximum(doubts, runs, np.arange(runs.max() + 1))
    there_and_back = 2 * farthest / np.maximum(np.bincount(runs), 1)
    there_and_back[0] = 0
    steps = steps + there_and_back[runs]
    return float(np.quantile(errors, 0.95, weights=steps, method="inverted_cdf"))


def stretches(line: tuple[Point, ...], doubts: Array, *, is_closed: bool = True) -> tuple[Stretch, ...]:
    """The parts of an outline, or of a way along one, that are doubtful by `doubts` (n,), mm; those that almost meet are one."""
    if is_closed:
        around = np.tile(doubts > DOUBTFUL_MM, 3)
        weak = scipy.ndimage.binary_closing(around, iterations=JOINED_POINTS)[len(doubts) : 2 * len(doubts)]
    else:
        # beyond its ends nothing is doubtful
        around = np.pad(doubts > DOUBTFUL_MM, JOINED_POINTS)
        weak = scipy.ndimage.binary_closing(around, iterations=JOINED_POINTS)[JOINED_POINTS:-JOINED_POINTS]
    if weak.all():
        return (Stretch((*line, line[0]) if is_closed else line, round(float(doubts.max()), 2)),)
    first = int(np.argmin(weak)) if is_closed else 0
    labels, count = scipy.ndimage.label(np.roll(weak, -first))
    parts = []
    for own in scipy.ndimage.find_objects(labels, count):
        at = (np.arange(own[0].start, own[0].stop) + first) % len(doubts)
        if len(at) >= LEAST_POINTS:
            parts.append(Stretch(tuple(line[k] for k in at), round(float(doubts[at].max()), 2)))
    return tuple(parts)

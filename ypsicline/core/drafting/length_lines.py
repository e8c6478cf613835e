"""The lines of a panel's sum that say what its edges measure."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import groupby
from typing import Any

import numpy as np

from ypsicline.core.geometry.edges import Array, edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.run import Run, called_alike
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["length_lines"]

_MOST_EDGES_SINGLY = 12


def length_lines(
    runs: Sequence[Run],
    seam: Sequence[SeamEdge],
    holes: Sequence[Sequence[SeamEdge]],
    seam_points: Array,
    cutting_points: Array,
) -> tuple[Message, ...]:
    """What each edge measures on the seam line and how it is finished, and the panel's size; `seam_points` and
    `cutting_points` (n, 2), mm. Of more than a dozen edges those of a ring that follow each other, finished alike, are told
    together."""
    rings = [(seam, [r.source for r in runs]), *((h, [e.id for e in h]) for h in holes)]
    edges = [[[ring[k] for k in parts] for parts in called_alike(ring, sources)] for ring, sources in rings]
    is_long = sum(map(len, edges)) > _MOST_EDGES_SINGLY
    lines = [line for ring in edges for line in (_lengths_together(ring) if is_long else map(_length, ring))]
    inner, outer = np.ptp(seam_points, axis=0), np.ptp(cutting_points, axis=0)
    cut_size = {"cut_width_mm": outer[0], "cut_height_mm": outer[1]}
    lines.append(message("panel_size", width_mm=inner[0], height_mm=inner[1], **cut_size))
    return tuple(lines)


def _length(parts: Sequence[SeamEdge]) -> Message:
    """What an edge, or parts of one that run on into one another, measures on the seam line, and how it is finished."""
    return message("edge_on_seam_line", edge=parts[0].name, length_mm=sum(map(edge_length, parts)), **_finish(parts[0]))


def _lengths_together(ring: Sequence[Sequence[SeamEdge]]) -> Iterator[Message]:
    """The same of a ring of many edges: those in a row that are finished alike together."""
    for _, alike in groupby(ring, key=lambda parts: (parts[0].finish, parts[0].allowance)):
        first, *others = alike
        if not others:
            yield _length(first)
            continue
        yield message(
            "edges_on_seam_line", first=first[0].name, last=others[-1][0].name, count=1 + len(others),
            length_mm=sum(edge_length(e) for parts in (first, *others) for e in parts), **_finish(first[0]),
        )  # fmt: skip


def _finish(edge: SeamEdge) -> dict[str, Any]:
    return {"allowance_mm": edge.allowance, "finish": edge.finish.replace("_", " ")}

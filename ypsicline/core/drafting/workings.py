"""The lines of a panel's sum, told so that a panel of many edges and openings can still be read."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import replace
from itertools import groupby
from typing import Any

import numpy as np

from ypsicline.core.geometry.edges import Array, edge_length
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.pattern.run import Run, called_alike
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["alike_together", "length_lines"]

_MOST_EDGES_SINGLY = 10


def length_lines(
    runs: Sequence[Run],
    seam: Sequence[SeamEdge],
    holes: Sequence[Sequence[SeamEdge]],
    seam_points: Array,
    cutting_points: Array,
) -> tuple[Message, ...]:
    """What each edge measures on the seam line and how it is finished, and the panel's size; `seam_points` and
    `cutting_points` (n, 2), mm. Of more than ten edges those of the seam line that follow each other, finished alike, are
    told together, and so are those of holes."""
    around = [[seam[k] for k in parts] for parts in called_alike(seam, [r.source for r in runs])]
    inside = [[h[k] for k in parts] for h in holes for parts in called_alike(h, [e.id for e in h])]
    is_long = len(around) + len(inside) > _MOST_EDGES_SINGLY
    lines = [
        line for edges in (around, inside) for line in (_lengths_together(edges) if is_long else map(_length, edges))
    ]
    inner, outer = np.ptp(seam_points, axis=0), np.ptp(cutting_points, axis=0)
    cut_size = {"cut_width_mm": outer[0], "cut_height_mm": outer[1]}
    lines.append(message("panel_size", width_mm=inner[0], height_mm=inner[1], **cut_size))
    return tuple(lines)


def _length(parts: Sequence[SeamEdge]) -> Message:
    """What an edge, or parts of one that run on into one another, measures on the seam line, and how it is finished."""
    return message("edge_on_seam_line", edge=parts[0].name, length_mm=sum(map(edge_length, parts)), **_finish(parts[0]))


def _lengths_together(edges: Sequence[Sequence[SeamEdge]]) -> Iterator[Message]:
    """The same of many edges: those in a row that are finished alike together."""
    for _, alike in groupby(edges, key=lambda parts: (parts[0].finish, parts[0].allowance)):
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


def alike_together(lines: Iterable[Message]) -> Iterator[Message]:
    """The lines of openings, those in a row that differ by the opening's name alone together."""
    for _, alike in groupby(lines, key=_but_for_opening):
        group = list(alike)
        names = [value for line in group for name, value in line.values if name == "aperture"]
        if len(names) < 2:
            yield from group
            continue
        every = message("first_to_last", first=names[0], last=names[-1], count=len(names))
        yield replace(group[0], values=tuple((k, every if k == "aperture" else v) for k, v in group[0].values))


def _but_for_opening(line: Message) -> tuple[str, dict[str, Value]]:
    return line.code, {name: value for name, value in line.values if name != "aperture"}

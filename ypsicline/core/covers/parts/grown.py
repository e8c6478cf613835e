"""Outlines moved outward edge by edge, and parted, before a panel is made of them."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ypsicline.core.drafting.redrawn import redrawn
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, Point, point_at, split_edge
from ypsicline.core.geometry.feet import nearest_parameters
from ypsicline.core.messages import message
from ypsicline.core.trueing.measured import from_edges
from ypsicline.core.trueing.shape import true_edges

__all__ = ["grown", "parted_at"]

_SAME_MM = 0.05


def grown(outline: Sequence[Edge], out_mm: Sequence[float]) -> tuple[Edge, ...]:
    """The outline with each edge moved outward by its own amount, its corners kept sharp; edges keep their order. Raises
    `Refusal` where nothing is left, or edges vanish."""
    if not any(out_mm):
        return tuple(outline)
    shape = redrawn(from_edges(outline, tolerance_mm=_SAME_MM), list(out_mm))
    edges = true_edges(shape.outline, shape.tolerance_mm)
    if len(edges) != len(outline):
        raise Refusal(message("outline_edges_vanish"), "shape")
    return tuple(Edge(e.kind, e.points) for e in edges)


def parted_at(outline: Sequence[Edge], points: Sequence[Point]) -> tuple[Edge, ...]:
    """The outline with a joint where it comes nearest to each of the points."""
    edges = list(outline)
    for p in points:
        at = [float(nearest_parameters(e, np.array([p]))[0]) for e in edges]
        k = min(range(len(edges)), key=lambda i: math.dist(p, point_at(edges[i], at[i])))
        parts = [split_edge(edges[k], 0.0, at[k]), split_edge(edges[k], at[k], 1.0)] if 0 < at[k] < 1 else [edges[k]]
        if all(math.dist(e.start, e.end) > _SAME_MM for e in parts):
            edges[k : k + 1] = parts
    return tuple(edges)

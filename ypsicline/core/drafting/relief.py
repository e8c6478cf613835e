"""Relief cuts (rule 9) and the trimming of sharp points: where an allowance must open or close to lie flat."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from ypsicline.core.geometry.beziers import bends_along
from ypsicline.core.geometry.edges import (
    Array,
    circle_of,
    derivatives_at,
    edge_length,
    points_at,
)
from ypsicline.core.geometry.plane import along, unit
from ypsicline.core.geometry.rings import corner_turns
from ypsicline.core.messages import message
from ypsicline.core.pattern.mark import Mark
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["relief_marks", "relief_spacing"]

OPENING_MM = 3.0
CLOSEST_MM = 6.0
SHORT_OF_SEAM_MM = 3.0
CURVED_BELOW = 8.0
LEAST_ROUND_A_HOLE = 8
SHARP_RAD = math.radians(60)
_CLIPPED_FROM_RAD = math.radians(20)


def relief_spacing(
    radius_mm: float, allowance_mm: float, *, flat: bool = False, opening_mm: float = OPENING_MM
) -> float | None:
    """How far apart cuts into an allowance on a curve must be so that each opens by no more than `opening_mm`:
    g·r/a, half of that where it is folded back flat, never under 6 mm. None where the curve is wide: r ≥ 8a."""
    if allowance_mm <= SHORT_OF_SEAM_MM or radius_mm >= CURVED_BELOW * allowance_mm:
        return None
    return max(opening_mm * radius_mm / (allowance_mm * (2 if flat else 1)), CLOSEST_MM)


def relief_marks(ring: Sequence[SeamEdge], *, hole: bool = False) -> list[Mark]:
    """Cuts from the cutting edge to within 3 mm of the seam line, V-shaped where the allowance closes; one into each
    true concave corner; and the line along which the bulk of a sharp point is trimmed once it is sewn."""
    marks: list[Mark] = []
    for edge in ring:
        turns = edge.finishing.right_angles
        if turns and edge.allowance > SHORT_OF_SEAM_MM and edge.kind != "line":
            marks += _along(edge, turns, LEAST_ROUND_A_HOLE if hole and len(ring) <= 2 else 0)
    for k, (t1, t2, turn) in enumerate(corner_turns(ring)):
        if -_CLIPPED_FROM_RAD <= turn <= math.pi - SHARP_RAD:
            continue
        first, second = ring[k], ring[k + 1 - len(ring)]
        width = min(first.allowance, second.allowance)
        if width <= SHORT_OF_SEAM_MM or not (first.finishing.right_angles and second.finishing.right_angles):
            continue
        out = unit((t1[1] + t2[1], -t1[0] - t2[0]))
        if turn < -_CLIPPED_FROM_RAD:
            reach = width / max(math.cos(turn / 2), 0.3)
            marks.append(Mark("relief", (along(first.end, out, reach), along(first.end, out, SHORT_OF_SEAM_MM))))
        elif first.finishing.is_trimmed_at_points and second.finishing.is_trimmed_at_points:
            across = (-out[1], out[0])
            middle = along(first.end, out, SHORT_OF_SEAM_MM)
            marks.append(
                Mark(
                    "trim",
                    (along(middle, across, -width), along(middle, across, width)),
                    (message("trim_once_sewn"),),
                    2.0,
                )
            )
    return marks


def _along(edge: SeamEdge, turns: int, at_least: int) -> list[Mark]:
    length = edge_length(edge)
    t, at, radius = _bends(edge)
    width = edge.allowance
    if not (np.abs(radius) < CURVED_BELOW * width).any():
        return []
    stops: list[float] = []
    stop, k, stations, radii = 0.0, 0, at.tolist(), radius.tolist()
    while True:
        spacing = relief_spacing(abs(radii[k]), width, flat=turns == 2)
        if spacing is not None and at_least:
            spacing = min(spacing, max(2 * length / at_least, CLOSEST_MM))
        stop += spacing or CLOSEST_MM
        if stop >= length - CLOSEST_MM / 2:
            break
        while k + 1 < len(stations) and stations[k + 1] <= stop:
            k += 1
        if spacing is not None:
            stops.append(stop)
    if not stops:
        return []
    here = np.interp(stops, at, t)
    radius_there = np.interp(stops, at, radius)
    first, _ = derivatives_at(edge, here)
    d = first / np.hypot(*first.T)[:, None]
    out = np.column_stack([d[:, 1], -d[:, 0]])
    seam = points_at(edge, here)
    # on a convex edge the allowance is too long once it is turned: a V is cut out
    half = np.where(radius_there > 0, min(2.0, OPENING_MM / 2), 0.0)[:, None] * d
    rim, tip = seam + width * out, seam + SHORT_OF_SEAM_MM * out
    return [
        Mark("relief", (p, q, r) if p != r else (p, q))
        for p, q, r in zip(*(map(tuple, a.tolist()) for a in (rim - half, tip, rim + half)), strict=True)
    ]


def _bends(edge: SeamEdge) -> tuple[Array, Array, Array]:
    """Parameters along an edge, how many mm from its start they lie, and its radius of curvature there, mm: positive
    where it turns left, which is convex on an outline."""
    if edge.kind != "curve":
        circle = circle_of(edge) if edge.kind == "arc" else None
        ends = np.array([0.0, 1.0])
        return ends, ends * edge_length(edge), np.full(2, math.copysign(circle.radius, circle.sweep) if circle else 1e6)
    t, at, bend = bends_along(edge.points)
    return t, at, 1 / np.where(np.abs(bend) > 1e-6, bend, 1e-6)

"""A cone rolled along paper: two rows of marks become two concentric arcs. Rule 5 of drafting."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Edge, EdgeKind
from ypsicline.core.messages import message
from ypsicline.core.trueing.measured import MeasuredOutline

__all__ = ["RolledTrace", "rolled"]

Mask = NDArray[np.bool_]
LEAST_IN_A_ROW = 4
STRAIGHT = 0.002
_ROUNDS = 20


@dataclass(frozen=True)
class RolledTrace:
    """One full turn of a rolled body: its development as edges among the marks, the radii and the angle (0 and 0 where it is straight),
    the girths that they imply, how far the marks stray at most, and by how much each taped girth is missed (rolled −
    taped, mm; None where none was given)."""

    outline: MeasuredOutline
    inner_mm: float
    outer_mm: float
    angle_rad: float
    girths_mm: tuple[float, float]
    strays_mm: float
    slips_mm: tuple[float | None, float | None]


def rolled(marks: Array, small_girth_mm: float | None = None, large_girth_mm: float | None = None) -> RolledTrace:
    """Two rows of marks (n, 2), in any order, whose first and last stand at the start and finish of one full turn.

    Centre and both radii are fitted together by least squares; a body that doesn't taper, its
    girths within 0.2 % of each other, rolls out straight: two parallel lines. Raises `Refusal`
    (reason `rolled`) where the marks are no two rows.
    """
    points = np.asarray(marks, dtype=float).reshape(-1, 2)
    if len(points) < 2 * LEAST_IN_A_ROW:
        raise Refusal(message("rolled_marks_too_few", least_in_a_row=LEAST_IN_A_ROW, count=len(points)), "rolled")
    centre, outer = _rows(points)
    x = [*centre, *(float(np.hypot(*(points[row] - centre).T).mean()) for row in (~outer, outer))]

    def misses(p: Array) -> Array:
        return np.hypot(*(points - p[:2]).T) - np.where(outer, p[3], p[2])

    size = float(np.ptp(points, axis=0).max())
    fit = scipy.optimize.least_squares(misses, x, x_scale=[size, size, size, size], xtol=1e-13, ftol=1e-13)
    strays = float(np.abs(fit.fun).max())
    inner_mm, outer_mm = float(fit.x[2]), float(fit.x[3])
    if strays > 0.02 * size:
        raise Refusal(message("rolled_marks_stray", strays_mm=strays), "rolled")
    spans = [_span(points[row], fit.x[:2]) for row in (~outer, outer)]
    angle = float(np.mean([s[1] for s in spans]))
    girths = (inner_mm * angle, outer_mm * angle)
    straight = (girths[1] - girths[0]) / girths[1] < STRAIGHT
    slips = tuple(
        None if g is None else have - g for have, g in zip(girths, (small_girth_mm, large_girth_mm), strict=True)
    )
    uneven = abs(spans[0][1] - spans[1][1]) * outer_mm
    slant = outer_mm - inner_mm
    figures = {"small_mm": girths[0], "large_mm": girths[1], "slant_mm": slant, "strays_mm": strays}
    workings = [message("rolled_girths", **figures)]
    for name, g, have in zip(("small", "large"), (small_girth_mm, large_girth_mm), girths, strict=True):
        if g is not None:
            by = {"taped_mm": g, "rolled_mm": have, "by_mm": have - g}
            workings.append(message("rolled_slipped" if abs(have - g) > 0.01 * g else "rolled_off", name=name, **by))
    if uneven > 0.01 * girths[1]:
        workings.append(message("rolled_uneven", apart_mm=uneven))
    if not straight:
        workings.append(message("rolled_arcs", inner_mm=inner_mm, outer_mm=outer_mm, angle=math.degrees(angle)))
    start = float(np.angle(np.mean(np.exp(1j * (np.array([s[0] for s in spans]) + angle / 2))))) - angle / 2
    edges = _development(fit.x[:2], inner_mm, outer_mm, start, angle, "line" if straight else "arc")
    outline = MeasuredOutline(edges, {}, tuple(workings))
    radii = (0.0, 0.0, 0.0) if straight else (inner_mm, outer_mm, angle)
    return RolledTrace(outline, *radii, girths, strays, (slips[0], slips[1]))


def _rows(points: Array) -> tuple[Array, Mask]:
    """A common centre of both rows, and which points lie on the outer one (n,)."""
    best: tuple[float, Array, Mask] | None = None
    # most starts part the marks alike
    centres: dict[bytes, Array] = {}
    for start in _centres(points):
        centre = start
        outer = np.zeros(len(points), dtype=bool)
        for _ in range(_ROUNDS):
            far = np.hypot(*(points - centre).T)
            order = np.sort(far)
            gap = int(np.diff(order[1:-1]).argmax()) + 1
            row = np.asarray(far > (order[gap] + order[gap + 1]) / 2)
            if (row == outer).all():
                break
            outer = row
            if min(outer.sum(), (~outer).sum()) < LEAST_IN_A_ROW - 1:
                break
            if outer.tobytes() not in centres:
                centres[outer.tobytes()] = _concentric(points, outer)
            centre = centres[outer.tobytes()]
        if min(outer.sum(), (~outer).sum()) < LEAST_IN_A_ROW - 1:
            continue
        far = np.hypot(*(points - centre).T)
        spread = max(float(np.ptp(far[row])) for row in (outer, ~outer))
        if best is None or spread < best[0]:
            best = (spread, centre, outer)
    if best is None:
        raise Refusal(message("rolled_marks_not_in_rows"), "rolled")
    return best[1], best[2]


def _centres(points: Array) -> list[Array]:
    """Where the centre may lie: in any direction from the middle, near and far; so close together that of two long rows side
    by side one start parts them."""
    middle = points.mean(axis=0)
    size = float(np.ptp(points, axis=0).max())
    bearings = np.arange(64) * math.pi / 32
    ways = np.column_stack([np.cos(bearings), np.sin(bearings)])
    return [
        middle + far * size * way
        for far in (0.2, 0.27, 0.35, 0.45, 0.6, 0.8, 1, 1.4, 2, 3, 5, 10, 20, 200)
        for way in ways
    ]


def _concentric(points: Array, outer: Mask) -> Array:
    """The centre of two circles about it, linear least squares of x² + y² = 2cx·x + 2cy·y + (one constant a row)."""
    middle = points.mean(axis=0)
    p = points - middle
    terms = np.column_stack([2 * p, ~outer, outer]).astype(float)
    fit, *_ = np.linalg.lstsq(terms, (p**2).sum(axis=1), rcond=None)
    return np.asarray(fit[:2] + middle)


def _span(row: Array, centre: Array) -> tuple[float, float]:
    """Where a row of marks starts about the centre, and the angle that it covers: all but its widest gap."""
    bearing = np.sort(np.arctan2(*(row - centre).T[::-1]))
    gaps = np.diff(np.concatenate([bearing, bearing[:1] + 2 * math.pi]))
    widest = int(gaps.argmax())
    return float(bearing[(widest + 1) % len(bearing)]), float(2 * math.pi - gaps[widest])


def _development(
    centre: Array, inner: float, outer: float, start: float, angle: float, kind: EdgeKind
) -> tuple[Edge, ...]:
    """The developed body among its marks, counter-clockwise: the outer row, the finish, the inner row, the start."""
    at = start + np.array([0.0, 0.5, 1.0]) * angle
    rows = [
        [(float(centre[0] + r * math.cos(a)), float(centre[1] + r * math.sin(a))) for a in at] for r in (outer, inner)
    ]
    large, small = rows[0], rows[1][::-1]
    if kind == "line":
        large, small = [large[0], large[-1]], [small[0], small[-1]]
    return (
        Edge(kind, tuple(large)), Edge("line", (large[-1], small[0])),
        Edge(kind, tuple(small)), Edge("line", (small[-1], large[0])),
    )  # fmt: skip

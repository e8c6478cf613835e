"""Outlines drawn by lot: lines, arcs and curves, convex and not, unequal allowances, every finish and corner."""

from __future__ import annotations

import math

import numpy as np
import shapely

from ypsicline.core.drafting.cutting_line import CutRing, cut_ring
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry import check_ring, flatten, flatten_ring, signed_area
from ypsicline.core.geometry.edges import Array, derivatives_at, points_at
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["cutting_lines", "drawn_by_lot", "faults"]

_FINISHES = ("plain", "hem", "double_hem", "casing", "bound", "faced", "french")
_CORNERS = ("by_rule", "mitre", "bevel", "square", "mirror", "hem_mitre")
_REACH_MM = 2000.0


def drawn_by_lot(lot: np.random.Generator) -> tuple[SeamEdge, ...]:
    """A star-shaped ring of 3 to 9 edges round the origin; it may cross itself."""
    count = int(lot.integers(3, 10))
    angles = np.cumsum(lot.uniform(0.4, 1, count))
    angles *= 2 * math.pi / angles[-1]
    corners = lot.uniform(60, 300, count)[:, None] * np.column_stack([np.cos(angles), np.sin(angles)])
    ring = []
    for k in range(count):
        p, q = corners[k], corners[(k + 1) % count]
        aside = np.array([q[1] - p[1], p[0] - q[0]])
        kind = str(lot.choice(["line", "arc", "curve"]))
        inner = {
            "line": [],
            "arc": [(p + q) / 2 + lot.uniform(-0.35, 0.35) * aside],
            "curve": [p + share * (q - p) + lot.uniform(-0.35, 0.35) * aside for share in (1 / 3, 2 / 3)],
        }[kind]
        finish = str(lot.choice(_FINISHES))
        allowance = 0.0 if finish == "bound" else float(lot.choice([0.0, 3.0, 10.0, 25.0, 60.0]))
        under = allowance * float(lot.uniform(0, 0.5)) if finish in ("double_hem", "casing") else 0.0
        points = tuple((float(x), float(y)) for x, y in [p, *inner, q])
        ring.append(SeamEdge(kind, points, f"e{k}", allowance, finish, str(lot.choice(_CORNERS)), under))  # type: ignore[arg-type]
    return tuple(ring)


def faults(seam: tuple[SeamEdge, ...], ring: CutRing) -> list[str]:
    """What is wrong with a cutting line: crossings, a seam line that isn't inside, edges off their exact parallel."""
    result = []
    points = flatten_ring(ring.edges)
    cloth, body = shapely.Polygon(points), shapely.Polygon(flatten_ring(seam))
    if not cloth.is_valid:
        result.append(f"crosses itself: {shapely.is_valid_reason(cloth)}")
    elif signed_area(points) <= 0:
        result.append("runs clockwise")
    # by the share that flattening within 0.01 mm may take
    elif body.difference(cloth, grid_size=1e-6).area > 0.02 * body.length:
        result.append("the seam line stands out")
    for edge in ring.edges:
        if edge.seam_edge is None:
            continue
        own = _exact_parallel(seam[edge.seam_edge])
        if edge.kind == "line" and seam[edge.seam_edge].kind == "line":
            d = (own[-1] - own[0]) / np.hypot(*(own[-1] - own[0]))
            own = np.array([own[0] - _REACH_MM * d, own[-1] + _REACH_MM * d])
        inner = flatten(edge)[1:-1]
        off = float(shapely.distance(shapely.LineString(own), shapely.points(inner)).max()) if len(inner) else 0.0
        if off > 0.02:
            result.append(f"{edge.name} lies {off:.3f} mm off its parallel")
    return result


def _exact_parallel(edge: SeamEdge) -> Array:
    """Points on the parallel by its definition, not by the code that is measured."""
    t = np.array([0.0, 1.0]) if edge.kind == "line" else np.linspace(0, 1, 801)
    first, _ = derivatives_at(edge, t)
    normal = np.column_stack([first[:, 1], -first[:, 0]]) / np.hypot(*first.T)[:, None]
    return points_at(edge, t) + edge.allowance * normal


def cutting_lines(count: int, seed: int = 1) -> tuple[int, int, list[str]]:
    """How many of `count` sound outlines drawn by lot were cut, how many were refused, and the faults."""
    lot = np.random.default_rng(seed)
    result = refusal = 0
    wrong: list[str] = []
    while result + refusal < count:
        seam = drawn_by_lot(lot)
        try:
            points = check_ring(seam, [e.name for e in seam])
        except Refusal as e:
            refusal += bool(e.place.point or e.place.edge)
            continue
        if signed_area(points) < 0:
            continue
        (ring,) = cut_ring(seam)
        wrong += [f"outline {result}: {fault}" for fault in faults(seam, ring)]
        result += 1
    return result, refusal, wrong

"""A line running on into an arc with a trace of a concave corner lost its allowance there: its end fell back on the seam."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
import shapely

from ypsicline.core.drafting.cutting_line import cut_ring
from ypsicline.core.geometry.rings import flatten_ring, reverse_ring
from ypsicline.core.pattern.seam_edge import SeamEdge


def stadium(bend_deg: float) -> list[SeamEdge]:
    """200 × 100 mm with half circles; where arcs and lines meet they turn by `bend_deg` (negative: concave)."""
    lift = math.tan(math.radians(bend_deg)) * 50
    return [
        SeamEdge("line", ((-50, -50), (0, -50 + lift)), "low left", 10.0),
        SeamEdge("line", ((0, -50 + lift), (50, -50)), "low right", 10.0),
        SeamEdge("arc", ((50, -50), (100, 0), (50, 50)), "right", 10.0),
        SeamEdge("line", ((50, 50), (-50, 50)), "top", 10.0),
        SeamEdge("arc", ((-50, 50), (-100, 0), (-50, -50)), "left", 10.0),
    ]


@pytest.mark.parametrize("bend_deg", [-3.0, -1.0, -0.6, -0.4, 0.4, 0.6, 1.0, 3.0])
@pytest.mark.parametrize("inward", [False, True])
def test_every_place_keeps_its_allowance(bend_deg: float, inward: bool) -> None:
    seam = stadium(bend_deg)
    (cut,) = cut_ring(reverse_ring(seam), hole=True) if inward else cut_ring(seam)
    ring = shapely.Polygon(flatten_ring(cut.edges))
    line = shapely.Polygon(flatten_ring(seam))
    assert ring.is_valid
    outer, inner = (line, ring) if inward else (ring, line)
    assert outer.contains(inner)
    apart = shapely.distance(line.exterior, shapely.points(shapely.get_coordinates(ring.exterior.segmentize(1.0))))
    assert apart.min() > 9.97
    assert apart.max() < 10.3


def test_allowances_may_differ_at_such_a_corner() -> None:
    seam = [replace(e, allowance=a) for e, a in zip(stadium(-1.0), (10, 10, 4, 12, 0), strict=True)]
    (cut,) = cut_ring(seam)
    ring = shapely.Polygon(flatten_ring(cut.edges))
    assert ring.is_valid
    assert ring.buffer(0.01).contains(shapely.Polygon(flatten_ring(seam)))

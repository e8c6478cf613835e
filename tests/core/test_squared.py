"""How a captured outline is laid: shapes turned by known angles are turned back, whatever the trace's noise."""

from __future__ import annotations

import math

import numpy as np
import pytest
import shapely

from ypsicline.core.capture.squared import squaring_turn

DISC = shapely.Point(0, 0).buffer(80, quad_segs=64)
SHAPES = {
    "rectangle": shapely.box(0, 0, 200, 110),
    "rounded": shapely.box(0, 0, 200, 110).buffer(-25).buffer(25),
    "ellipse": shapely.affinity.scale(DISC, 1.4, 1),
    "kidney": DISC.difference(shapely.Point(0, 95).buffer(50, quad_segs=64)),
    "half moon": DISC.intersection(shapely.box(-100, 0, 100, 100)),
    "trapezium": shapely.Polygon([(0, 0), (400, 0), (360, 300), (40, 300)]),
    "bitten": shapely.box(0, 0, 200, 110).difference(shapely.Point(200, 110).buffer(40)),
}


def trace(shape: shapely.Polygon, turned: float, seed: int = 1) -> np.ndarray:
    """Points every half millimetre with a noise of 0.06, begun somewhere, turned."""
    ring = shapely.affinity.rotate(shape, turned, origin=(0, 0)).exterior.segmentize(0.5)
    points = np.asarray(ring.coords)[:-1]
    rng = np.random.default_rng(seed)
    return np.roll(points, int(rng.integers(len(points))), axis=0) + rng.normal(0, 0.06, points.shape)


@pytest.mark.parametrize("name", SHAPES)
@pytest.mark.parametrize("turned", [-40, -12, 0, 3.7, 33, 80, 171])
def test_lies_square(name: str, turned: float) -> None:
    left = turned + math.degrees(squaring_turn(trace(SHAPES[name], turned)))
    assert (left + 45) % 90 - 45 == pytest.approx(0, abs=0.06)


@pytest.mark.parametrize("turned", [0, 20, 70])
def test_what_has_neither_edge_nor_axis_is_left_as_it_lies(turned: float) -> None:
    uneven = shapely.Polygon(
        [(80 * (1 + 0.2 * math.sin(2 * a) + 0.15 * math.cos(3 * a)) * math.cos(a), 80 * (1 + 0.2 * math.sin(2 * a)) * math.sin(a))
         for a in np.linspace(0, 2 * math.pi, 200, endpoint=False)]
    )  # fmt: skip
    for shape in (DISC, uneven):
        assert squaring_turn(trace(shape, turned)) == 0

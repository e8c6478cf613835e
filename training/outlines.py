"""Outlines of pieces by lot, in mm about the origin."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import LineString, Point, Polygon, box

__all__ = ["piece_outline"]

Rng = np.random.Generator


def piece_outline(rng: Rng, size_mm: float) -> Polygon:
    """A polygon about `size_mm` across, sometimes with holes, notches, or darts cut out."""
    draw = _KINDS[int(rng.integers(len(_KINDS)))]
    shape = _largest(draw(rng).buffer(0))
    if shape.is_empty:
        return piece_outline(rng, size_mm)
    if rng.random() < 0.3:
        shape = _notched(rng, shape)
    if rng.random() < 0.2:
        shape = _holed(rng, shape)
    shape = affinity.rotate(shape, rng.uniform(0, 360))
    wide = max(shape.bounds[2] - shape.bounds[0], shape.bounds[3] - shape.bounds[1])
    middle = shape.envelope.centroid
    shape = affinity.translate(shape, -middle.x, -middle.y)
    return affinity.scale(shape, size_mm / wide, size_mm / wide, origin=(0, 0))


def _largest(shape: shapely.Geometry) -> Polygon:
    return max(
        (p for p in shapely.get_parts(shape) if p.geom_type == "Polygon"), key=lambda p: p.area, default=Polygon()
    )


def _round(rng: Rng, shape: shapely.Geometry) -> shapely.Geometry:
    if rng.random() < 0.35:
        return shape
    r = rng.uniform(0.01, 0.12)
    return shape.buffer(-r / 2).buffer(r).buffer(-r / 2)


def _blob(rng: Rng) -> Polygon:
    angle = np.linspace(0, 2 * np.pi, 160, endpoint=False)
    r = np.ones_like(angle)
    for k in range(1, int(rng.integers(2, 8))):
        r += rng.normal(0, 0.32 / k**1.2) * np.cos(k * angle + rng.uniform(0, 2 * np.pi))
    r = np.clip(r, 0.25, None) * 0.5
    return Polygon(np.column_stack([r * np.cos(angle), rng.uniform(0.35, 1) * r * np.sin(angle)])).buffer(0)


def _corners(rng: Rng) -> shapely.Geometry:
    n = int(rng.integers(3, 8))
    angle = np.sort(rng.uniform(0, 2 * np.pi, n) * 0.5 + np.arange(n) * 2 * np.pi / n)
    r = rng.uniform(0.3, 0.6, n)
    return _round(rng, Polygon(np.column_stack([r * np.cos(angle), r * np.sin(angle)])).buffer(0))


def _quad(rng: Rng) -> shapely.Geometry:
    w, h = 1.0, rng.uniform(0.25, 1.0)
    slack = rng.uniform(0, 0.2, (4, 2)) * [w, h] * (rng.random() < 0.7)
    return _round(
        rng, Polygon(np.array([[0, 0], [w, 0], [w, h], [0, h]]) + slack * [[1, 1], [-1, 1], [-1, -1], [1, -1]])
    )


def _ell(rng: Rng) -> shapely.Geometry:
    a, b = rng.uniform(0.25, 0.6, 2)
    return _round(rng, box(0, 0, 1, a).union(box(0, 0, b, rng.uniform(0.6, 1.1))))


def _arch(rng: Rng) -> shapely.Geometry:
    angle = np.linspace(0, rng.uniform(1.5, 5.0), 40)
    line = LineString(np.column_stack([0.4 * np.cos(angle), rng.uniform(0.6, 1.3) * 0.4 * np.sin(angle)]))
    return line.buffer(rng.uniform(0.06, 0.2), cap_style=rng.choice(["flat", "round"]))


def _leaf(rng: Rng) -> shapely.Geometry:
    r = rng.uniform(0.52, 1.2)
    return (
        Point(0, 0)
        .buffer(r, 40)
        .intersection(Point(rng.uniform(0.5, 1.6) * r, 0).buffer(r * rng.uniform(0.7, 1.2), 40))
    )


def _dee(rng: Rng) -> shapely.Geometry:
    return Point(0, 0).buffer(0.5, 40).intersection(box(-1, -1, rng.uniform(-0.1, 0.4), 1))


def _waist(rng: Rng) -> shapely.Geometry:
    y = np.linspace(-0.5, 0.5, 50)
    half = rng.uniform(0.15, 0.3) * (1 - rng.uniform(0.1, 0.6) * np.cos(2 * np.pi * y * rng.uniform(0.6, 1.2)))
    return Polygon(np.vstack([np.column_stack([half, y]), np.column_stack([-half, y])[::-1]]))


def _star(rng: Rng) -> shapely.Geometry:
    n = int(rng.integers(4, 9))
    angle = np.linspace(0, 2 * np.pi, 200, endpoint=False)
    r = 0.35 * (1 + rng.uniform(0.15, 0.5) * np.cos(n * angle + rng.uniform(0, 6)) + 0.1 * np.cos(angle))
    return Polygon(np.column_stack([r * np.cos(angle), r * np.sin(angle)]))


def _disc(rng: Rng) -> shapely.Geometry:
    return affinity.scale(Point(0, 0).buffer(0.5, 50), 1, rng.uniform(0.5, 1))


def _strip(rng: Rng) -> shapely.Geometry:
    return box(0, 0, 1, rng.uniform(0.08, 0.25))


def _joined(rng: Rng) -> shapely.Geometry:
    part = _KINDS[int(rng.integers(5))](rng)
    other = affinity.translate(_KINDS[int(rng.integers(4))](rng), *rng.uniform(-0.4, 0.4, 2))
    whole = part.union(other).buffer(0.03).buffer(-0.03)
    return _largest(whole)


_KINDS = (_blob, _corners, _quad, _ell, _leaf, _arch, _dee, _waist, _star, _disc, _strip, _joined, _blob, _quad)


def _notched(rng: Rng, shape: shapely.Geometry) -> shapely.Geometry:
    x0, y0, x1, y1 = shape.bounds
    reach = max(x1 - x0, y1 - y0)
    for _ in range(int(rng.integers(1, 4))):
        at = shape.exterior.interpolate(rng.random(), normalized=True)
        r = reach * rng.uniform(0.02, 0.16)
        cut = (
            at.buffer(r)
            if rng.random() < 0.5
            else affinity.rotate(box(at.x - r, at.y - r / 2, at.x + r, at.y + r / 2), rng.uniform(0, 180))
        )
        shape = _largest(shape.difference(cut)) or shape
    return shape


def _holed(rng: Rng, shape: shapely.Geometry) -> shapely.Geometry:
    x0, y0, x1, y1 = shape.bounds
    reach = max(x1 - x0, y1 - y0)
    for _ in range(int(rng.integers(1, 4))):
        at = Point(rng.uniform(x0, x1), rng.uniform(y0, y1))
        hole = (
            affinity.scale(at.buffer(reach * rng.uniform(0.02, 0.12)), 1, rng.uniform(0.4, 1))
            if rng.random() < 0.7
            else at.buffer(reach * rng.uniform(0.02, 0.1), cap_style="square")
        )
        if shape.buffer(-0.02 * reach).contains(hole):
            shape = shape.difference(hole)
    return shape

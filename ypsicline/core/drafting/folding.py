"""Hems as they lie once they are folded back, and whether their raw edges lie flush (rule 2, turned corners)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely.affinity import affine_transform

from ypsicline.core.drafting.corners import mitre_direction
from ypsicline.core.drafting.panel import Finding, SeamEdge, numbers
from ypsicline.core.errors import Place
from ypsicline.core.geometry.edges import Array, Point, points_at, tangent_at
from ypsicline.core.geometry.plane import along, as_point, turn_between, unit

__all__ = ["FoldedHem", "fold_hems", "folding_findings"]

FLUSH_MM = 0.1
_FAR = 1e4
_RUNS_ON_RAD = math.radians(20)


@dataclass(frozen=True)
class FoldedHem:
    """One hem folded back over its edge: `outline` as it then lies, and how far it reaches beyond the cloth under it,
    `stands_out_mm` (0 where its raw edges lie on the neighbours' or inside), at `at`."""

    edge: int
    outline: tuple[Point, ...]
    stands_out_mm: float
    at: Point | None


def fold_hems(seam: Sequence[SeamEdge], cutting_points: Array) -> tuple[FoldedHem, ...]:
    """Every straight hem folded at its seam line, and first at its inner fold where it has one.

    The cloth under it is the panel without that hem. Hems on curves don't fold flat and are left
    out: rule 2 says by how much.
    """
    cloth = shapely.Polygon(cutting_points)
    found = []
    for k, edge in enumerate(seam):
        if not edge.is_folded_back or edge.kind != "line":
            continue
        t = tangent_at(edge, 0.5)
        reach = _reach(seam, k)
        band = cloth.intersection(_strip(edge, t, 0.0, edge.allowance + 0.01, reach), grid_size=1e-6)
        own = [g for g in shapely.get_parts(band) if g.geom_type == "Polygon" and g.distance(_middle(edge, t)) < 1e-6]
        if not own:
            continue
        hem = own[0]
        under = cloth.difference(hem, grid_size=1e-6)
        folded = _reflected(_faces(hem.intersection(_strip(edge, t, 0.0, edge.depth))), edge.start, t)
        if edge.turn_under > 0:
            inner = _faces(hem.intersection(_strip(edge, t, edge.depth, _FAR)))
            at_fold = along(edge.start, (t[1], -t[0]), edge.depth)
            turned = _reflected(_reflected(inner, at_fold, t), edge.start, t)
            folded = shapely.union(folded, turned, grid_size=1e-6)
        folded = _faces(_within_mitres(folded, seam, k))
        beyond = folded.difference(_faces(under), grid_size=1e-6)
        out, at = 0.0, None
        if beyond.area > 1e-6:
            points = shapely.get_coordinates(beyond)
            gaps = shapely.distance(under, shapely.points(points))
            out, at = float(gaps.max()), as_point(points[gaps.argmax()])
        largest = max(shapely.get_parts(folded), key=lambda g: float(g.area), default=None)
        ring = np.empty((0, 2)) if largest is None else shapely.get_coordinates(largest.exterior)[:-1]
        found.append(FoldedHem(k, tuple(as_point(p) for p in ring), out, at))
    return tuple(found)


def folding_findings(seam: Sequence[SeamEdge], hems: Sequence[FoldedHem]) -> list[Finding]:
    """What a folded hem's ends that stand out are, in words."""
    found = []
    for hem in hems:
        if hem.stands_out_mm > FLUSH_MM:
            edge = seam[hem.edge]
            text = (
                f"Folded back, the hem of “{edge.name}” stands out by {hem.stands_out_mm:.1f} mm at its end. Turn the "
                "corner there, or trim it once it is folded."
            )
            place = Place(edge=edge.name, point=hem.at)
            found.append(Finding("look", text, place, numbers(stands_out_mm=hem.stands_out_mm)))
    return found


def _within_mitres(folded: shapely.Geometry, seam: Sequence[SeamEdge], k: int) -> shapely.Geometry:
    """Without what lies beyond the mitre's seam at either end: sewn, that allowance is pressed back under the hem."""
    for first, second, own_side in ((seam[k - 1], seam[k], -1), (seam[k], seam[(k + 1) % len(seam)], 1)):
        if first.corner != "hem_mitre" or not (first.is_folded_back and second.is_folded_back):
            continue
        way = mitre_direction(first, second)
        if way is not None:
            d = unit(way)
            aside = (own_side * d[1] * -1, own_side * d[0])
            a, b = along(first.end, d, -_FAR), along(first.end, d, _FAR)
            half = shapely.Polygon([a, b, along(b, aside, _FAR), along(a, aside, _FAR)])
            folded = folded.intersection(half)
    return folded


def _faces(shape: shapely.Geometry) -> shapely.Geometry:
    """Its polygons, without the lines and points in which others only touched it."""
    return shapely.MultiPolygon([g for g in shapely.get_parts(shape) if g.geom_type == "Polygon"])


def _reach(seam: Sequence[SeamEdge], k: int) -> tuple[float, float]:
    """How far beyond its ends an edge's hem may reach: not at all into a neighbour that runs on, or at a concave
    corner."""
    found = []
    for first, second in ((seam[k - 1], seam[k]), (seam[k], seam[(k + 1) % len(seam)])):
        turn = turn_between(tangent_at(first, 1.0), tangent_at(second, 0.0))
        found.append(_FAR if turn > _RUNS_ON_RAD else 0.0)
    return found[0], found[1]


def _strip(
    edge: SeamEdge, t: Point, near: float, far: float, reach: tuple[float, float] = (_FAR, _FAR)
) -> shapely.Polygon:
    """All that lies between `near` and `far` mm outside the edge's line, from `reach` before its start to `reach`
    behind its end."""
    out = (t[1], -t[0])
    ends = [along(edge.start, t, -reach[0]), along(edge.end, t, reach[1])]
    return shapely.Polygon(
        [along(ends[0], out, near), along(ends[0], out, far), along(ends[1], out, far), along(ends[1], out, near)]
    )


def _middle(edge: SeamEdge, t: Point) -> shapely.Point:
    x, y = points_at(edge, np.array([0.5]))[0]
    return shapely.Point(along((float(x), float(y)), (t[1], -t[0]), edge.allowance / 4))


def _reflected(shape: shapely.Geometry, through: Point, t: Point) -> shapely.Geometry:
    """Mirrored in the line through a point along `t`."""
    a, b = t[0] * t[0] - t[1] * t[1], 2 * t[0] * t[1]
    px, py = through
    return affine_transform(shape, [a, b, b, -a, px - a * px - b * py, py - b * px + a * py])

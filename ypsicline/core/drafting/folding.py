"""Hems as they lie once they are folded back, and whether their raw edges lie flush (rule 2, turned corners)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import shapely
from shapely.affinity import affine_transform

from ypsicline.core.drafting.corners import mitre_direction
from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.bends import tightest
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, point_at, tangent_at
from ypsicline.core.geometry.feet import feet_on
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.geometry.plane import along, as_point, turn_between, unit
from ypsicline.core.geometry.regions import faces_of
from ypsicline.core.messages import message
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["FoldedHem", "fold_hems", "folding_findings"]

FLUSH_MM = 0.1
_FINE_MM = 0.5
# by how many allowances a hem on a curve may reach beyond the curve's ends
_AS_FAR = 8.0
_FAR = 1e4
_RUNS_ON_RAD = math.radians(20)


@dataclass(frozen=True)
class FoldedHem:
    """One hem folded back over its edge: `cloth` as it is cut, with what its corners have, `outline` as it then lies, and how
    far it reaches beyond the cloth under it, `stands_out_mm` (0 where its raw edges lie on the neighbours' or inside), at `at`."""

    edge: int
    cloth: tuple[Point, ...]
    outline: tuple[Point, ...]
    stands_out_mm: float
    at: Point | None


def fold_hems(seam: Sequence[SeamEdge], cutting_points: Array) -> tuple[FoldedHem, ...]:
    """Every hem folded at its seam line, and first at its inner fold where it has one.

    The cloth under it is the panel without that hem. On a curve each point comes to lie as far
    inside the seam line as it lay outside, square to it: as if the cloth gave along the edge, of
    which rule 2 says by how much. A hem deeper than its curve's radius can't be folded and is left out.
    """
    # flattened, a narrow inlet may touch itself
    cloth = faces_of(shapely.make_valid(shapely.Polygon(cutting_points)))
    hems = []
    for k, edge in enumerate(seam):
        if not edge.is_folded_back:
            continue
        fold = _Straight(edge, _reach(seam, k)) if edge.kind == "line" else _Curved.of(edge, _reach(seam, k))
        if fold is None:
            continue
        band = cloth.intersection(fold.strip(0.0, edge.allowance + 0.01), grid_size=1e-6)
        own = [g for g in shapely.get_parts(band) if g.geom_type == "Polygon" and g.distance(_middle(edge)) < 1e-6]
        if not own:
            continue
        hem = own[0]
        under = cloth.difference(hem, grid_size=1e-6)
        fold_region = fold.back(faces_of(hem.intersection(fold.strip(0.0, edge.depth))))
        if edge.turn_under > 0:
            inner = faces_of(hem.intersection(fold.strip(edge.depth, edge.allowance + 1.0)))
            fold_region = shapely.union(faces_of(fold_region), faces_of(fold.back(inner, edge.depth)), grid_size=1e-6)
        fold_region = faces_of(_within_mitres(fold_region, seam, k))
        beyond = fold_region.difference(faces_of(under), grid_size=1e-6)
        out, at = 0.0, None
        if beyond.area > 1e-6:
            points = shapely.get_coordinates(beyond)
            gaps = shapely.distance(under, shapely.points(points))
            out, at = float(gaps.max()), as_point(points[gaps.argmax()])
        whole = shapely.union_all([hem, *(_between(cloth, seam, j) for j in (k - 1, k))], grid_size=1e-6)
        hems.append(FoldedHem(k, _ring_of(whole), _ring_of(fold_region), out, at))
    return tuple(hems)


def _between(cloth: shapely.Geometry, seam: Sequence[SeamEdge], k: int) -> shapely.Geometry:
    """The cloth beyond both hems at the corner at the end of edge `k`; none where not both edges have one."""
    before, after = seam[k], seam[(k + 1) % len(seam)]
    ways = tangent_at(before, 1.0), tangent_at(after, 0.0)
    if not (before.is_folded_back and after.is_folded_back) or turn_between(*ways) <= 0:
        return shapely.Polygon()
    far = _AS_FAR * max(before.allowance, after.allowance)
    normals = [(t[1], -t[0]) for t in ways]
    first, second = (along(before.end, n, far) for n in normals)
    wedge = shapely.Polygon([before.end, first, along(first, normals[1], far), second])
    parts = shapely.get_parts(faces_of(cloth.intersection(wedge, grid_size=1e-6)))
    return shapely.union_all([g for g in parts if g.distance(shapely.Point(before.end)) < 1e-6])


def _ring_of(region: shapely.Geometry) -> tuple[Point, ...]:
    """The outline of a region's largest part."""
    largest = max(shapely.get_parts(region), key=lambda g: float(g.area), default=None)
    return () if largest is None else tuple(as_point(p) for p in shapely.get_coordinates(largest.exterior)[:-1])


@dataclass(frozen=True)
class _Straight:
    """Folding at a straight edge; its hem may reach so far before its start and behind its end."""

    edge: SeamEdge
    reach: tuple[float, float]

    def strip(self, near: float, far: float) -> shapely.Polygon:
        """All that lies between `near` and `far` mm outside the edge."""
        edge, t = self.edge, tangent_at(self.edge, 0.5)
        out = (t[1], -t[0])
        ends = [along(edge.start, t, -self.reach[0]), along(edge.end, t, self.reach[1])]
        return shapely.Polygon(
            [along(ends[0], out, near), along(ends[0], out, far), along(ends[1], out, far), along(ends[1], out, near)]
        )

    def back(self, shape: shapely.Geometry, turned_at: float | None = None) -> shapely.Geometry:
        """A shape outside the edge folded over it; first turned under so far out, if it is."""
        edge, t = self.edge, tangent_at(self.edge, 0.5)
        if turned_at is not None:
            shape = _reflected(shape, along(edge.start, (t[1], -t[0]), turned_at), t)
        return _reflected(shape, edge.start, t)


@dataclass(frozen=True)
class _Curved:
    """Folding at a curved edge, led straight on at its ends as far as its hem may reach."""

    edge: SeamEdge
    reach: tuple[float, float]

    @classmethod
    def of(cls, edge: SeamEdge, reach: tuple[float, float]) -> _Curved | None:
        """None where the hem is too deep for the curve."""
        if (tightest(edge) or math.inf) <= edge.allowance:
            return None
        far = _AS_FAR * edge.allowance
        return cls(edge, (min(reach[0], far), min(reach[1], far)))

    def strip(self, near: float, far: float) -> shapely.Polygon:
        sides = [_led_on(parallel(self.edge, out), self.reach) for out in (near, far)]
        return shapely.make_valid(shapely.Polygon([*sides[0], *reversed(sides[1])]))

    def back(self, shape: shapely.Geometry, turned_at: float | None = None) -> shapely.Geometry:
        def folded(points: Array) -> Array:
            feet, inward = feet_on(self.edge, points)
            out = -((points - feet) * inward).sum(axis=1)
            # beyond the inner fold the cloth comes back towards the seam line
            depth = out if turned_at is None else 2 * turned_at - out
            return feet + depth[:, None] * inward

        return shapely.make_valid(shapely.transform(shapely.segmentize(shape, _FINE_MM), folded))


def _led_on(edge: Edge, reach: tuple[float, float]) -> list[Point]:
    """The edge as points, led straight on by `reach` before its start and behind its end."""
    t0, t1 = tangent_at(edge, 0.0), tangent_at(edge, 1.0)
    flat = [(float(x), float(y)) for x, y in flatten(edge)]
    return [along(flat[0], t0, -reach[0]), *flat, along(flat[-1], t1, reach[1])]


def folding_findings(seam: Sequence[SeamEdge], hems: Sequence[FoldedHem]) -> list[Finding]:
    """What a folded hem's ends that stand out are, in words."""
    findings = []
    for hem in hems:
        if hem.stands_out_mm > FLUSH_MM:
            edge = seam[hem.edge]
            text = message("hem_stands_out", edge=edge.name, stands_out_mm=hem.stands_out_mm)
            findings.append(Finding("look", text, Place(edge=edge.name, point=hem.at)))
    return findings


def _within_mitres(region: shapely.Geometry, seam: Sequence[SeamEdge], k: int) -> shapely.Geometry:
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
            region = region.intersection(half)
    return region


def _reach(seam: Sequence[SeamEdge], k: int) -> tuple[float, float]:
    """How far beyond its ends an edge's hem may reach: not at all into a neighbour that runs on, or at a concave
    corner."""
    reaches = []
    for first, second in ((seam[k - 1], seam[k]), (seam[k], seam[(k + 1) % len(seam)])):
        turn = turn_between(tangent_at(first, 1.0), tangent_at(second, 0.0))
        reaches.append(_FAR if turn > _RUNS_ON_RAD else 0.0)
    return reaches[0], reaches[1]


def _middle(edge: SeamEdge) -> shapely.Point:
    t = tangent_at(edge, 0.5)
    return shapely.Point(along(point_at(edge, 0.5), (t[1], -t[0]), edge.allowance / 4))


def _reflected(shape: shapely.Geometry, through: Point, t: Point) -> shapely.Geometry:
    """Mirrored in the line through a point along `t`."""
    a, b = t[0] * t[0] - t[1] * t[1], 2 * t[0] * t[1]
    px, py = through
    return affine_transform(shape, [a, b, b, -a, px - a * px - b * py, py - b * px + a * py])

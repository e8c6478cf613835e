"""The corners of a cutting line: how two neighbours' allowances are joined (rule 2)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ypsicline.core.drafting.panel import CornerKind, SeamEdge
from ypsicline.core.geometry.edges import Edge, Point, tangent_at
from ypsicline.core.geometry.plane import along, dot, meet, minus, turn_between

__all__ = ["HEM_MITRE_ALLOWANCE_MM", "MITRE_LIMIT", "Meeting", "corner_by_rule", "corner_points", "mitre_direction"]

MITRE_LIMIT = 3.0
HEM_MITRE_ALLOWANCE_MM = 6.0
_SMOOTH_RAD = math.radians(0.5)


@dataclass(frozen=True)
class Meeting:
    """Two neighbours at a corner: the seam edges, their parallels, and the unit directions of travel there."""

    first: SeamEdge
    second: SeamEdge
    out: Edge
    into: Edge
    t1: Point
    t2: Point
    turn: float

    @classmethod
    def of(cls, first: SeamEdge, second: SeamEdge, out: Edge, into: Edge) -> Meeting:
        t1, t2 = tangent_at(first, 1.0), tangent_at(second, 0.0)
        return cls(first, second, out, into, t1, t2, turn_between(t1, t2))

    @property
    def vertex(self) -> Point:
        return self.first.end

    @property
    def is_smooth(self) -> bool:
        return abs(self.turn) < _SMOOTH_RAD

    def crossing(self) -> Point | None:
        """Where the two parallels meet, prolonged straight on."""
        return meet(self.out.end, self.t1, self.into.start, self.t2)


def corner_by_rule(first: SeamEdge, second: SeamEdge) -> CornerKind:
    """The kind of corner that two finishes ask for where the maker leaves it to the rule."""
    if first.corner != "by_rule":
        return first.corner
    if first.is_folded_back and second.is_folded_back:
        return "hem_mitre"
    if first.is_folded_back or second.is_folded_back:
        return "mirror"
    return "mitre"


def corner_points(m: Meeting, mitre_limit: float = MITRE_LIMIT) -> list[Point]:
    """The points of the cutting line between the end of one parallel and the start of the next.

    At a concave corner the parallels' own crossing or, where one of them curves, the vertex. A
    mitre longer than `mitre_limit` times the wider allowance is bevelled.
    """
    both_lines = m.first.kind == "line" and m.second.kind == "line"
    if m.is_smooth:
        crossing = m.crossing() if both_lines and m.first.allowance == m.second.allowance else None
        return [crossing] if crossing else []
    crossing = m.crossing()
    if m.turn < 0:
        return [crossing] if both_lines and crossing else [m.vertex]
    widest = max(m.first.allowance, m.second.allowance)
    kind = corner_by_rule(m.first, m.second)
    if widest == 0 or kind == "bevel" or crossing is None:
        return []
    if kind == "square":
        return [m.vertex]
    if kind in ("mirror", "hem_mitre"):
        both = kind == "hem_mitre" and m.first.is_folded_back and m.second.is_folded_back
        folded = _hem_mitre(m) if both else _turned(m)
        # at a sharp point a turned end would flare out without end
        if folded and max(math.dist(p, m.vertex) for p in folded) <= 2 * mitre_limit * widest:
            return folded
    return [crossing] if math.dist(crossing, m.vertex) <= mitre_limit * widest * (1 + 1e-9) else []


def _turned(m: Meeting) -> list[Point]:
    """A turned corner: folded back at each of its folds, the edge's raw end lies on the neighbour's cutting line."""
    if m.first.is_folded_back or not m.second.is_folded_back:
        return _unfolded(m.first, m.vertex, m.t1, m.into.start, m.t2)[::-1]
    return _unfolded(m.second, m.vertex, m.t2, m.out.end, m.t1)


def _unfolded(edge: SeamEdge, vertex: Point, t: Point, on: Point, direction: Point) -> list[Point]:
    """Where the line through `on` along `direction` lies on the edge's allowance before that is folded back over
    the edge (which runs along `t` at `vertex`): points from the fold out to the rim; none where the line never
    crosses the fold."""
    inward = (-t[1], t[0])
    slope = dot(direction, inward)
    if abs(slope) < 1e-9:
        return []
    found = []
    for out in _folds(edge):
        # beyond the second fold the cloth comes back towards the first
        depth = out if out <= edge.depth else 2 * edge.depth - out
        there = along(on, direction, (depth - dot(minus(on, vertex), inward)) / slope)
        found.append(along(along(vertex, t, dot(minus(there, vertex), t)), inward, -out))
    return found


def _folds(edge: SeamEdge) -> tuple[float, ...]:
    """How far out from the seam line the folds and the rim lie, mm."""
    if edge.turn_under > 0:
        return 0.0, edge.depth, edge.allowance
    return 0.0, edge.allowance


def mitre_direction(first: SeamEdge, second: SeamEdge) -> Point | None:
    """Which way from the corner the folded hems of two edges meet: to where their inner rims cross."""
    vertex, t1, t2 = first.end, tangent_at(first, 1.0), tangent_at(second, 0.0)
    inner1, inner2 = along(vertex, (-t1[1], t1[0]), first.depth), along(vertex, (-t2[1], t2[0]), second.depth)
    within = meet(inner1, t1, inner2, t2)
    return None if within is None else minus(within, vertex)


def _hem_mitre(m: Meeting) -> list[Point]:
    """Both hems are cut along the line on which they meet when folded, plus a sewing allowance.

    That line runs from the corner to where the hems' inner rims cross, on the bisector where the
    hems are alike. Nothing comes back where the plain corner is smaller than that.
    """
    direction = mitre_direction(m.first, m.second)
    if direction is None:
        return []
    one = _unfolded(m.first, m.vertex, m.t1, m.vertex, direction)
    two = _unfolded(m.second, m.vertex, m.t2, m.vertex, direction)
    if not one or not two:
        return []
    mitre = [*reversed(one), *two[1:]]
    rims = ((m.out.end, m.t1), (m.into.start, m.t2))
    moved = []
    # a shallow hem hasn't the cloth for the whole sewing allowance
    sewn = min(HEM_MITRE_ALLOWANCE_MM, m.first.depth / 2, m.second.depth / 2)
    for a, b in zip(mitre[:-1], mitre[1:], strict=True):
        d = minus(b, a)
        length = math.hypot(*d)
        if length < 1e-9:
            continue
        moved.append(((a[0] + sewn * d[1] / length, a[1] - sewn * d[0] / length), d))
    points: list[Point] = []
    for (p, u), (q, v) in zip([rims[0], *moved], [*moved, rims[1]], strict=True):
        at = meet(p, u, q, v)
        if at is not None:
            points.append(at)
    crossing = m.crossing()
    # the cut must come before the plain corner on both rims, else there is no cloth to mitre
    if crossing and (dot(minus(crossing, points[0]), m.t1) < 0 or dot(minus(points[-1], crossing), m.t2) < 0):
        return []
    return points

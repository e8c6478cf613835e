"""The corners of a cutting line: how two neighbours' allowances are joined (rule 2)."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely

from ypsicline.core.drafting.bent_hems import can_be_folded
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, tangent_at
from ypsicline.core.geometry.feet import feet_on
from ypsicline.core.geometry.plane import along, dot, meet, minus
from ypsicline.core.pattern.seam_edge import CornerKind, SeamEdge

__all__ = [
    "HEM_MITRE_ALLOWANCE_MM",
    "MITRE_LIMIT",
    "THINNEST_RAD",
    "Corner",
    "Meeting",
    "corner_by_rule",
    "drawn_corner",
    "mitre_direction",
]

MITRE_LIMIT = 3.0
HEM_MITRE_ALLOWANCE_MM = 6.0
# a point that is thinner can't be folded, nor hardly cut or sewn
THINNEST_RAD = math.radians(5)
_SMOOTH_RAD = math.radians(0.5)
_AS_FAR = 6.0
_SAMPLES = 9
_EXACTLY_MM = 0.001


class Meeting(NamedTuple):
    """Two neighbours at a corner: the seam edges, their parallels, and the unit directions of travel there."""

    first: SeamEdge
    second: SeamEdge
    out: Edge
    into: Edge
    t1: Point
    t2: Point
    turn: float

    @property
    def vertex(self) -> Point:
        return self.first.end

    @property
    def is_smooth(self) -> bool:
        return abs(self.turn) < _SMOOTH_RAD

    def crossing(self) -> Point | None:
        """Where the two parallels meet, prolonged straight on."""
        return meet(self.out.end, self.t1, self.into.start, self.t2)


class Corner(NamedTuple):
    """The points of the cutting line between the end of one parallel and the start of the next; `flares` where a turned
    corner would have stood out too far, so that a plain one is drawn."""

    points: list[Point]
    flares: bool = False


def corner_by_rule(first: SeamEdge, second: SeamEdge) -> CornerKind:
    """The kind of corner that two finishes ask for where the maker leaves it to the rule."""
    if first.corner != "by_rule":
        return first.corner
    if first.is_folded_back and second.is_folded_back:
        return "hem_mitre"
    if first.is_folded_back or second.is_folded_back:
        return "mirror"
    return "mitre"


def drawn_corner(m: Meeting, mitre_limit: float = MITRE_LIMIT) -> Corner:
    """The corner between two neighbours.

    At a concave corner the parallels' own crossing or, where one of them curves, the vertex. A
    mitre longer than `mitre_limit` times the wider allowance is bevelled.
    """
    if m.is_smooth or m.turn < 0:
        return Corner(_smooth_corner(m) if m.is_smooth else _concave_corner(m, mitre_limit))
    kind, crossing = corner_by_rule(m.first, m.second), m.crossing()
    widest = max(m.first.allowance, m.second.allowance)
    if widest == 0 or kind == "bevel" or crossing is None:
        return Corner([])
    if kind == "square":
        return Corner([m.vertex])
    points = _folded_corner(m) if kind in ("mirror", "hem_mitre") else []
    # at a sharp point a turned end would flare out without end
    flares = bool(points) and max(math.dist(p, m.vertex) for p in points) > 2 * mitre_limit * widest
    if points and not flares:
        return Corner(points)
    is_near = math.dist(crossing, m.vertex) <= mitre_limit * widest * (1 + 1e-9)
    return Corner([crossing] if is_near else [], flares)


def _smooth_corner(m: Meeting) -> list[Point]:
    both_lines = m.first.kind == "line" and m.second.kind == "line"
    crossing = m.crossing() if both_lines and m.first.allowance == m.second.allowance else None
    return [crossing] if crossing else []


def _concave_corner(m: Meeting, mitre_limit: float) -> list[Point]:
    crossing = m.crossing()
    if crossing is None or m.first.kind != "line" or m.second.kind != "line":
        return [m.vertex]
    # the wider of two allowances isn't led far along its neighbour's
    far = mitre_limit * max(m.first.allowance, m.second.allowance)
    is_led = m.first.allowance == m.second.allowance or math.dist(crossing, m.vertex) <= far
    return [crossing] if is_led else [m.vertex]


def _folded_corner(m: Meeting) -> list[Point]:
    """The corner that hems ask for; none where nothing is folded back, or can be."""
    folded_back = (m.first.is_folded_back, m.second.is_folded_back)
    can_fold = can_be_folded(m.first) and can_be_folded(m.second)
    if not any(folded_back) or m.turn >= math.pi - THINNEST_RAD or not can_fold:
        return []
    return _hem_mitre(m) if all(folded_back) else _turned(m)


def _turned(m: Meeting) -> list[Point]:
    """A turned corner: folded back at each of its folds, the edge's raw end lies on the neighbour's cutting line."""
    if m.first.is_folded_back:
        return _unfolded(m.first, m.vertex, m.t1, m.into.start, m.t2, m.into)[::-1]
    return _unfolded(m.second, m.vertex, m.t2, m.out.end, m.t1, m.out)


def _unfolded(
    edge: SeamEdge, vertex: Point, t: Point, on: Point, direction: Point, along_edge: Edge | None = None
) -> list[Point]:
    """Where the line through `on` along `direction` lies on the edge's allowance before that is folded back over
    the edge (which runs along `t` at `vertex`): points from the fold out to the rim; none where the line never
    crosses the fold. `along_edge` is the line where it bends, led straight on through `on`."""
    if edge.kind != "line" or (along_edge is not None and along_edge.kind != "line"):
        line = _led_through(on, direction, along_edge, max(edge.allowance, 1.0))
        return _unfolded_on_curve(edge, vertex, line, 2 if along_edge is None else _SAMPLES)
    inward = (-t[1], t[0])
    slope = dot(direction, inward)
    if abs(slope) < 1e-9:
        return []
    lines = []
    for out in _folds(edge):
        # beyond the second fold the cloth comes back towards the first
        depth = out if out <= edge.depth else 2 * edge.depth - out
        there = along(on, direction, (depth - dot(minus(on, vertex), inward)) / slope)
        lines.append(along(along(vertex, t, dot(minus(there, vertex), t)), inward, -out))
    return lines


def _led_through(on: Point, direction: Point, curve: Edge | None, reach: float) -> Array:
    """The straight line through `on`, or an edge that begins or ends there led straight on, as points (n, 2) that lie
    close together; some `reach` to either side."""
    far = _AS_FAR * reach
    straight = [along(on, direction, -far), along(on, direction, far)]
    if curve is not None and curve.kind != "line":
        own = [(float(x), float(y)) for x, y in flatten(curve, _EXACTLY_MM)]
        straight = [straight[0], *own] if math.dist(on, curve.start) < math.dist(on, curve.end) else [*own, straight[1]]
    return shapely.get_coordinates(shapely.segmentize(shapely.LineString(straight), max(reach / 40, 0.05)))


def _unfolded_on_curve(edge: SeamEdge, vertex: Point, line: Array, samples: int) -> list[Point]:
    """The same where the edge or the line bends: each point of the line inside the edge is laid as far outside it,
    square to it; `samples` points from fold to fold."""
    feet, inward = feet_on(edge, line)
    depth = ((line - feet) * inward).sum(axis=1)
    crossings = np.flatnonzero(depth[:-1] * depth[1:] <= 0)
    if not len(crossings):
        return []
    near, far = depth[crossings], depth[crossings + 1]
    share = near / np.where(near == far, 1.0, near - far)
    on_fold = line[crossings] + share[:, None] * (line[crossings + 1] - line[crossings])
    at = int(crossings[np.hypot(*(on_fold - np.asarray(vertex)).T).argmin()])
    # from the fold inward, as far as it goes deeper
    way = np.arange(at + 1, len(line)) if depth[at + 1] > depth[at] else np.arange(at, -1, -1)
    before = at if depth[at + 1] > depth[at] else at + 1
    way = np.concatenate([[before], way])
    falls = np.flatnonzero(np.diff(depth[way]) <= 0)
    way = way[: falls[0] + 1] if len(falls) else way
    if len(way) < 2 or depth[way[-1]] < edge.depth:
        return []
    outs = np.unique(np.concatenate([np.linspace(a, b, samples) for a, b in pairwise(_folds(edge))]))
    depths = np.where(outs <= edge.depth, outs, 2 * edge.depth - outs)
    there = np.column_stack([np.interp(depths, depth[way], line[way, k]) for k in (0, 1)])
    # between two points of the line the depth doesn't grow quite evenly
    feet, inward = feet_on(edge, there)
    missing = depths - ((there - feet) * inward).sum(axis=1)
    step = np.clip(np.searchsorted(depth[way], depths), 1, len(way) - 1)
    a, b = way[step - 1], way[step]
    there = there + (missing / (depth[b] - depth[a]))[:, None] * (line[b] - line[a])
    feet, inward = feet_on(edge, there)
    return [(x, y) for x, y in (feet - outs[:, None] * inward).tolist()]


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
    lines = []
    # a shallow hem hasn't the cloth for the whole sewing allowance
    allowance = min(HEM_MITRE_ALLOWANCE_MM, m.first.depth / 2, m.second.depth / 2)
    for a, b in zip(mitre[:-1], mitre[1:], strict=True):
        d = minus(b, a)
        length = math.hypot(*d)
        if length < 1e-9:
            continue
        lines.append(((a[0] + allowance * d[1] / length, a[1] - allowance * d[0] / length), d))
    points: list[Point] = []
    for (p, u), (q, v) in zip([rims[0], *lines], [*lines, rims[1]], strict=True):
        at = meet(p, u, q, v)
        if at is not None:
            points.append(at)
    crossing = m.crossing()
    # the cut must come before the plain corner on both rims, else there is no cloth to mitre
    if crossing and (dot(minus(crossing, points[0]), m.t1) < 0 or dot(minus(points[-1], crossing), m.t2) < 0):
        return []
    return points

"""Outlines from a tape measure, for what can't be photographed."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import scipy

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten, tangent_at
from ypsicline.core.messages import Message, Value, message
from ypsicline.core.trueing.shape import DEFAULT_TOLERANCE_MM, Joint, Shape, TracedRing

__all__ = ["MeasuredOutline", "four_sided", "from_edges", "from_stations", "rectangle", "round_of_girth"]

LONGEST_MM = 20_000.0
MOST_STATIONS = 200
_FLAT_MM = 0.005
# by more a tape isn't off: mm, and of what it measures
TAPE_OFF_MM, TAPE_OFF_SHARE = 3.0, 0.005
_SAME_WAY = math.cos(math.radians(1.5))


@dataclass(frozen=True)
class MeasuredOutline:
    """The outline's edges, counter-clockwise in mm, how far each measure is from what was typed
    (outline − tape, mm), and the working."""

    edges: tuple[Edge, ...]
    residuals: Mapping[str, float]
    workings: tuple[Message, ...]


def four_sided(
    ab: float,
    bc: float,
    cd: float,
    da: float,
    ac: float | None = None,
    bd: float | None = None,
    *,
    symmetric: bool = False,
    called: Mapping[str, str | Message] | None = None,
) -> MeasuredOutline:
    """Four corners A, B, C, D counter-clockwise, A at the origin and B on the x axis, from sides and diagonals.

    One diagonal fixes the shape; both over-determine it and all six measures are fitted by least
    squares. With neither, only a `symmetric` one (DA = BC, an isosceles trapezoid) is known.
    Measures are `called` by their corners where nothing else is said. Raises `Refusal` that names the measure which can't
    be right, and where they contradict one another by more than a tape is off that which fits worst.
    """
    sides = {"AB": ab, "BC": bc, "CD": cd, "DA": da}
    measures = sides | {k: v for k, v in (("AC", ac), ("BD", bd)) if v is not None}
    call = {k: (called or {}).get(k, k) for k in (*sides, "AC", "BD")}
    _check_lengths({call[k]: v for k, v in measures.items()})
    if ac is None and bd is None:
        points = _trapezoid(ab, bc, cd, da, symmetric=symmetric)
    else:
        points = _from_diagonal(measures, call)
    if ac is not None and bd is not None:
        points = _fitted(points, measures, call)
    names = "ABCD"
    lengths = {k: math.dist(points[names.index(k[0])], points[names.index(k[1])]) for k in measures}
    residuals = {k: lengths[k] - measures[k] for k in measures}
    corners = [(float(x), float(y)) for x, y in points]
    edges = tuple(Edge("line", (corners[k], corners[(k + 1) % 4])) for k in range(4))
    worst = max(residuals, key=lambda k: abs(residuals[k]))
    if abs(residuals[worst]) > max(TAPE_OFF_MM, TAPE_OFF_SHARE * measures[worst]):
        figures = {"given_mm": measures[worst], "found_mm": lengths[worst], "off_mm": abs(residuals[worst])}
        raise Refusal(message("measures_contradict", measure=call[worst], **figures), "measure")
    if ac is not None and bd is not None:
        workings = message("measures_agree", within_mm=abs(residuals[worst]), measure=call[worst])
    else:
        come_to = {d: math.dist(points[names.index(d[0])], points[names.index(d[1])]) for d in ("AC", "BD")}
        first, *rest = [d for d in come_to if d not in measures]
        more: dict[str, Value] = {"other": call[rest[0]], "other_mm": come_to[rest[0]]} if rest else {}
        workings = message(
            "diagonals_come_to" if rest else "diagonal_comes_to", diagonal=call[first], length_mm=come_to[first], **more
        )
    return MeasuredOutline(edges, residuals, (workings,))


def rectangle(
    width: float, length: float, *, radius: float | None = None, diagonal: float | None = None
) -> MeasuredOutline:
    """A rectangle centred on the origin, its corners rounded by `radius`, or by what the `diagonal` through the
    rounded corners tells of it (rule: half of it is the farthest point along the direction of the corner). Raises
    `Refusal` for a radius that doesn't fit."""
    _check_lengths({"width": width, "length": length})
    workings: tuple[Message, ...] = ()
    if diagonal is not None:
        radius = corner_radius(width, length, diagonal)
        workings = (message("corner_radius_found", diagonal_mm=diagonal, radius_mm=radius),)
    r = radius or 0.0
    most = min(width, length) / 2
    if not 0 <= r <= most:
        raise Refusal(message("radius_doesnt_fit", radius_mm=r, most_mm=most), "measure")
    if most - r < 0.02:
        r = most
    x, y = width / 2, length / 2
    if r < 0.05:
        corners = [(-x, -y), (x, -y), (x, y), (-x, y)]
        return MeasuredOutline(tuple(Edge("line", (corners[k], corners[(k + 1) % 4])) for k in range(4)), {}, workings)
    edges: list[Edge] = []
    q = r * math.sqrt(0.5)
    for (cx, cy), (ux, uy) in (
        ((x - r, -y + r), (1, -1)),
        ((x - r, y - r), (1, 1)),
        ((-x + r, y - r), (-1, 1)),
        ((-x + r, -y + r), (-1, -1)),
    ):
        start, end = ((cx, cy + uy * r), (cx + ux * r, cy)) if ux * uy < 0 else ((cx + ux * r, cy), (cx, cy + uy * r))
        if edges and math.dist(edges[-1].end, start) > 1e-9:
            edges.append(Edge("line", (edges[-1].end, start)))
        edges.append(Edge("arc", (start, (cx + ux * q, cy + uy * q), end)))
    if math.dist(edges[-1].end, edges[0].start) > 1e-9:
        edges.append(Edge("line", (edges[-1].end, edges[0].start)))
    return MeasuredOutline(tuple(edges), {}, workings)


def corner_radius(width: float, length: float, diagonal: float) -> float:
    """The radius of four equal corner arcs from the diagonal measured through them; raises `Refusal` beyond both ends.

    With u the unit direction of the corner and c = (w/2 − r, l/2 − r): D/2 = c·u + √(r² − |c|² + (c·u)²).
    """
    u = np.array([width, length]) / math.hypot(width, length)
    most = min(width, length) / 2

    def half(r: float) -> float:
        c = np.array([width / 2 - r, length / 2 - r])
        along = float(c @ u)
        return along + math.sqrt(max(r * r - float(c @ c) + along * along, 0.0))

    sharp, least = math.hypot(width, length), 2 * half(most)
    if diagonal > sharp + 0.5 or diagonal < least - 0.5:
        figures = {"diagonal_mm": diagonal, "sharp_mm": sharp, "least_mm": least}
        raise Refusal(message("diagonal_cant_be", **figures), "measure")
    if diagonal >= sharp:
        return 0.0
    if diagonal <= least:
        return most
    return float(scipy.optimize.brentq(lambda r: 2 * half(r) - diagonal, 0.0, most, xtol=1e-6))


def round_of_girth(girth: float, *, pencil: float = 0.0) -> MeasuredOutline:
    """A circle by its girth; `pencil` is how far a line drawn round it stands off. Raises `Refusal` where that is
    more than the radius."""
    _check_lengths({"girth": girth})
    r = girth / (2 * math.pi) - pencil
    if r <= 0:
        raise Refusal(message("pencil_wider_than_radius"), "measure")
    edges = (Edge("arc", ((-r, 0.0), (0.0, -r), (r, 0.0))), Edge("arc", ((r, 0.0), (0.0, r), (-r, 0.0))))
    stands_off = {"pencil_mm": pencil} if pencil else {}
    workings = message(
        "girth_of_pencil_across" if pencil else "girth_across", girth_mm=girth, across_mm=2 * r, **stands_off
    )
    return MeasuredOutline(edges, {}, (workings,))


def from_stations(stations: Sequence[tuple[float, float, float]], *, smooth: bool = True) -> MeasuredOutline:
    """An outline from offsets: at each station along the base line, how far its lower and upper side lie from it.

    Stations (along, lower, upper) in mm, lower ≤ upper; at the first and the last both sides may
    meet. The sides are smooth curves through the offsets, or straight from one to the next.

    Raises `Refusal` for too few or too many stations, for two at one place, and for one that is upside down.
    """
    if not 3 <= len(stations) <= MOST_STATIONS:
        raise Refusal(message("stations_out_of_range", most_stations=MOST_STATIONS, count=len(stations)), "measure")
    table = np.array(sorted(stations), dtype=float)
    if not np.isfinite(table).all() or np.abs(table).max() > LONGEST_MM:
        raise Refusal(message("measure_missing", most=LONGEST_MM / 1000), "measure")
    for (a, low, high), (b, _, _) in zip(table, [*table[1:], (math.inf, 0, 0)], strict=True):
        if b - a < 1:
            raise Refusal(message("stations_at_one_place", at_mm=a), "measure")
        if low > high:
            raise Refusal(message("station_upside_down", at_mm=a), "measure")
    lower = _side(table[:, [0, 1]], smooth=smooth)
    upper = _side(table[::-1, [0, 2]], smooth=smooth)
    edges = [*lower]
    for side in (upper, lower):
        start = edges[-1].end
        if math.dist(start, side[0].start) > 0.05:
            edges.append(Edge("line", (start, side[0].start)))
        if side is upper:
            edges += upper
    return MeasuredOutline(tuple(edges), {}, ())


def from_edges(edges: Sequence[Edge], *, tolerance_mm: float = DEFAULT_TOLERANCE_MM) -> Shape:
    """A shape to be trued up further, whose edges are just these (a counter-clockwise ring)."""
    points: list[Point] = []
    joints: list[Joint] = []
    along = 0.0
    for k, edge in enumerate(edges):
        smooth = _runs_on(edges[k - 1], edge)
        joints.append(Joint(along, edge.start, smooth, edge.kind))
        flat = flatten(edge, _FLAT_MM)
        points += [(float(x), float(y)) for x, y in flat[:-1]]
        along += float(np.hypot(*np.diff(flat, axis=0).T).sum())
    return Shape(TracedRing(tuple(points), tuple(joints)), (), tolerance_mm)


def _runs_on(before: Edge, after: Edge) -> bool:
    (ux, uy), (vx, vy) = tangent_at(before, 1.0), tangent_at(after, 0.0)
    return ux * vx + uy * vy > _SAME_WAY


def _check_lengths(lengths: Mapping[str | Message, float]) -> None:
    for name, value in lengths.items():
        if not 0 < value <= LONGEST_MM:
            text = message("measure_out_of_range", measure=name, length_mm=value, most_mm=LONGEST_MM)
            raise Refusal(text, "measure")


def _triangle(a: str, b: str, c: str, lengths: Mapping[str, float], call: Mapping[str, str | Message]) -> None:
    """Raise `Refusal` where one of three lengths is longer than the others together."""
    for long, one, two in ((a, b, c), (b, a, c), (c, a, b)):
        if lengths[long] >= lengths[one] + lengths[two]:
            figures = {"length_mm": lengths[long], "together_mm": lengths[one] + lengths[two]}
            raise Refusal(
                message("triangle_cant_be", measure=call[long], one=call[one], two=call[two], **figures), "measure"
            )


def _third(p: Array, q: Array, from_p: float, from_q: float) -> Array:
    """The point left of the way from p to q at these distances from both."""
    d = float(np.hypot(*(q - p)))
    along = (from_p**2 - from_q**2 + d * d) / (2 * d)
    aside = math.sqrt(max(from_p**2 - along**2, 0.0))
    u = (q - p) / d
    return np.asarray(p + along * u + aside * np.array([-u[1], u[0]]))


def _from_diagonal(measures: Mapping[str, float], call: Mapping[str, str | Message]) -> Array:
    ab, bc, cd, da = (measures[k] for k in ("AB", "BC", "CD", "DA"))
    a, b = np.zeros(2), np.array([ab, 0.0])
    if "AC" in measures:
        _triangle("AC", "AB", "BC", measures, call)
        _triangle("AC", "CD", "DA", measures, call)
        c = _third(a, b, measures["AC"], bc)
        return np.array([a, b, c, _third(a, c, da, cd)])
    _triangle("BD", "AB", "DA", measures, call)
    _triangle("BD", "BC", "CD", measures, call)
    d = _third(a, b, da, measures["BD"])
    return np.array([a, b, _third(d, b, cd, bc), d])


def _trapezoid(ab: float, bc: float, cd: float, da: float, *, symmetric: bool) -> Array:
    if not symmetric:
        raise Refusal(message("four_sides_can_lean"), "measure")
    slant, short = (bc + da) / 2, (ab - cd) / 2
    if abs(bc - da) > 0.02 * slant:
        raise Refusal(message("cant_be_symmetric", bc_mm=bc, da_mm=da), "measure")
    if abs(short) >= slant:
        raise Refusal(message("sides_cant_bridge", ab_mm=ab, cd_mm=cd), "measure")
    height = math.sqrt(slant**2 - short**2)
    return np.array([[0, 0], [ab, 0], [ab - short, height], [short, height]])


def _fitted(start: Array, measures: Mapping[str, float], call: Mapping[str, str | Message]) -> Array:
    pairs = [("ABCD".index(k[0]), "ABCD".index(k[1]), v) for k, v in measures.items()]

    def misses(p: Array) -> Array:
        points = np.array([[0, 0], [p[0], 0], p[1:3], p[3:5]], dtype=float)
        return np.array([math.dist(points[i], points[j]) - v for i, j, v in pairs])

    fit = scipy.optimize.least_squares(misses, [start[1, 0], *start[2], *start[3]], xtol=1e-12)
    worst = max(zip(measures, np.abs(fit.fun), strict=True), key=lambda kv: kv[1])
    if worst[1] > 0.03 * max(measures.values()):
        raise Refusal(message("measures_dont_fit", measure=call[worst[0]], out_mm=worst[1]), "measure")
    x = fit.x
    return np.array([[0, 0], [x[0], 0], x[1:3], x[3:5]])


def _side(points: Array, *, smooth: bool) -> list[Edge]:
    """A smooth curve (Catmull-Rom with chord-length knots, as cubic Béziers) or straight edges through the points."""
    ends = [(float(x), float(y)) for x, y in points]
    if not smooth:
        return [Edge("line", pair) for pair in zip(ends[:-1], ends[1:], strict=True)]
    step = np.hypot(*np.diff(points, axis=0).T)
    slopes = np.diff(points, axis=0) / step[:, None]
    tangents = np.vstack(
        [
            slopes[:1],
            (slopes[:-1] * step[1:, None] + slopes[1:] * step[:-1, None]) / (step[:-1] + step[1:])[:, None],
            slopes[-1:],
        ]
    )
    handles: list[Point] = [ends[0]]
    for k in range(len(step)):
        for p in (points[k] + tangents[k] * step[k] / 3, points[k + 1] - tangents[k + 1] * step[k] / 3, points[k + 1]):
            handles.append((float(p[0]), float(p[1])))
    return [Edge("curve", tuple(handles))]

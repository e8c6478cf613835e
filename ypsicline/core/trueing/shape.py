"""A traced outline trued up: joints between edges, each edge a line, an arc or a smooth curve."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Array, Edge, Point, circle_of, edge_length
from ypsicline.core.geometry.rings import even_ring, signed_area
from ypsicline.core.messages import message
from ypsicline.core.trueing.corners import find_corners, split_smooth_run
from ypsicline.core.trueing.fitting import deviation, fit_arc, fit_curve, fit_line

__all__ = [
    "Division", "Joint", "Shape", "TracedRing", "TrueEdge", "add_joint", "known_joint", "letter", "move_joint", "remove_joint",
    "set_edge_kind", "set_smooth", "trace_ring", "true_edges", "true_up",
]  # fmt: skip

EdgeKindChoice = Literal["auto", "line", "arc", "curve"]

DEFAULT_TOLERANCE_MM = 0.5
MAX_JOINTS = 400
_CLEAR_OF_CORNER_MM = 1.5
_LOOK_BACK_MM = 12.0
_CORNER_MOVES_AT_MOST_MM = 3.0


@dataclass(frozen=True)
class Joint:
    """Where an edge ends and the next begins.

    `along_mm` is its place on the traced ring; `point` where it stands, which a maker may have
    dragged off the trace. `smooth`: the edges run on without a corner. `next_kind` is what the
    maker wants the following edge to be.
    """

    along_mm: float
    point: Point
    smooth: bool = False
    next_kind: EdgeKindChoice = "auto"


@dataclass(frozen=True)
class TracedRing:
    """The trace as it was captured, points in mm, and the joints on it, in order along it."""

    points: tuple[Point, ...]
    joints: tuple[Joint, ...]


@dataclass(frozen=True)
class Division:
    """The outline is marked in `parts` of equal length, from the joint that stands at `start`."""

    start: Point
    parts: int

    def __post_init__(self) -> None:
        if self.parts not in (2, 4, 8):
            raise Refusal(message("marked_in_eighths_at_most"), "divide")


@dataclass(frozen=True)
class Shape:
    """What was captured of one piece: outline counter-clockwise, holes clockwise."""

    outline: TracedRing
    holes: tuple[TracedRing, ...] = ()
    tolerance_mm: float = DEFAULT_TOLERANCE_MM
    error_mm: float | None = None
    division: Division | None = None


@dataclass(frozen=True)
class TrueEdge(Edge):
    """An edge of a trued outline; `deviation_mm` is how far the trace strays from it at most."""

    name: str = ""
    deviation_mm: float = 0.0
    smooth_end: bool = False
    length_mm: float = 0.0
    radius_mm: float | None = None


def letter(k: int) -> str:
    """A, B, ... Z, AA, AB ..."""
    return (letter(k // 26 - 1) if k >= 26 else "") + chr(65 + k % 26)


def true_up(
    outline: Sequence[Point], holes: Sequence[Sequence[Point]] = (), *, tolerance_mm: float = DEFAULT_TOLERANCE_MM,
    error_mm: float | None = None,
) -> Shape:  # fmt: skip
    """Find the corners and joints of traced rings (points in mm, either way round)."""
    _check_tolerance(tolerance_mm)
    return Shape(
        trace_ring(outline, tolerance_mm, counter_clockwise=True),
        tuple(trace_ring(h, tolerance_mm, counter_clockwise=False) for h in holes),
        tolerance_mm,
        error_mm,
    )


def trace_ring(
    points: Sequence[Point], tolerance_mm: float, *, counter_clockwise: bool, known_corners: Sequence[Point] = (),
    near_mm: float = 0.0,
) -> TracedRing:  # fmt: skip
    """The ring with its joints found, but for smooth runs that keep within `near_mm` of a `corners` ring.

    Raises `Refusal` for fewer than three points or no area.
    """
    ring = np.asarray(points, dtype=float).reshape(-1, 2)
    if len(ring) < 3 or not np.isfinite(ring).all() or abs(signed_area(ring)) < 1:
        raise Refusal(message("outline_without_inside"), "outline")
    if (signed_area(ring) > 0) != counter_clockwise:
        ring = ring[::-1].copy()
    even, pitch = even_ring(ring)
    corners = find_corners(even, pitch)
    fresh = np.ones(len(even), dtype=bool)
    if len(known_corners):
        fresh = scipy.spatial.cKDTree(even_ring(np.asarray(known_corners), pitch)[0]).query(even)[0] > near_mm
    joints = (
        _with_corners(even, pitch, corners, tolerance_mm, fresh)
        if corners
        else _without_corners(even, pitch, tolerance_mm)
    )
    if len(joints) > MAX_JOINTS:
        raise Refusal(message("outline_too_many_corners", max_joints=MAX_JOINTS), "outline")
    ring_points = tuple((float(x), float(y)) for x, y in ring)
    return TracedRing(ring_points, tuple(sorted(joints, key=lambda j: j.along_mm)))


def true_edges(ring: TracedRing, tolerance_mm: float) -> tuple[TrueEdge, ...]:
    """The ring's edges, fitted within `tolerance_mm` as far as lines, arcs and curves allow it.

    Edge k runs from joint k to joint k + 1 and is named by their letters. Neighbours of a
    smooth joint share its direction where either is a curve.
    """
    even, pitch = even_ring(np.asarray(ring.points))
    joints = ring.joints
    count = len(joints)
    runs = [_run(even, pitch, joints[k], joints[(k + 1) % count]) for k in range(count)]
    fits = [_plain_fit(runs[k], joints[k].next_kind, tolerance_mm) for k in range(count)]
    edges = []
    for k in range(count):
        after = (k + 1) % count
        edge = fits[k] or fit_curve(
            runs[k],
            0.6 * tolerance_mm,
            _joint_direction(runs, fits, k - 1, k) if joints[k].smooth else None,
            _joint_direction(runs, fits, k, after) if joints[after].smooth else None,
        )
        circle = circle_of(edge) if edge.kind == "arc" else None
        edges.append(
            TrueEdge(
                edge.kind, edge.points, f"{letter(k)}{letter(after)}", deviation(edge, runs[k]), joints[after].smooth,
                edge_length(edge), circle.radius if circle else None,
            )
        )  # fmt: skip
    return tuple(edges)


def add_joint(ring: TracedRing, at: Point) -> TracedRing:
    """A joint on the trace at the place nearest to `at`; raises `Refusal` beside one that is there."""
    _check_point(at)
    along, point = _nearest(ring, at)
    length = _ring_length(ring)
    for j in ring.joints:
        apart = abs(j.along_mm - along) % length
        if min(apart, length - apart) < 2:
            raise Refusal(message("corner_here_already"), "joint", Place(point=point))
    joint = Joint(along, point)
    return replace(ring, joints=tuple(sorted((*ring.joints, joint), key=lambda j: j.along_mm)))


def remove_joint(ring: TracedRing, index: int) -> TracedRing:
    """Without joint `index`; two joints must stay. Raises `Refusal` where they wouldn't."""
    known_joint(ring, index)
    if len(ring.joints) <= 2:
        raise Refusal(message("outline_needs_two_corners"), "joint")
    return replace(ring, joints=tuple(j for k, j in enumerate(ring.joints) if k != index))


def move_joint(ring: TracedRing, index: int, to: Point) -> TracedRing:
    """Joint `index` stands at `to`; it keeps its order between its neighbours along the trace."""
    known_joint(ring, index)
    _check_point(to)
    length, count = _ring_length(ring), len(ring.joints)
    low = ring.joints[index - 1].along_mm
    high = ring.joints[(index + 1) % count].along_mm
    along, _ = _nearest(ring, to)
    span = (high - low) % length or length
    offset = (along - low) % length
    if not 1 <= offset <= span - 1:
        offset = (ring.joints[index].along_mm - low) % length
    joint = replace(ring.joints[index], along_mm=(low + offset) % length, point=to)
    joints = [joint if k == index else j for k, j in enumerate(ring.joints)]
    return replace(ring, joints=tuple(sorted(joints, key=lambda j: j.along_mm)))


def set_edge_kind(ring: TracedRing, index: int, kind: EdgeKindChoice) -> TracedRing:
    """The edge after joint `index` is to be a line (straightened), an arc, a curve, or what fits."""
    known_joint(ring, index)
    return replace(
        ring, joints=tuple(replace(j, next_kind=kind) if k == index else j for k, j in enumerate(ring.joints))
    )


def set_smooth(ring: TracedRing, index: int, *, smooth: bool) -> TracedRing:
    """Whether the edges run on smoothly through joint `index`, or meet in a corner."""
    known_joint(ring, index)
    return replace(
        ring, joints=tuple(replace(j, smooth=smooth) if k == index else j for k, j in enumerate(ring.joints))
    )


def _check_tolerance(tolerance_mm: float) -> None:
    if not 0.05 <= tolerance_mm <= 20:
        figures = {"tolerance_mm": tolerance_mm, "least_mm": 0.05, "most_mm": 20}
        raise Refusal(message("tolerance_out_of_range", **figures), "tolerance")


def _check_point(at: Point) -> None:
    if not all(math.isfinite(c) and abs(c) < 1e5 for c in at):
        raise Refusal(message("corner_too_far_away"), "joint")


def known_joint(ring: TracedRing, index: int) -> None:
    """Raise `Refusal` where the ring has no joint `index`."""
    if not 0 <= index < len(ring.joints):
        raise Refusal(message("no_such_corner", corner=index + 1, count=len(ring.joints)), "joint")


def _ring_length(ring: TracedRing) -> float:
    even, pitch = even_ring(np.asarray(ring.points))
    return len(even) * pitch


def _nearest(ring: TracedRing, at: Point) -> tuple[float, Point]:
    even, pitch = even_ring(np.asarray(ring.points), 0.5)
    k = int(np.hypot(*(even - np.asarray(at)).T).argmin())
    return k * pitch, (float(even[k, 0]), float(even[k, 1]))


def _run(even: Array, pitch: float, first: Joint, last: Joint) -> Array:
    """The trace between two joints, starting and ending on them."""
    n = len(even)
    a, b = first.along_mm / pitch, last.along_mm / pitch
    if b <= a:
        b += n
    inner = np.arange(math.floor(a) + 1, math.ceil(b))
    points = even[inner % n]
    keep = np.hypot(*(points - np.asarray(first.point)).T) > _CLEAR_OF_CORNER_MM
    keep &= np.hypot(*(points - np.asarray(last.point)).T) > _CLEAR_OF_CORNER_MM
    return np.vstack([[first.point], points[keep], [last.point]])


def _plain_fit(run: Array, kind: EdgeKindChoice, tolerance_mm: float) -> Edge | None:
    line = fit_line(run)
    if kind == "line" or (kind == "auto" and deviation(line, run) <= tolerance_mm):
        return line
    arc = fit_arc(run) if kind in ("auto", "arc") else None
    if kind == "arc":
        return arc or line
    return arc if arc and deviation(arc, run) <= tolerance_mm else None


def _joint_direction(runs: list[Array], fits: list[Edge | None], before: int, after: int) -> Array | None:
    """The direction at a smooth joint: that of a line beside it, else of the trace through it."""
    for edge in (fits[before], fits[after]):
        if edge and edge.kind == "line":
            d = np.asarray(edge.end) - np.asarray(edge.start)
            return np.asarray(d / np.hypot(*d))
    through = np.vstack([runs[before][-9:-1], runs[after][:9]])
    d = through[-1] - through[0]
    norm = float(np.hypot(*d))
    return d / norm if norm > 0 else None


def _with_corners(
    even: Array, pitch: float, corners: list[int], tolerance_mm: float, fresh: NDArray[np.bool_]
) -> list[Joint]:
    n = len(even)
    joints = []
    for k, corner in enumerate(corners):
        joints.append(Joint(corner * pitch, _sharpen(even, pitch, corners, k)))
        after = corners[(k + 1) % len(corners)]
        along = np.arange(corner, after + (n if after <= corner else 0) + 1) % n
        if not fresh[along].any():
            continue
        run = even[along]
        trim = min(max(1, round(_CLEAR_OF_CORNER_MM / pitch)), len(run) // 4)
        cuts = split_smooth_run(run[trim : len(run) - trim], tolerance_mm)
        joints += [_smooth_joint(even, pitch, (corner + trim + c) % n) for c in cuts or ()]
    if len(joints) == 1:
        joints.append(_smooth_joint(even, pitch, (corners[0] + n // 2) % n))
    return joints


def _without_corners(even: Array, pitch: float, tolerance_mm: float) -> list[Joint]:
    n = len(even)
    start = int(even[:, 0].argmin())
    centre = _circle_centre(even)
    radii = np.hypot(*(even - centre).T)
    if float(np.abs(radii - radii.mean()).max()) <= tolerance_mm:
        return [_smooth_joint(even, pitch, k) for k in (start, (start + n // 2) % n)]
    # start where two primitives meet: walk on from a first try's first cut
    from_start = np.roll(even, -start, axis=0)
    cuts = split_smooth_run(np.vstack([from_start, from_start[:1]]), tolerance_mm)
    if cuts:
        start = (start + cuts[0]) % n
        from_start = np.roll(even, -start, axis=0)
        again = split_smooth_run(np.vstack([from_start, from_start[:1]]), tolerance_mm)
        if again is not None:
            return [_smooth_joint(even, pitch, (start + c) % n) for c in (0, *again)]
    places = {
        int(even[:, 0].argmin()),
        int(even[:, 0].argmax()),
        int(even[:, 1].argmin()),
        int(even[:, 1].argmax()),
    }
    return [_smooth_joint(even, pitch, k) for k in sorted(places)]


def _circle_centre(ring: Array) -> Array:
    """Centre of the least-squares circle (Kåsa's linear fit)."""
    terms = np.column_stack([2 * ring, np.ones(len(ring))])
    fit, *_ = np.linalg.lstsq(terms, (ring**2).sum(axis=1), rcond=None)
    return np.asarray(fit[:2])


def _smooth_joint(even: Array, pitch: float, k: int) -> Joint:
    return Joint(k * pitch, (float(even[k, 0]), float(even[k, 1])), smooth=True)


def _sharpen(even: Array, pitch: float, corners: list[int], k: int) -> Point:
    """Where the straight continuations of both sides meet: a photograph rounds every corner a little."""
    n, corner = len(even), corners[k]
    sides = []
    for way, other in ((-1, corners[k - 1]), (1, corners[(k + 1) % len(corners)])):
        room = ((other - corner) * way) % n or n
        near = max(1, round(_CLEAR_OF_CORNER_MM / pitch))
        far = min(room // 2, max(near + 4, round(_LOOK_BACK_MM / pitch)))
        if far - near < 3:
            return float(even[corner, 0]), float(even[corner, 1])
        sides.append(even[(corner + way * np.arange(near, far + 1)) % n])
    lines = []
    for side in sides:
        middle = side.mean(axis=0)
        _, _, axes = np.linalg.svd(side - middle)
        lines.append((middle, axes[0]))
    (p, u), (q, v) = lines
    cross = float(u[0] * v[1] - u[1] * v[0])
    vertex = even[corner]
    if abs(cross) > 0.2:
        d = q - p
        meet = p + u * float(d[0] * v[1] - d[1] * v[0]) / cross
        if float(np.hypot(*(meet - vertex))) < _CORNER_MOVES_AT_MOST_MM:
            vertex = meet
    return float(vertex[0]), float(vertex[1])

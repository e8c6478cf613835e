"""A filled pad: two plies sewn together and blown up, to see how its plan draws in and its corners stand out (rule 7).

Each ply is a membrane that doesn't stretch and doesn't resist being pressed together: it wrinkles.
The plies are alike, so one of them is computed, its seam held in the plane between them.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from itertools import count

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array, Edge, Point
from ypsicline.core.geometry.plane import as_point, cross, dot, meet, minus, unit
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import message

__all__ = ["Corner", "Inflated", "bag_volume", "corners_of", "inflate", "inflating"]

# how many rows of triangles across the square root of the plan's area
FINE = 22
# the stiffness and the most steps of each rest, and what a step costs there: on half as many rows first
_ROUGHLY = ((30.0, 150, 1.0), (300.0, 300, 1.0))
_FINELY = ((300.0, 300, 4.0),)
_WORK = sum(steps * cost for _, steps, cost in (*_ROUGHLY, *_FINELY))
# how much of the work is done, 0 to 1
Progress = Callable[[float], None]


@dataclass(frozen=True)
class Inflated:
    """A filled pad: its `plan` as seen from above, the seam's points in the order in which they were given and where
    each lay (`flat`), the `volume_mm3` of both plies, and its thickness."""

    plan: tuple[Point, ...]
    flat: tuple[Point, ...]
    volume_mm3: float
    thickness_mm: float
    height_at: tuple[tuple[Point, float], ...] = ()


@dataclass(frozen=True)
class Corner:
    """How far a corner of a filled pad stands out beyond the sides that it was cut with, once those are drawn in to
    where their middles come to lie; `share` of the shorter side."""

    at: Point
    stands_out_mm: float
    share: float


def bag_volume(width_mm: float, length_mm: float) -> float:
    """The volume in mm³ of a flat bag of two width × length plies, filled (the approximation of rule 4 in docs/rules.md)."""
    w, length = sorted((width_mm, length_mm))
    return w**3 * (length / (math.pi * w) - 0.142 * (1 - 10 ** (-length / w)))


def inflate(outline: Sequence[Point] | Array, *, rows: int = FINE, progress: Progress | None = None) -> Inflated:
    """Blow up a pad of two plies with this seam line (points of a closed ring, mm), as `inflating` does to its end."""
    *_, result = inflating(outline, rows=rows, progress=progress)
    return result


def inflating(
    outline: Sequence[Point] | Array, *, rows: int = FINE, progress: Progress | None = None
) -> Iterator[Inflated]:
    """Blow up a pad of two plies with this seam line, roughly on half as many `rows` of triangles, then on all.

    The plies' finite elements (constant strain triangles) take no compression: the energy of each
    principal stretch beyond 1 and the work of the pressure are brought to their least together
    (tension field theory: Pipkin, IMA Journal of Applied Mathematics 36, 1986; limited-memory BFGS).
    They still stretch by some 0.3 %. The same outline gives the same answer. What `progress` raises
    ends the work. Raises `Refusal` for a seam line that touches itself.
    """
    points = np.asarray(outline, dtype=float)
    polygon = shapely.Polygon(points)
    if not polygon.is_valid or polygon.area <= 0:
        raise Refusal(message("pad_touches_itself"), "outline")
    size = math.sqrt(polygon.area)
    rough = _Mesh.of(points, polygon, 2 * size / rows)
    x = np.column_stack([rough.flat / size, 0.02 * rough.away / size])
    x = _rested(x, rough, size, _ROUGHLY, 0.0, progress)
    yield _inflated(x, rough, size)
    mesh = _Mesh.of(points, polygon, size / rows)
    x = _carried_over(x, rough, mesh, size)
    cost_so_far = sum(steps * cost for _, steps, cost in _ROUGHLY)
    yield _inflated(_rested(x, mesh, size, _FINELY, cost_so_far, progress), mesh, size)


def _rested(
    x: Array,
    mesh: _Mesh,
    size: float,
    rests: Sequence[tuple[float, int, float]],
    cost_so_far: float,
    progress: Progress | None,
) -> Array:
    """The positions (n, 3) after some rests, when work worth `cost_so_far` has gone before."""
    for stiffness, steps, cost in rests:
        x = _settled(x, mesh, size, stiffness, steps, progress and _counted(progress, cost_so_far, cost))
        cost_so_far += steps * cost
    return x


def _counted(progress: Progress, cost_so_far: float, cost: float) -> Callable[[Array], None]:
    """Tells `progress` of each step, when work worth `cost_so_far` has gone before."""
    steps = count(1)
    return lambda _: progress((cost_so_far + cost * next(steps)) / _WORK)


def _inflated(x: Array, mesh: _Mesh, size: float) -> Inflated:
    p = x * size
    heights = tuple((as_point(q), float(2 * q[2])) for q in p[mesh.seam :])
    return Inflated(
        tuple(as_point(q) for q in p[: mesh.seam]), tuple(as_point(q) for q in mesh.flat[: mesh.seam]),
        2 * _volume(p, mesh.triangles), float(2 * p[:, 2].max()), heights,
    )  # fmt: skip


@dataclass(frozen=True)
class _Mesh:
    """A triangulated ply: points (n, 2), the first `seam` of them on the seam; how far each lies from it; triangles
    (m, 3), counter-clockwise."""

    flat: Array
    seam: int
    away: Array
    triangles: NDArray[np.int64]

    @classmethod
    def of(cls, ring: Array, polygon: shapely.Polygon, pitch: float) -> _Mesh:
        rim = _rim(ring, pitch)
        low, high = ring.min(axis=0), ring.max(axis=0)
        height = pitch * math.sqrt(3) / 2
        middle, half = (low + high) / 2, (high - low) / 2
        # about the middle, so that a plan that is symmetrical gets a mesh that is
        rows, columns = (int(s) + 1 for s in half[::-1] / (height, pitch))
        grid = np.vstack([
            np.column_stack([
                (np.arange(-columns, columns + 1) + (k % 2) / 2) * pitch, np.full(2 * columns + 1, k * height),
            ])
            for k in range(-rows, rows + 1)
        ]) + middle  # fmt: skip
        line = polygon.exterior
        inside = shapely.contains_xy(polygon, grid[:, 0], grid[:, 1])
        grid = grid[inside]
        grid = grid[shapely.distance(line, shapely.points(grid)) > 0.55 * pitch]
        flat = np.vstack([rim, grid])
        triangles = scipy.spatial.Delaunay(flat).simplices.astype(np.int64)
        a, b, c = (flat[triangles[:, k]] for k in range(3))
        area = ((b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0]) / 2
        middle = (a + b + c) / 3
        good = shapely.contains_xy(polygon, middle[:, 0], middle[:, 1]) & (np.abs(area) > 1e-6 * pitch * pitch)
        triangles[area < 0] = triangles[area < 0][:, ::-1]
        away = np.asarray(shapely.distance(line, shapely.points(flat)))
        away[: len(rim)] = 0.0
        return cls(flat, len(rim), away, triangles[good])


def _rim(ring: Array, pitch: float) -> Array:
    """The ring at about the pitch, its corners kept."""
    back, ahead = ring - np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0) - ring
    turn = np.arctan2(back[:, 0] * ahead[:, 1] - back[:, 1] * ahead[:, 0], (back * ahead).sum(axis=1))
    corners = np.flatnonzero(np.abs(turn) > math.radians(3))
    if not len(corners):
        return even_ring(ring, pitch)[0]
    parts = []
    for s, e in zip(corners, [*corners[1:], corners[0] + len(ring)], strict=True):
        run = ring[np.arange(s, e + 1) % len(ring)]
        along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(run, axis=0).T))])
        count = max(1, round(float(along[-1]) / pitch))
        at = np.linspace(0, along[-1], count + 1)[:-1]
        parts.append(np.column_stack([np.interp(at, along, run[:, 0]), np.interp(at, along, run[:, 1])]))
    return np.vstack(parts)


def _settled(
    x: Array, mesh: _Mesh, size: float, stiffness: float, steps: int, each: Callable[[Array], None] | None
) -> Array:
    """The positions (n, 3) in which the filled ply is at rest, in units of `size`; `each` is called after each step."""
    t = mesh.triangles
    flat = mesh.flat / size
    count, many = len(x), len(t)
    rest = np.stack([flat[t[:, 1]] - flat[t[:, 0]], flat[t[:, 2]] - flat[t[:, 0]]], axis=2)
    area = np.abs(np.linalg.det(rest)) / 2
    inverse = np.linalg.inv(rest)
    # of each triangle the slope of its position by the flat ply's two directions, and its mean, as scipy.sparse maps of all points
    rows, corners = np.tile(np.arange(many), 3), t.T.ravel()
    weights = np.stack([-inverse[:, 0] - inverse[:, 1], inverse[:, 0], inverse[:, 1]])
    slope = scipy.sparse.csr_matrix(
        (np.moveaxis(weights, 2, 0).ravel(), (np.concatenate([rows, rows + many]), np.tile(corners, 2))),
        shape=(2 * many, count),
    )
    mean_of = scipy.sparse.csr_matrix((np.full(3 * many, 1 / 3), (rows, corners)), shape=(many, count))
    slope_back, mean_back = slope.T.tocsr(), mean_of.T.tocsr()

    def energy(rest: Array) -> tuple[float, Array]:
        p = rest.reshape(-1, 3)
        f = slope @ p
        f0, f1 = f[:many], f[many:]
        c00, c11, c01 = (np.einsum("ij,ij->i", u, v) for u, v in ((f0, f0), (f1, f1), (f0, f1)))
        mean, half = (c00 + c11) / 2, (c00 - c11) / 2
        spread = np.hypot(half, c01)
        large, small = np.sqrt(mean + spread), np.sqrt(np.maximum(mean - spread, 1e-12))
        over1, over2 = np.maximum(large - 1, 0), np.maximum(small - 1, 0)
        # principal directions: v vᵀ = ½ (1 ± (C − mean) ÷ spread)
        w1, w2 = stiffness * area * over1 / large, stiffness * area * over2 / small
        both, apart = (w1 + w2) / 2, (w1 - w2) / (2 * np.maximum(spread, 1e-12))
        i00, i11, i01 = both + apart * half, both - apart * half, apart * c01
        pull = np.empty_like(f)
        pull[:many] = i00[:, None] * f0 + i01[:, None] * f1
        pull[many:] = i01[:, None] * f0 + i11[:, None] * f1
        # the volume is each triangle's shadow on the plane of the seam, times its mean height over it
        shadow, height = area * (f0[:, 0] * f1[:, 1] - f0[:, 1] * f1[:, 0]), mean_of @ p[:, 2]
        lift = area * height
        pull[:many, 0] -= lift * f1[:, 1]
        pull[:many, 1] += lift * f1[:, 0]
        pull[many:, 0] += lift * f0[:, 1]
        pull[many:, 1] -= lift * f0[:, 0]
        forces = slope_back @ pull
        forces[:, 2] -= mean_back @ shadow
        forces[: mesh.seam, 2] = 0.0
        stretching = 0.5 * stiffness * float(area @ (over1 * over1 + over2 * over2))
        return stretching - float(shadow @ height), forces.ravel()

    how = {"maxiter": steps, "maxcor": 10, "maxfun": 4 * steps}
    least = scipy.optimize.minimize(energy, x.ravel(), jac=True, method="L-BFGS-B", options=how, callback=each)
    return np.asarray(least.x).reshape(count, 3)


def _carried_over(x: Array, rough: _Mesh, mesh: _Mesh, size: float) -> Array:
    """Positions (n, 3) of a finer mesh's points, between those of the rough one's."""
    displacement = x - np.column_stack([rough.flat / size, np.zeros(len(x))])
    between = scipy.interpolate.LinearNDInterpolator(rough.flat, displacement)(mesh.flat)
    beyond = np.isnan(between).any(axis=1)
    between[beyond] = scipy.interpolate.NearestNDInterpolator(rough.flat, displacement)(mesh.flat[beyond])
    between[: mesh.seam, 2] = 0.0
    return np.asarray(between + np.column_stack([mesh.flat / size, np.zeros(len(mesh.flat))]))


def _volume(p: Array, t: NDArray[np.int64]) -> float:
    """The volume between the ply and the plane of its seam."""
    a, b, c = (p[t[:, k]] for k in range(3))
    shadow = ((b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0]) / 2
    return float(shadow @ (a[:, 2] + b[:, 2] + c[:, 2])) / 3


def corners_of(sides: Sequence[Edge], pad: Inflated) -> tuple[Corner, ...]:
    """How far each corner between two straight sides stands out.

    `sides` are those of the intended plan, without tapers. A side is drawn in to where its middle
    lies once the pad is filled; what lies outside the two sides at a corner stands out there.
    """
    flat, plan = np.asarray(pad.flat), np.asarray(pad.plan)
    lines = []
    for e in sides:
        d = unit(minus(e.end, e.start))
        middle = np.asarray([(e.start[0] + e.end[0]) / 2, (e.start[1] + e.end[1]) / 2])
        k = int(np.hypot(*(flat - middle).T).argmin())
        lines.append((d, (float(plan[k, 0]), float(plan[k, 1]))))
    corners = []
    for k, e in enumerate(sides):
        after = sides[(k + 1) % len(sides)]
        if (
            e.kind != "line"
            or after.kind != "line"
            or cross(lines[k][0], lines[(k + 1) % len(sides)][0]) < math.sin(math.radians(10))
        ):
            continue
        (u, p), (v, q) = lines[k], lines[(k + 1) % len(sides)]
        at = meet(p, u, q, v)
        if at is None:
            continue
        near = np.hypot(*(flat - np.asarray(e.end)).T) < 0.5 * min(
            math.dist(e.start, e.end), math.dist(after.start, after.end)
        )
        out = 0.0
        for x, y in plan[near].tolist():
            off = (dot(minus((x, y), p), (u[1], -u[0])), dot(minus((x, y), q), (v[1], -v[0])))
            out = max(out, *off)
        shorter = min(math.dist(e.start, e.end), math.dist(after.start, after.end))
        corners.append(Corner(at, out, out / shorter))
    return tuple(corners)

"""Bending an outline to the tape: the smallest change that meets what was measured."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring
from ypsicline.core.messages import message
from ypsicline.core.trueing.reshaping import reshaped
from ypsicline.core.trueing.shape import Shape, TracedRing
from ypsicline.core.trueing.tape import TapeMeasure, read_tape

__all__ = ["BentShape", "bend_to_tape"]

NODES = 320
MET_WITHIN_MM = 0.05
FARTHEST = 0.1
_ROUNDS = 12


@dataclass(frozen=True)
class BentShape:
    """The bent shape, and how far the outline moved at most, mm."""

    shape: Shape
    moved_mm: float


def bend_to_tape(shape: Shape, measures: Sequence[TapeMeasure]) -> BentShape:
    """Move the outline as little as meets every typed measure; holes stay where they are.

    The outline is held like a thread that gives a little everywhere: of all displacements d(s)
    along it that meet the measures, the one with the least ∫|d'|² ds is taken (and next to no
    shift of the whole). Raises `Refusal` (reason `tape`) where nothing was typed, where the
    measures contradict one another, and where one asks for over a tenth of the outline's size.
    """
    taped = [m for m in measures if m.tape_mm is not None]
    if not taped:
        raise Refusal(message("measure_not_typed"), "tape")
    even, pitch = even_ring(np.asarray(shape.outline.points))
    step = max(1, len(even) // NODES)
    nodes = np.arange(0, len(even), step)
    nodes_mm = np.asarray(nodes * pitch, dtype=float)
    give = np.linalg.inv(_stiffness(len(nodes)))
    size = float(np.ptp(even, axis=0).max())
    now = shape
    displacement = np.zeros_like(even)
    for _ in range(_ROUNDS):
        readings = read_tape(now, taped)
        moves = np.array([-(r.apart_mm or 0.0) for r in readings])
        if float(np.abs(moves).max()) < MET_WITHIN_MM:
            return BentShape(now, float(np.hypot(*displacement.T).max()))
        if float(np.abs(moves).max()) > FARTHEST * size:
            raise _too_far(readings[int(np.abs(moves).argmax())].name, float(np.abs(moves).max()))
        pulls = np.array([_pull(now.outline, m, nodes_mm, len(even) * pitch) for m in taped])
        spread = np.einsum("kxn,nm->kxm", pulls, give)
        among = np.einsum("kxn,lxn->kl", spread, pulls)
        strength = np.linalg.lstsq(among, moves, rcond=1e-9)[0]
        shift = np.einsum("k,kxn->nx", strength, spread)
        at = np.arange(len(even))
        displacement = displacement + np.column_stack(
            [np.interp(at, nodes, shift[:, x], period=len(even)) for x in (0, 1)]
        )
        now = replace(shape, outline=reshaped(shape.outline, even, even + displacement))
    worst = int(np.abs(moves).argmax())
    apart = abs(float(moves[worst]))
    raise Refusal(message("tape_contradicts", measure=readings[worst].name, apart_mm=apart), "tape")


def _too_far(name: str, by: float) -> Refusal:
    return Refusal(message("tape_too_far", measure=name, by_mm=by), "tape")


def _stiffness(n: int) -> Array:
    """What a displacement of the nodes costs: its differences along the ring, and a trifle for itself."""
    ring = 2 * np.eye(n) - np.roll(np.eye(n), 1, axis=0) - np.roll(np.eye(n), -1, axis=0)
    return np.asarray(ring + 1e-6 * np.eye(n))


def _pull(ring: TracedRing, measure: TapeMeasure, nodes_mm: Array, length: float) -> Array:
    """How a measure's length changes with each node's displacement (2, n)."""
    joints = ring.joints
    if measure.between:
        a, b = (joints[k] for k in measure.between)
        d = np.subtract(b.point, a.point)
        u = d / max(float(np.hypot(*d)), 1e-9)
        weight = _at(b.along_mm, nodes_mm, length) - _at(a.along_mm, nodes_mm, length)
        return np.asarray(u[:, None] * weight)
    k = measure.edge or 0
    first, last = joints[k], joints[(k + 1) % len(joints)]
    span = (last.along_mm - first.along_mm) % length
    stops = first.along_mm + np.linspace(0, span, 1 + max(2, round(span / (length / len(nodes_mm)))))
    even, pitch = even_ring(np.asarray(ring.points))
    loop = np.vstack([even, even[:1]])
    along = np.arange(len(loop)) * pitch
    points = np.column_stack([np.interp(stops % (len(even) * pitch), along, loop[:, x]) for x in (0, 1)])
    points[0], points[-1] = first.point, last.point
    steps = np.diff(points, axis=0)
    towards = steps / np.maximum(np.hypot(*steps.T), 1e-9)[:, None]
    weights = np.array([_at(s, nodes_mm, length) for s in stops])
    return np.asarray(towards.T @ np.diff(weights, axis=0))


def _at(along: float, nodes_mm: Array, length: float) -> Array:
    """The share of each node in the displacement at a place along the ring (linear between neighbours)."""
    n = len(nodes_mm)
    along = along % length
    before = int(np.searchsorted(nodes_mm, along, side="right")) - 1
    end = nodes_mm[before + 1] if before + 1 < n else length
    share = (along - nodes_mm[before]) / max(end - nodes_mm[before], 1e-9)
    weights = np.zeros(n)
    weights[before] += 1 - share
    weights[(before + 1) % n] += share
    return weights

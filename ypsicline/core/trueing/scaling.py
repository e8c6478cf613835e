"""Scaling an outline to what the tape says."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import scipy

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import lengths_along
from ypsicline.core.messages import message
from ypsicline.core.trueing.shape import Shape, TracedRing
from ypsicline.core.trueing.tape import TapeMeasure, read_tape

__all__ = ["ScaledShape", "scale_to_tape", "scaled"]

FARTHEST = 0.1


@dataclass(frozen=True)
class ScaledShape:
    """The scaled shape, its factors across and up, and what each typed measure is still apart (outline − tape, mm)."""

    shape: Shape
    factors: tuple[float, float]
    apart_mm: tuple[float, ...]


def scale_to_tape(shape: Shape, measures: Sequence[TapeMeasure], *, per_axis: bool = False) -> ScaledShape:
    """Scale all of the shape about its middle so that the typed measures are met best (least squares of the ratios).

    `per_axis` lets width and height change apart; that takes straight measures in both directions.
    Raises `Refusal` (reason `tape`) where nothing was typed, where the measures don't tell both
    axes apart, and for a change of over 10 %, which is a slip of the tape rather than of the photo.
    """
    taped = [m for m in measures if m.tape_mm is not None and (m.between or not per_axis)]
    if not taped:
        raise Refusal(message("measure_for_scale_not_typed"), "tape")
    readings = read_tape(shape, taped)
    tape = np.array([m.tape_mm or 0.0 for m in taped])
    if per_axis:
        joints = shape.outline.joints
        spans = np.array(
            [np.subtract(joints[m.between[1]].point, joints[m.between[0]].point) for m in taped if m.between]
        )
        directions = np.abs(spans / np.hypot(*spans.T)[:, None])
        if np.linalg.matrix_rank(directions, tol=0.3) < 2:
            raise Refusal(message("measures_run_alike"), "tape")
        fit = scipy.optimize.least_squares(lambda f: np.hypot(*(spans * f).T) / tape - 1, [1.0, 1.0])
        factors = (float(fit.x[0]), float(fit.x[1]))
    else:
        ratio = np.array([r.outline_mm for r in readings]) / tape
        both = float(ratio.sum() / (ratio**2).sum())
        factors = (both, both)
    if max(abs(f - 1) for f in factors) > FARTHEST:
        raise Refusal(
            message("tape_changes_too_much", percent=100 * max(abs(f - 1) for f in factors)),
            "tape", numbers={"across": factors[0], "up": factors[1]},
        )  # fmt: skip
    to_tape = scaled(shape, factors)
    return ScaledShape(to_tape, factors, tuple(r.apart_mm or 0.0 for r in read_tape(to_tape, taped)))


def scaled(shape: Shape, factors: tuple[float, float]) -> Shape:
    """The shape scaled about its middle by factors across and up."""
    middle = np.asarray(shape.outline.points).mean(axis=0)

    def moved(points: Sequence[Point]) -> tuple[Point, ...]:
        return tuple((float(x), float(y)) for x, y in middle + (np.asarray(points) - middle) * factors)

    def ring(r: TracedRing) -> TracedRing:
        at = moved([j.point for j in r.joints])
        before, after = (lengths_along(np.asarray(p + p[:1])) for p in (r.points, moved(r.points)))
        joints = tuple(
            replace(j, point=p, along_mm=float(np.interp(j.along_mm, before, after)))
            for j, p in zip(r.joints, at, strict=True)
        )
        return TracedRing(moved(r.points), joints)

    return replace(shape, outline=ring(shape.outline), holes=tuple(ring(h) for h in shape.holes))

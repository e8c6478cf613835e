"""From the object's outline to the seam line: ease, layers, stretch and shrinkage (rule 3)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ypsicline.core.drafting.house import Cloth
from ypsicline.core.drafting.moved import moved_ring
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.plane import as_point
from ypsicline.core.geometry.rings import flatten_ring, ring_length
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import message
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.run import Run

__all__ = ["fit_ring", "grown_over", "in_cloth", "shrunk_to"]


def shrunk_to(finished_mm: float, shrinks: float) -> float:
    """What to cut so that `finished_mm` is left after shrinking by the share `shrinks`: finished ÷ (1 − s)."""
    return finished_mm / (1 - shrinks)


def grown_over(thickness_mm: float, *, cylinder: bool = False) -> float:
    """What a layer that lies over another of this thickness grows by: across two square corners 2t, in girth round a
    cylinder 2πt."""
    return (2 * math.pi if cylinder else 2.0) * thickness_mm


def in_cloth(fit: Fit | None, cloth: Cloth | None) -> Fit | None:
    """The fit with what the cloth does: its shrinkage unless it is washed before. None where nothing is left to fit."""
    shrinkage = (0.0, 0.0) if cloth is None or cloth.prewashed else (cloth.warp_shrinks, cloth.weft_shrinks)
    fit_in_cloth = replace(fit or Fit(), shrunk=shrinkage)
    return None if fit_in_cloth == Fit() else fit_in_cloth


def fit_ring(runs: Sequence[Run], fit: Fit, grain_deg: float) -> FittedRing:
    """Ease, layers, stretch and shrinkage in their fixed order, see `Fit`.

    Clearance is the exact parallel with mitred corners, so the ring grows by more than 2πc. Stretch
    divides by 1 + the share used and shrinkage by 1 − the share, along the grain (its first number)
    and across it, about the middle of the outline. Allowances are added afterwards and aren't scaled.

    Raises `Refusal` where the ease leaves nothing.
    """
    points = flatten_ring([r.edge for r in runs])
    low, high = points.min(axis=0), points.max(axis=0)
    about = (low + high) / 2
    width, height = (float(v) for v in high - low)
    round_mm = ring_length([r.edge for r in runs])
    lines = [message("fit_outline", width_mm=width, height_mm=height, round_mm=round_mm)]
    matrix = np.eye(2)
    ring = list(runs)
    if fit.percent:
        factor = 1 + fit.percent / 100
        matrix = matrix * factor
        lines.append(message("fit_percent", percent=fit.percent, width_mm=width * factor, height_mm=height * factor))
    if fit.width or fit.height:
        across, up = width * matrix[0, 0], height * matrix[1, 1]
        if across + fit.width <= 0 or up + fit.height <= 0:
            raise Refusal(message("ease_takes_all"), "fit")
        matrix = np.diag([(across + fit.width) / across, (up + fit.height) / up]) @ matrix
        size_with_ease = {"width_mm": across + fit.width, "height_mm": up + fit.height}
        lines.append(message("fit_width_and_height", across_mm=fit.width, up_mm=fit.height, **size_with_ease))
    ring = _mapped(ring, matrix, about)
    if fit.outward_mm:
        before = ring_length([r.edge for r in ring])
        ring = moved_ring(ring, fit.outward_mm)
        after = ring_length([r.edge for r in ring])
        parts = [message("fit_clearance", clearance_mm=fit.clearance)] if fit.clearance else []
        if fit.girth:
            parts.append(message("fit_girth", girth_mm=fit.girth, each_side_mm=fit.girth / (2 * math.pi)))
        if fit.over:
            parts.append(message("fit_over", over_mm=fit.over, across_mm=grown_over(fit.over)))
        sum_in_words = message("listed", parts=tuple(parts))
        lines.append(
            message("fit_outward", parts=sum_in_words, outward_mm=fit.outward_mm, before_mm=before, after_mm=after)
        )
    angle = math.radians(grain_deg)
    along = np.array([math.cos(angle), math.sin(angle)])
    aside = np.array([-along[1], along[0]])
    factors = [(1 / (1 + s)) / (1 - k) for s, k in zip(fit.stretched, fit.shrunk, strict=True)]
    if fit.stretched != (0.0, 0.0):
        lines.append(message("fit_stretched", warp=fit.stretched[0], weft=fit.stretched[1]))
    if fit.shrunk != (0.0, 0.0):
        lines.append(message("fit_shrunk", warp=fit.shrunk[0], weft=fit.shrunk[1]))
    finished_ring, cloth = ring, np.eye(2)
    if factors != [1.0, 1.0]:
        cloth = factors[0] * np.outer(along, along) + factors[1] * np.outer(aside, aside)
        ring = _mapped(ring, cloth, about)
        matrix = cloth @ matrix
    size = np.ptp(flatten_ring([r.edge for r in ring]), axis=0)
    lines.append(message("fit_seam_line", width_mm=size[0], height_mm=size[1]))
    return FittedRing(
        ring, tuple(lines), Transform.about(matrix, as_point(about)), Transform.about(cloth), finished_ring
    )


def _mapped(runs: Sequence[Run], matrix: Array, about: Array) -> list[Run]:
    if np.array_equal(matrix, np.eye(2)):
        return list(runs)
    to = Transform.about(matrix, as_point(about))
    return [replace(r, edge=to.edge(r.edge)) for r in runs]

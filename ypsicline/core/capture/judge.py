"""How far off a found outline may be, and what the maker should know about it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ypsicline.core.capture.contour import FoundOutline
from ypsicline.core.capture.mosaic import best_photo
from ypsicline.core.capture.snapping import normals
from ypsicline.core.capture.solve import SheetPhoto, Solution
from ypsicline.core.capture.stretches import keeps_within
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import Message, message

__all__ = ["Judged", "judge"]

LEAST_ERROR_MM = 0.12
TILT_WARNING_DEG = 30.0
BOW_WARNING_MM = 0.7
# so near the ring of sheets an outline lies on it
_ON_RING_MM = 0.5
ASKS_FOR_MORE_MM = 0.6
# how well a maker measures how high the outline lies over the sheets, one standard deviation
_HEIGHT_SIGMA = 0.02
# of an edge's smear: a share of it, and of that the part by which a rim may be shaded, in grey levels of its contrast, as
# the colours tell nothing of it or do; of how far two readings of its middle lie apart, and how far off it is if its table is
# shaded; and what threads at a rim leave open, mm. One standard deviation each
_EDGE, _SHADED_UNTOLD, _SHADED, _TONE, _SHADE, _CLOTH = 0.1, 40.0, 20.0, 0.7, 0.7, 0.05
# standard deviations that 95 % of an outline keeps within, nearly always
_DEVIATIONS = 2.3


@dataclass(frozen=True)
class Judged:
    """`error_mm` is what 95 % of the true outline keeps within, `errors_mm` (n,) the same of each point of the outline;
    `out_per_mm_height` as in `Capture`."""

    error_mm: float
    errors_mm: Array
    out_per_mm_height: float
    warnings: tuple[Message, ...]


def judge(
    photos: Sequence[SheetPhoto],
    solution: Solution,
    papers: Sequence[Array],
    outline: FoundOutline,
    mm_per_px: float,
    height_mm: float,
    doubts_mm: Array,
    untold_mm: float = 0.0,
) -> Judged:
    """Judge an outline found in the table's frame.

    Camera, lens, sheets and how their paper lies: the adjustment's covariance along the outline. Edge: a share of its
    smear, the larger the weaker its contrast is against the shadow that a rim throws on the table
    (a step that is darkened by s of its c grey levels moves by s/c of its smear); and of what three
    ways to read its middle differ by. Printing: what a measured test mark leaves open.
    Height: a fiftieth of it, or how thick the piece may be (`untold_mm`) where nobody said. All at
    `_DEVIATIONS`, added in squares, with `doubts_mm` (n,), by which whoever found
    it isn't sure of each of the outline's points.
    """
    at = np.arange(len(outline.outline))
    sample = at[:: max(1, len(at) // 200)]
    ring = outline.outline[sample]
    normal = normals(ring)
    source = best_photo([(t.height, t.width) for t in photos], solution.views, ring, height_mm)
    variance = np.einsum("ni,nij,nj->n", normal, solution.doubt(ring, source), normal)
    each = np.sqrt(np.maximum(variance, 0))
    camera = float(np.percentile(each, 95))
    shaded = _SHADED_UNTOLD if outline.shade_mm is None else _SHADED
    smear = (_EDGE + shaded / max(outline.contrast, 1.0)) * outline.edge_mm + 0.1 * mm_per_px / math.sqrt(outline.sides)
    edge = math.hypot(smear, _TONE * outline.tone_mm, _SHADE * (outline.shade_mm or 0.0), _CLOTH / outline.sides)
    size = float(np.ptp(ring, axis=0).max())
    printing = 0.00008 * size
    lowest_eye = min(float(v.eye_mm[2]) for v in solution.views)
    out_per_mm = size / 2 / lowest_eye
    height = (_HEIGHT_SIGMA * height_mm + untold_mm / 2) * out_per_mm
    warnings = _outside(papers, ring)
    total = np.sqrt(_DEVIATIONS**2 * (each**2 + edge**2 + height**2) + printing**2)
    everywhere = np.hypot(np.interp(at, sample, total, period=len(at)), doubts_mm)
    everywhere = np.maximum(everywhere, LEAST_ERROR_MM)
    warnings += [*_about_sheets(photos, solution), *_about_views(solution)]
    if len(photos) == 1 and 2 * camera > ASKS_FOR_MORE_MM:
        warnings.append(message("camera_in_doubt", doubt_mm=2 * camera))
    error_mm = keeps_within(everywhere, outline.outline, doubts_mm)
    return Judged(error_mm, everywhere, out_per_mm, tuple(warnings))


def _outside(papers: Sequence[Array], ring: Array) -> list[Message]:
    """A warning where the outline lies outside the ring of sheets."""
    hull = shapely.MultiPoint(np.vstack(papers)).convex_hull
    away = shapely.distance(hull, shapely.points(ring))
    outside = away > _ON_RING_MM
    if not outside.any():
        return []
    return [message("outside_the_sheets", percent=float(100 * outside.mean()), away_mm=float(away.max()))]


def _about_sheets(photos: Sequence[SheetPhoto], solution: Solution) -> list[Message]:
    explained = {name for doubt in solution.doubts for name in doubt.names}
    left_out = sorted({sheet.id.upper() for sheet, _ in solution.left_out} - explained)
    warnings = [message("sheet_moved", sheet=name) for name in left_out]
    warnings += [message("sheet_not_used", sheet=u.sheet.id.upper(), why=u.why) for t in photos for u in t.unread]
    warnings += solution.doubts
    for d, apart in solution.slips:
        sheets = {"first": d.first.upper(), "second": d.second.upper()}
        warnings.append(message("tape_between_sheets_left_out", tape_mm=d.mm, photos_mm=d.mm + apart, **sheets))
    if max(solution.lifts_mm) > BOW_WARNING_MM:
        worst = solution.sheets[int(np.argmax(solution.lifts_mm))].id.upper()
        warnings.append(message("sheet_bows", sheet=worst, bow_mm=max(solution.lifts_mm)))
    whole = {s.sheet.id for t in photos for s in t.sheets if not s.cut_off}
    for sheet in solution.sheets:
        if sheet.id not in whole:
            warnings.append(message("sheet_cut_off", sheet=sheet.id.upper()))
    if len(solution.sheets) == 1:
        warnings.append(message("only_one_sheet"))
    return warnings


def _about_views(solution: Solution) -> list[Message]:
    tilt = max(v.tilt_deg for v in solution.views)
    if len(solution.views) == 1 and tilt > TILT_WARNING_DEG:
        return [message("photo_tilted", tilt=tilt)]
    return []

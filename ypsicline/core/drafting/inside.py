"""What lies inside a panel's seam line, where its fit puts it.

Darts, pleats, tapers and openings are given as they are to be on the finished cover. Cloth that
will stretch or shrink is cut as much smaller or larger in them as in its outline.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ypsicline.core.drafting.darts import apex_of
from ypsicline.core.drafting.features import Dart, Pleats, Taper
from ypsicline.core.drafting.fit import Fitted, fit_ring
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.drafting.run import Run, cut_run, last_of, runs_of
from ypsicline.core.geometry.edges import (
    Edge,
    Point,
    as_curve,
    edge_length,
    parameter_at_length,
    point_at,
    split_edge,
    tangent_at,
)
from ypsicline.core.geometry.plane import dot, minus, unit

__all__ = ["as_set", "with_inside_fitted"]


def with_inside_fitted(panel: Panel, fitted: Fitted) -> Panel:
    """The panel with its holes, apertures and marks where the fit puts them, and its darts, pleats and tapers as large
    as its cloth asks for.

    Raises `Refused` where a dart or a pleat doesn't stand on its edge.
    """
    made = replace(
        panel,
        holes=tuple(tuple(fitted.edge(e) for e in h) for h in panel.holes),
        apertures=tuple(replace(a, at=fitted.point(a.at)) for a in panel.apertures),
        placed=tuple(replace(m, at=fitted.point(m.at), to=m.to and fitted.point(m.to)) for m in panel.placed),
    )
    if fitted.is_cloth_still:
        return made
    return replace(
        made,
        darts=tuple(_corner_dart(d, fitted) if d.corner else _dart(d, fitted) for d in panel.darts),
        pleats=tuple(_pleats(p, fitted) for p in panel.pleats),
        tapers=tuple(_taper(t, fitted) for t in panel.tapers),
    )


def as_set(panel: Panel) -> tuple[float, float, float, float, float, float] | None:
    """The way back from a place on the drafted panel to where it is on the outline as it was set, (a, b, c, d, x, y):
    (p, q) ↦ (a·p + b·q + x, c·p + d·q + y). None where both are the same.

    Raises `Refused` where the panel can't be fitted.
    """
    if panel.fit is None:
        return None
    fitted = fit_ring(runs_of(panel.seam_line), panel.fit, panel.grain_deg)
    if np.array_equal(fitted.matrix, np.eye(2)):
        return None
    back = np.linalg.inv(fitted.matrix)
    (a, b), (c, d) = back.tolist()
    x, y = (np.asarray(fitted.about) - back @ np.asarray(fitted.about)).tolist()
    return a, b, c, d, x, y


def _dart(dart: Dart, fitted: Fitted) -> Dart:
    half = dart.intake / 2
    k, low, high = cut_run(fitted.finished, dart.edge, dart.along - half, dart.along + half, "dart")
    (foot1, on1, s1), (foot2, on2, s2) = (_on_cloth(fitted, k, s) for s in (low, high))
    x, y = fitted.cloth @ np.subtract(apex_of(foot1, foot2, dart), foot1)
    chord, middle = unit(minus(on2, on1)), ((on1[0] + on2[0]) / 2, (on1[1] + on2[1]) / 2)
    away = minus((on1[0] + float(x), on1[1] + float(y)), middle)
    return replace(
        dart, along=_start(fitted.runs[k]) + (s1 + s2) / 2, intake=s2 - s1, length=dot(away, (-chord[1], chord[0])),
        lean=dot(away, chord), bow=dart.bow * _evenly(fitted),
    )  # fmt: skip


def _corner_dart(dart: Dart, fitted: Fitted) -> Dart:
    k = last_of(fitted.finished, dart.edge, "dart")
    j = (k + 1) % len(fitted.finished)
    (ax, ay), (bx, by) = tangent_at(fitted.finished[k].edge, 1.0), tangent_at(fitted.finished[j].edge, 0.0)
    intake = dart.intake * (_longer(fitted, k) + _longer(fitted, j)) / 2
    return replace(dart, intake=intake, length=dart.length * _along(fitted, unit((bx - ax, by - ay))))


def _pleats(pleats: Pleats, fitted: Fitted) -> Pleats:
    k, at, _ = cut_run(fitted.finished, pleats.edge, pleats.along, pleats.along, "pleat")
    _, _, along = _on_cloth(fitted, k, at)
    finished = fitted.finished[k].edge
    dx, dy = tangent_at(finished, parameter_at_length(finished, at))
    longer = _longer(fitted, k)
    return replace(
        pleats, along=_start(fitted.runs[k]) + along, intake=pleats.intake * longer, pitch=pleats.pitch * longer,
        depth=pleats.depth * _along(fitted, (-dy, dx)),
    )  # fmt: skip


def _taper(taper: Taper, fitted: Fitted) -> Taper:
    k = last_of(fitted.finished, taper.edge, "taper")
    longer, after = _longer(fitted, k), _longer(fitted, (k + 1) % len(fitted.finished))
    return replace(
        taper, reach=taper.reach * longer, reach_after=taper.reach_after * after, inset=taper.inset * _evenly(fitted)
    )


def _on_cloth(fitted: Fitted, k: int, along_mm: float) -> tuple[Point, Point, float]:
    """The place `along_mm` along run `k` of the finished seam line, where it lies on the cloth, and how far along there."""
    finished: Edge = fitted.finished[k].edge
    cut: Edge = fitted.runs[k].edge
    share = parameter_at_length(finished, along_mm)
    at = point_at(finished, share)
    if finished.kind != cut.kind:
        # an arc that the cloth made a curve
        share = parameter_at_length(as_curve(finished), along_mm)
    return at, point_at(cut, share), edge_length(split_edge(cut, 0.0, share)) if share > 0 else 0.0


def _start(run: Run) -> float:
    """Where a run starts, mm along the edge that it comes from."""
    return run.s0 * edge_length(run.edge) / (run.s1 - run.s0)


def _longer(fitted: Fitted, k: int) -> float:
    return edge_length(fitted.runs[k].edge) / edge_length(fitted.finished[k].edge)


def _along(fitted: Fitted, direction: Sequence[float]) -> float:
    return float(np.hypot(*(fitted.cloth @ np.asarray(direction))))


def _evenly(fitted: Fitted) -> float:
    return math.sqrt(abs(float(np.linalg.det(fitted.cloth))))

"""Darts or pleats at the corners of a cover that drops over an edge (rule 8)."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from ypsicline.core.drafting.darts import drop_corner
from ypsicline.core.drafting.features import Dart, Fit, Pleats
from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.drafting.run import runs_of
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import circle_of, edge_length, tangent_at
from ypsicline.core.geometry.plane import turn_between

__all__ = ["with_drop"]

_CORNER_RAD = math.radians(20)
_CURVED_MM = 400.0


def with_drop(
    panel: Panel, drop_mm: float, tuck_mm: float = 0.0, *, how: Literal["dart", "pleats"] = "dart", pleats: int = 2
) -> Panel:
    """A panel whose seam line is a plan, made into a sheet that hangs down by `drop_mm` all round and tucks under by
    `tuck_mm`: moved out by both, and with what each corner takes in as a dart, or as pleats on an arc.

    A dart's point stands on the plan's corner. Raises `Refused` where a drop makes no sense.
    """
    if not 5 <= drop_mm <= 3000 or not 0 <= tuck_mm <= 1000:
        raise Refused("A drop is 5 to 3000 mm, and what tucks under 0 to 1000 mm.", "drop", Place(panel=panel.name))
    reach = drop_mm + tuck_mm
    fit = replace(panel.fit or Fit(), clearance=(panel.fit or Fit()).clearance + reach)
    sheet = replace(panel, fit=fit, darts=(), pleats=())
    runs = fit_ring(runs_of(panel.seam_line), fit, panel.grain_deg).runs
    darts: list[Dart] = []
    folds: list[Pleats] = []
    count = len(panel.seam_line)
    for k, edge in enumerate(panel.seam_line):
        circle = circle_of(edge) if edge.kind == "arc" else None
        if circle and circle.sweep > 0 and circle.radius < _CURVED_MM:
            taken = drop_corner(circle.radius, circle.sweep, drop_mm, tuck_mm)
            length = sum(edge_length(r.edge) for r in runs if r.source == k)
            if how == "pleats":
                each = taken.intake_at_edge / pleats
                pitch = max(length / pleats, each)
                start = max((length - (pleats - 1) * pitch - each) / 2, 0.0)
                folds.append(Pleats(k, start, taken.intake_at_edge, pleats, pitch, depth=reach))
            else:
                darts.append(Dart(k, length / 2, taken.intake_at_edge, reach))
        after = panel.seam_line[(k + 1) % count]
        turn = turn_between(tangent_at(edge, 1.0), tangent_at(after, 0.0))
        if turn > _CORNER_RAD:
            intake = drop_corner(0.0, turn, drop_mm, tuck_mm).intake_at_edge
            darts.append(Dart(k, 0.0, intake, reach / math.cos(turn / 2), corner=True))
    if not darts and not folds:
        raise Refused("This plan has no corner that would have to be taken in.", "drop", Place(panel=panel.name))
    return replace(sheet, darts=tuple(darts), pleats=tuple(folds))

"""Darts or pleats at the corners of a cover that drops over an edge (rule 8)."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import circle_of, edge_length, tangent_at
from ypsicline.core.geometry.plane import turn_between
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.features.pleats import Pleats
from ypsicline.core.pattern.fit import Fit
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import runs_of

__all__ = ["DropCorner", "drop_corner", "with_drop"]

_CORNER_RAD = math.radians(20)
_CURVED_MM = 400.0


@dataclass(frozen=True)
class DropCorner:
    """What a corner of a drop cover takes in (rule 8), mm."""

    intake_at_drop: float
    intake_at_edge: float
    gathered_by_cord: float


def drop_corner(radius_mm: float, turn_rad: float, drop_mm: float, tuck_mm: float = 0.0) -> DropCorner:
    """The intake at a plan's corner with arc `radius_mm` that turns by `turn_rad`, of a sheet that drops `drop_mm` and
    tucks under by `tuck_mm` more.

    On an arc φh at the drop and φ(h + u) at the sheet's edge; at a sharp corner of a straight-edged
    sheet what lies beyond the plan's corner on both edges, 2h·tan(φ/2), which is 2h where φ is a right
    angle. The cord then gathers φ·u, all of φ·r where r is no more than u.
    """
    per_mm = turn_rad if radius_mm > 0 else 2 * math.tan(turn_rad / 2)
    return DropCorner(per_mm * drop_mm, per_mm * (drop_mm + tuck_mm), turn_rad * min(tuck_mm, radius_mm))


def with_drop(
    panel: Panel, drop_mm: float, tuck_mm: float = 0.0, *, how: Literal["dart", "pleats"] = "dart", pleats: int = 2
) -> Panel:
    """A panel whose seam line is a plan, made into a sheet that hangs down by `drop_mm` all round and tucks under by
    `tuck_mm`: moved out by both, and with what each corner takes in as a dart, or as pleats on an arc.

    A dart's point stands on the plan's corner. Raises `Refusal` where a drop makes no sense.
    """
    if not 5 <= drop_mm <= 3000 or not 0 <= tuck_mm <= 1000:
        text = message("drop_out_of_range", least_mm=5, most_mm=3000, tuck_most_mm=1000)
        raise Refusal(text, "drop", Place(panel=panel.name))
    reach = drop_mm + tuck_mm
    fit = replace(panel.fit or Fit(), clearance=(panel.fit or Fit()).clearance + reach)
    sheet = replace(panel, fit=fit, features=panel.without(Dart, Pleats))
    runs = fit_ring(runs_of(panel.seam_line), fit, panel.grain_deg).runs
    taken_in: list[Feature] = []
    count = len(panel.seam_line)
    for k, edge in enumerate(panel.seam_line):
        circle = circle_of(edge) if edge.kind == "arc" else None
        if circle and circle.sweep > 0 and circle.radius < _CURVED_MM:
            corner = drop_corner(circle.radius, circle.sweep, drop_mm, tuck_mm)
            length = sum(edge_length(r.edge) for r in runs if r.source == edge.id)
            if how == "pleats":
                each = corner.intake_at_edge / pleats
                pitch = max(length / pleats, each)
                start = max((length - (pleats - 1) * pitch - each) / 2, 0.0)
                taken_in.append(Pleats(edge.id, start, corner.intake_at_edge, pleats, pitch, depth=reach))
            else:
                taken_in.append(Dart(edge.id, length / 2, corner.intake_at_edge, reach))
        after = panel.seam_line[(k + 1) % count]
        turn = turn_between(tangent_at(edge, 1.0), tangent_at(after, 0.0))
        if turn > _CORNER_RAD:
            intake = drop_corner(0.0, turn, drop_mm, tuck_mm).intake_at_edge
            taken_in.append(Dart(edge.id, 0.0, intake, reach / math.cos(turn / 2), corner=True))
    if not taken_in:
        raise Refusal(message("plan_has_no_corner"), "drop", Place(panel=panel.name))
    return replace(sheet, features=(*sheet.features, *taken_in))

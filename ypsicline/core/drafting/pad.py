"""Tapers for a whole pad: put on, tried by filling it, made deeper until its corners stay in; and their template."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
import shapely

from ypsicline.core.drafting.draft import seam_runs
from ypsicline.core.drafting.inflated import Corner, Inflated, Progress, corners_of, inflating
from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Point, edge_length, tangent_at
from ypsicline.core.geometry.plane import turn_between
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.dart import Dart
from ypsicline.core.pattern.features.mark_at import MarkAt
from ypsicline.core.pattern.features.taper import Preset, Taper, usual_taper
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["FilledPad", "corner_template", "deeper", "filling", "with_tapers"]

ENOUGH = 0.02
_STEPS: tuple[tuple[float, float], ...] = ((0.25, 0.03), (0.3, 0.045), (0.36, 0.06), (0.42, 0.07), (0.47, 0.075))
_CONVEX_RAD = math.radians(15)
_TEMPLATE_MARGIN_MM = 40.0


@dataclass(frozen=True)
class FilledPad:
    """A pad as it comes out filled, with its corners, and the sides that it was meant to have drawn in with them."""

    shape: Inflated
    corners: tuple[Corner, ...]
    worst: float

    @property
    def is_enough(self) -> bool:
        return self.worst < ENOUGH


def with_tapers(
    panel: Panel, edges: Sequence[str], preset: Preset = "usual", *, curved: bool = False, step: int | None = None
) -> Panel:
    """The panel with a taper at the end of each of these edges, by the preset, or by a `step` of `deeper`.

    Raises `Refusal` where none of these corners can be tapered.
    """
    plain = replace(panel, features=panel.without(Taper))
    runs = {r.source: r.edge for r in seam_runs(plain)}
    after = _following(panel)
    tapers: list[Taper] = []
    for edge in edges:
        first, second = runs.get(edge), runs.get(after.get(edge, ""))
        if first is None or second is None:
            raise Refusal(message("corner_gone"), "taper", Place(panel=panel.name))
        if turn_between(tangent_at(first, 1.0), tangent_at(second, 0.0)) < _CONVEX_RAD:
            continue
        lengths = edge_length(first), edge_length(second)
        taper = usual_taper(edge, *lengths, preset, curved=curved)
        if step is not None:
            reach, inset = _STEPS[step]
            taper = replace(
                taper, reach=min(lengths) * reach, reach_after=min(lengths) * reach, inset=min(lengths) * inset
            )
        tapers.append(taper)
    if not tapers:
        raise Refusal(message("no_corner_to_taper"), "taper", Place(panel=panel.name))
    others = (f for f in panel.features if not (isinstance(f, Taper) and f.edge in edges))
    return replace(panel, features=(*others, *tapers))


def filling(panel: Panel, progress: Progress | None = None) -> Iterator[FilledPad]:
    """The panel as both plies of a pad, filled as tight as they go: what its plan becomes, roughly and then finely.

    It is filled as it is once finished, its cloth shrunk and stretched. Raises `Refusal` for a panel that can't be filled.
    """
    finished_panel = replace(panel, features=panel.without(Dart), fit=panel.fit and panel.fit.of_ease)
    sides = [r.edge for r in seam_runs(replace(finished_panel, features=finished_panel.without(Taper)))]
    runs = seam_runs(finished_panel)
    for state in inflating(flatten_ring([r.edge for r in runs], 0.2), progress=progress):
        corners = corners_of(sides, state)
        yield FilledPad(state, corners, max((c.share for c in corners), default=0.0))


def deeper(panel: Panel) -> int | None:
    """The next step of tapers that goes farther than the panel's, None after the last."""
    tapers = panel.of(Taper)
    if not tapers:
        return 0
    runs = {r.source: r.edge for r in seam_runs(replace(panel, features=panel.without(Taper)))}
    after = _following(panel)
    reached = max(t.reach / min(edge_length(runs[t.edge]), edge_length(runs[after[t.edge]])) for t in tapers)
    return next((k for k, (reach, _) in enumerate(_STEPS) if reach > reached + 1e-6), None)


def _following(panel: Panel) -> dict[str, str]:
    """Of each edge of the outline the one that follows it."""
    names = [e.id for e in panel.seam_line]
    return dict(zip(names, [*names[1:], *names[:1]], strict=True))


def corner_template(draft: DraftedPanel, at: Point, reach_mm: float) -> Panel:
    """A card template of one corner, to be laid on the raw edges: the allowance is in it, the seam line drawn on it.

    Raises `Refusal` where the panel has no cloth at the corner.
    """
    cloth = shapely.Polygon(draft.cutting_points)
    size = reach_mm + _TEMPLATE_MARGIN_MM
    template = cloth.intersection(shapely.Point(at).buffer(size, quad_segs=24))
    parts = [g for g in shapely.get_parts(template) if g.geom_type == "Polygon"]
    if not parts:
        raise Refusal(message("no_corner_for_template"), "taper", Place(panel=draft.name, point=at))
    shape = max(parts, key=lambda g: float(g.area)).simplify(0.02)
    ring = np.asarray(shapely.geometry.polygon.orient(shape).exterior.coords)[:-1]
    points: list[Point] = [(float(x), float(y)) for x, y in ring]
    seam = tuple(
        SeamEdge("line", (p, points[(k + 1) % len(points)]), "cut edge", 0.0, "raw", "mitre")
        for k, p in enumerate(points)
    )
    line = shapely.LinearRing(draft.seam_points).intersection(shape.buffer(-0.01))
    marks = [
        MarkAt("note", (float(a[0]), float(a[1])), (float(b[0]), float(b[1])))
        for part in shapely.get_parts(line)
        if part.geom_type == "LineString"
        for a, b in zip(part.simplify(0.05).coords[:-1], part.simplify(0.05).coords[1:], strict=True)
    ]
    name = f"{draft.name} corner template"[:80]
    return Panel(
        name,
        seam,
        cloth="card",
        way_up=message("lay_on_raw_edges"),
        middle_notches=False,
        features=tuple(marks[:200]),
    )

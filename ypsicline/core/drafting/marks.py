"""The marks that are drawn on a panel, sized for it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import shapely

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.geometry.edges import Array, flatten, point_at, tangent_at
from ypsicline.core.geometry.parallel import parallel
from ypsicline.core.geometry.plane import along, as_point
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.messages import message
from ypsicline.core.pattern.mark import MARK_NAMES, Mark
from ypsicline.core.pattern.panel import Panel, instruction
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["fold_line_marks", "label_and_grain", "on_fold_marks", "strengthened"]

_FLAT_MM = 0.2
_OWN_PLACE_MM = 10.0
_PATCH_MM = 20.0
# how often the widest circle in a panel goes into its area where it is a strip
_STRIP = 4.0
_AS_ROOMY = 0.96


def label_and_grain(panel: Panel, seam_points: Array, holes: Sequence[Sequence[SeamEdge]]) -> tuple[Mark, ...]:
    """The grainline and the label, in the roomiest place of the panel; on a strip with more between them."""
    room = shapely.Polygon(seam_points, [flatten_ring(h) for h in holes])
    size = math.sqrt(room.area)
    # where there is room enough is found well enough on a simpler outline
    plainer = room.simplify(size / 300, preserve_topology=False)
    plainer = plainer if plainer.is_valid else room
    widest = shapely.maximum_inscribed_circle(plainer, tolerance=size / 50)
    (cx, cy), (rx, ry) = np.asarray(widest.coords)
    radius = math.hypot(rx - cx, ry - cy)
    # of all places that are as roomy, as there are along a strip, the one nearest to the middle
    roomy = plainer.buffer(-_AS_ROOMY * radius)
    if not roomy.is_empty:
        radius *= _AS_ROOMY
        cx, cy = np.asarray(shapely.shortest_line(roomy, room.centroid).coords[0])
    grain = np.array([math.cos(math.radians(panel.grain_deg)), math.sin(math.radians(panel.grain_deg))])
    aside, half = np.array([grain[1], -grain[0]]) * radius, 0.55 * radius * grain
    beside = (1.7, -1.7) if room.area > _STRIP * math.pi * radius**2 else ()
    arrows = [np.array([cx, cy]) + share * aside for share in (*beside, 0.62)]
    fits = (p for p in arrows[:-1] if room.contains(shapely.LineString([p - half, p + half]).buffer(0.2 * radius)))
    middle = next(fits, arrows[-1])
    lines = tuple(t for t in (panel.name, instruction(panel), panel.way_up) if t)
    return (
        Mark("grain", (as_point(middle - half), as_point(middle + half))),
        Mark("label", ((float(cx - 0.15 * radius), float(cy)),), lines, 0.11 * radius, 1.9 * radius),
    )


def fold_line_marks(ring: Sequence[SeamEdge]) -> list[Mark]:
    """The inner fold of each hem that has one, by words which."""
    marks = []
    for edge in ring:
        if edge.is_folded_back and edge.turn_under > 0:
            line = flatten(parallel(edge, edge.depth), _FLAT_MM)
            marks.append(
                Mark("fold", tuple(as_point(p) for p in line), (message("fold_under", under_mm=edge.turn_under),), 2.5)
            )
    return marks


def on_fold_marks(panel: Panel, seam: Sequence[SeamEdge]) -> tuple[list[Mark], list[Finding]]:
    """The bracket along the one straight edge that lies on the cloth's fold, and what is wrong with it."""
    folds = [e for e in seam if e.finishing.is_on_fold]
    if not folds:
        if not panel.on_fold:
            return [], []
        return [], [Finding("look", message("no_edge_on_fold"), Place(edge=seam[0].name))]
    curves = [e for e in folds if e.kind != "line"]
    if curves:
        text = message("bent_edge_on_fold", edge=curves[0].name)
        return [], [Finding("stop", text, Place(edge=curves[0].name, point=point_at(curves[0], 0.5)))]
    if len(folds) > 1 and not _on_one_line(folds):
        text = message("two_edges_on_fold", edge=folds[0].name, other=folds[1].name)
        return [], [Finding("stop", text, Place(edge=folds[1].name))]
    marks = []
    for e in folds:
        t = tangent_at(e, 0.5)
        inward = (-t[1], t[0])
        length = math.dist(e.start, e.end)
        a, b = along(e.start, t, 0.15 * length), along(e.end, t, -0.15 * length)
        depth = min(15.0, 0.1 * length)
        size = min(5.0, length / 30)
        marks.append(
            Mark("on_fold", (a, along(a, inward, depth), along(b, inward, depth), b), (message("place_on_fold"),), size)
        )
    return marks, []


def _on_one_line(folds: Sequence[SeamEdge]) -> bool:
    first = folds[0]
    t = tangent_at(first, 0.5)
    offs = [abs(t[0] * (p[1] - first.start[1]) - t[1] * (p[0] - first.start[0])) for e in folds[1:] for p in e.points]
    return max(offs) < 0.05


def strengthened(seam: Sequence[SeamEdge], of_panel: Sequence[Mark]) -> list[Mark]:
    """The marks, and where a seam is pulled at a bar at each end of a zip, a lock at the ends of a casing, a patch under
    a tie, but for where the maker drew one; a cord's exit is told to be locked."""
    marks: list[Mark] = []
    for k, edge in enumerate(seam):
        if kind := edge.finishing.strengthened_by:
            before, after = seam[k - 1], seam[(k + 1) % len(seam)]
            ends = [p for p, other in ((edge.start, before), (edge.end, after)) if other.finish != edge.finish]
            marks += [Mark(kind, (p,), (MARK_NAMES[kind],), 2.5) for p in ends]
    for x, y in (m.points[0] for m in of_panel if m.kind == "tie"):
        h = _PATCH_MM / 2
        square = ((x - h, y - h), (x + h, y - h), (x + h, y + h), (x - h, y + h), (x - h, y - h))
        marks.append(Mark("patch", square, (message("mark_patch"),), 2.5))
    own = [m.points[0] for m in of_panel if m.kind in ("bar", "lock", "patch")]
    others = [
        replace(m, lines=(message("locked", mark=(m.lines or (message("mark_exit"),))[0]),)) if m.kind == "exit" else m
        for m in of_panel
    ]
    return others + [m for m in marks if all(math.dist(np.mean(m.points[:4], axis=0), p) > _OWN_PLACE_MM for p in own)]

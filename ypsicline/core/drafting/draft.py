"""Drafting a panel: cutting line, notches, marks, the worked lines, and what to look at."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import fields, replace

import numpy as np
import shapely

from ypsicline.core.drafting.cutting_line import CutRing, cut_ring, tightest_concave
from ypsicline.core.drafting.from_shape import middle_notches
from ypsicline.core.drafting.panel import (
    DraftedPanel,
    Finding,
    Mark,
    Notch,
    Panel,
    SeamEdge,
    instruction,
    numbers,
)
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import (
    Array,
    Point,
    circle_of,
    edge_length,
    parameter_at_length,
    point_at,
    tangent_at,
)
from ypsicline.core.geometry.rings import check_ring, flatten_ring, is_counter_clockwise, reverse_ring

__all__ = ["draft_panel", "draft_panels"]

NOTCH_AT_MOST_MM = 6.0
LEAST_NOTCHED_ALLOWANCE_MM = 4.0
HEM_CURVE_AT_MOST = 0.03


def draft_panels(
    panels: Sequence[Panel], draft: Callable[[Panel], DraftedPanel] | None = None
) -> tuple[DraftedPanel, ...]:
    """Each panel drafted, by `draft_panel` or a `draft` that remembers; two panels may not share a name."""
    seen: set[str] = set()
    for p in panels:
        if p.name in seen:
            raise Refused(
                f"Two panels are called “{p.name}”; give each a name of its own.", "name", Place(panel=p.name)
            )
        seen.add(p.name)
    return tuple((draft or draft_panel)(p) for p in panels)


def draft_panel(panel: Panel) -> DraftedPanel:
    """The panel with its cutting line and marks.

    Holes may run either way round and come back clockwise. Raises `Refused` with the place: a
    seam line that is open, clockwise, or touches itself; a hole that isn't inside; a hole that
    its allowance fills; a notch beyond its edge.
    """
    try:
        return _draft(panel)
    except Refused as e:
        e.place = replace(e.place, panel=panel.name)
        e.sentence = f"Panel “{panel.name}”: {e.sentence[0].lower()}{e.sentence[1:]}"
        raise


def _draft(panel: Panel) -> DraftedPanel:
    seam = _named(panel.seam_line)
    seam_points = check_ring(seam, [e.name for e in seam], "seam line")
    if not is_counter_clockwise(seam):
        raise Refused(
            "The seam line runs clockwise; list its edges counter-clockwise, x to the right, y up.", "outline"
        )
    holes = tuple(_hole(h, k, seam_points) for k, h in enumerate(panel.holes))
    _apart(holes)
    (cut,) = cut_ring(seam)
    hole_cuts = [ring for h in holes for ring in cut_ring(h, hole=True)]
    findings = [*_cut_findings(seam, cut), *_hem_findings(seam)]
    for h in holes:
        findings += _hem_findings(h)
    notches, notch_findings = _notches(panel, seam)
    kept = {f.name: getattr(panel, f.name) for f in fields(Panel)}
    kept.update(seam_line=seam, holes=holes, notches=notches)
    return DraftedPanel(
        **kept,
        cutting_line=cut.edges,
        cutting_points=_points(flatten_ring(cut.edges)),
        seam_points=_points(seam_points),
        hole_cutting_lines=tuple(r.edges for r in hole_cuts),
        hole_cutting_points=tuple(_points(flatten_ring(r.edges)) for r in hole_cuts),
        hole_seam_points=tuple(_points(flatten_ring(h)) for h in holes),
        marks=_marks(panel, seam_points, holes),
        worked=_worked(seam, holes, cut),
        findings=tuple(findings + notch_findings),
    )


def _named(edges: Sequence[SeamEdge], before: str = "") -> tuple[SeamEdge, ...]:
    return tuple(e if e.name else replace(e, name=f"{before}{k + 1}") for k, e in enumerate(edges))


def _hole(edges: Sequence[SeamEdge], k: int, seam_points: Array) -> tuple[SeamEdge, ...]:
    hole = _named(edges, f"hole {k + 1}.")
    points = check_ring(hole, [e.name for e in hole], f"edge of hole {k + 1}")
    if not shapely.contains_properly(shapely.Polygon(seam_points), shapely.Polygon(points)):
        raise Refused(
            f"Hole {k + 1} isn't inside the seam line; move it inward.",
            "hole",
            Place(edge=hole[0].name, point=hole[0].start),
        )
    if not is_counter_clockwise(hole):
        return hole
    turned = reverse_ring(hole)
    # the corner belongs to the end of an edge: turned round, it is the one before's
    return tuple(replace(e, corner=turned[(i + 1) % len(turned)].corner) for i, e in enumerate(turned))


def _apart(holes: Sequence[Sequence[SeamEdge]]) -> None:
    shapes = [shapely.Polygon(flatten_ring(h)) for h in holes]
    for i, a in enumerate(shapes):
        for j in range(i + 1, len(shapes)):
            if shapely.intersects(a, shapes[j]):
                raise Refused(f"Holes {i + 1} and {j + 1} overlap; move them apart or make them one.", "hole")


def _cut_findings(seam: Sequence[SeamEdge], cut: CutRing) -> list[Finding]:
    found = []
    for i in cut.trimmed:
        edge = seam[i]
        radius = tightest_concave(edge)
        if radius is not None and radius < edge.allowance:
            found.append(
                Finding(
                    "look",
                    f"Edge “{edge.name}” curves inward with a radius of {radius:.1f} mm, tighter than its allowance of "
                    f"{edge.allowance:.1f} mm: the cutting line loses a loop there. Snip the allowance, or face the edge.",
                    Place(edge=edge.name, point=point_at(edge, 0.5)),
                    numbers(radius_mm=radius, allowance_mm=edge.allowance),
                )
            )
        else:
            found.append(
                Finding(
                    "look",
                    f"The allowance of edge “{edge.name}” runs into another edge's and is cut short there. "
                    "Give one of them less, or cut and face it.",
                    Place(edge=edge.name, point=point_at(edge, 0.5)),
                )
            )
    for at in cut.closed_at:
        found.append(
            Finding(
                "look",
                "The allowances on both sides of an inlet meet, so that it closes up; slit it open after cutting.",
                Place(point=at),
            )
        )
    return found


def _hem_findings(ring: Sequence[SeamEdge]) -> list[Finding]:
    """A hem of depth h folded on a curve of radius r is out by (r + h)/(r − h): said beyond 3 %."""
    found = []
    for edge in ring:
        circle = circle_of(edge) if edge.kind == "arc" else None
        if edge.finish == "hem" and circle and edge.allowance > 0:
            h, r = edge.allowance, circle.radius
            longer = circle.sweep > 0
            place, figures = Place(edge=edge.name, point=point_at(edge, 0.5)), numbers(radius_mm=r, hem_mm=h)
            if h >= r:
                text = f"The hem of {h:.1f} mm on “{edge.name}” is deeper than the curve's radius of {r:.1f} mm: it can't be folded."
                found.append(Finding("stop", text + " Take a facing or bind it.", place, figures))
            elif (r + h) / (r - h) - 1 > HEM_CURVE_AT_MOST:
                percent = 100 * ((r + h) / (r - h) - 1)
                how = "longer" if longer else "shorter"
                what = "gather it, or take a facing" if longer else "snip it, or take a facing"
                text = (
                    f"Folded flat, the raw edge of “{edge.name}” is {percent:.0f}\u00a0% {how} than its place; {what}."
                )
                found.append(Finding("look", text, place, figures))
        if edge.finish == "bound" and edge.allowance > 0:
            text = f"Edge “{edge.name}” is bound yet carries {edge.allowance:.1f} mm; a bound edge is cut on the seam line."
            found.append(Finding("look", text, Place(edge=edge.name), numbers(allowance_mm=edge.allowance)))
    return found


def _notches(panel: Panel, seam: Sequence[SeamEdge]) -> tuple[tuple[Notch, ...], list[Finding]]:
    wanted = panel.notches
    if wanted is None:
        wanted = middle_notches(seam)
    made, findings = [], []
    for n in wanted:
        if not 0 <= n.edge < len(seam):
            raise Refused(f"A notch stands on edge {n.edge + 1}, but there are {len(seam)}.", "notch")
        edge = seam[n.edge]
        length = edge_length(edge)
        if not 0 <= n.along_mm <= length + 1e-6:
            raise Refused(
                f"A notch stands {n.along_mm:.1f} mm along edge “{edge.name}”, which is {length:.1f} mm long.",
                "notch", Place(edge=edge.name), numbers(along_mm=n.along_mm, length_mm=length),
            )  # fmt: skip
        t = parameter_at_length(edge, n.along_mm)
        on_seam, (dx, dy) = point_at(edge, t), tangent_at(edge, t)
        on_cut = (on_seam[0] + edge.allowance * dy, on_seam[1] - edge.allowance * dx)
        depth = min(edge.allowance / 2, NOTCH_AT_MOST_MM)
        if 0 < edge.allowance < LEAST_NOTCHED_ALLOWANCE_MM:
            findings.append(
                Finding(
                    "look", f"The allowance of “{edge.name}” is too narrow to notch; mark it with chalk.",
                    Place(edge=edge.name, point=on_seam), numbers(allowance_mm=edge.allowance),
                )
            )  # fmt: skip
        made.append(replace(n, on_seam=on_seam, on_cut=on_cut, depth_mm=depth))
    return tuple(made), findings


def _marks(panel: Panel, seam_points: Array, holes: Sequence[Sequence[SeamEdge]]) -> tuple[Mark, ...]:
    """The grainline and the label, in the roomiest place of the panel."""
    room = shapely.Polygon(seam_points, [flatten_ring(h) for h in holes])
    size = math.sqrt(room.area)
    widest = shapely.maximum_inscribed_circle(room, tolerance=size / 100)
    (cx, cy), (rx, ry) = np.asarray(widest.coords)
    radius = math.hypot(rx - cx, ry - cy)
    along = np.array([math.cos(math.radians(panel.grain_deg)), math.sin(math.radians(panel.grain_deg))])
    aside = np.array([along[1], -along[0]]) * 0.62 * radius
    half = 0.55 * radius * along
    middle = np.array([cx, cy]) + aside
    lines = tuple(t for t in (panel.name, instruction(panel), panel.way_up) if t)
    longest = max(len(t) for t in lines)
    letters = float(np.clip(min(0.11 * radius, 1.9 * radius / longest), 1.5, 12.0))
    return (
        Mark("grain", (_point(middle - half), _point(middle + half))),
        Mark("label", ((float(cx - 0.15 * radius), float(cy)),), lines, letters),
    )


def _worked(seam: Sequence[SeamEdge], holes: Sequence[Sequence[SeamEdge]], cut: CutRing) -> tuple[str, ...]:
    lines = [
        f"{e.name}: {edge_length(e):.1f} on the seam line, + {e.allowance:g} {e.finish}"
        for ring in (seam, *holes)
        for e in ring
    ]
    inner, outer = np.ptp(flatten_ring(seam), axis=0), np.ptp(flatten_ring(cut.edges), axis=0)
    lines.append(f"seam line {inner[0]:.1f} × {inner[1]:.1f}; with allowances {outer[0]:.1f} × {outer[1]:.1f} to cut")
    return tuple(lines)


def _points(a: Array) -> tuple[Point, ...]:
    return tuple((float(x), float(y)) for x, y in a)


def _point(a: Array) -> Point:
    return float(a[0]), float(a[1])

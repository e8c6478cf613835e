"""A drafted panel as layers of plain strokes and texts, which every format then writes in its own way."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ypsicline.core.geometry.edges import (
    Array,
    Edge,
    Point,
    edge_length,
    parameter_at_length,
    point_at,
    tangent_at,
)
from ypsicline.core.geometry.rings import flatten_ring, lengths_along
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message
from ypsicline.core.pattern.mark import MARK_NAMES, DraftedNotch, Mark, letters_mm
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.wording import render, render_all

__all__ = [
    "LINE_MM",
    "Drawing",
    "Layer",
    "Ring",
    "Stroke",
    "Text",
    "arrow",
    "dashes",
    "draw_panel",
    "edge_words",
    "side_by_side",
]

Layer = Literal["seam_line", "cutting_line", "notches", "grain", "marks", "text"]
LINE_MM: dict[Layer, float] = {
    "cutting_line": 0.9,
    "seam_line": 0.25,
    "notches": 0.35,
    "grain": 0.35,
    "marks": 0.3,
    "text": 0.2,
}
"""How wide the lines of each layer are: what is cut is the bold one."""
GAP_MM = 30.0
EDGE_TEXT_MM = 3.0
_DOUBLE_NOTCH_MM = 4.0
_POINT_MM = 2.5
_ROUND = tuple((math.cos(k * math.pi / 8), math.sin(k * math.pi / 8)) for k in range(17))
_NAMED = frozenset({"button", "tie", "exit", "bar", "lock", "patch", "wrong_side", "top"})


@dataclass(frozen=True)
class Ring:
    """A closed ring of edges."""

    layer: Layer
    edges: tuple[Edge, ...]


@dataclass(frozen=True)
class Stroke:
    """An open run of straight lines."""

    layer: Layer
    points: tuple[Point, ...]


@dataclass(frozen=True)
class Text:
    """A line of text centred on `at`, letters `size_mm` high, turned by `turn_deg`."""

    at: Point
    text: str
    size_mm: float
    turn_deg: float = 0.0
    layer: Layer = "text"


@dataclass(frozen=True)
class Drawing:
    name: str
    rings: tuple[Ring, ...]
    strokes: tuple[Stroke, ...]
    texts: tuple[Text, ...]

    def bounds(self) -> tuple[Point, Point]:
        """Lower left and upper right corner of all rings."""
        points = np.vstack([flatten_ring(r.edges) for r in self.rings])
        low, high = points.min(axis=0), points.max(axis=0)
        return (float(low[0]), float(low[1])), (float(high[0]), float(high[1]))

    def carried(self, to: Transform, least_text_mm: float = 0.0) -> Drawing:
        """The drawing moved, turned, or made larger or smaller; its letters no lower than `least_text_mm`, and never
        upside down."""
        go = to.point
        return Drawing(
            self.name,
            tuple(replace(r, edges=tuple(Edge(e.kind, tuple(map(go, e.points))) for e in r.edges)) for r in self.rings),
            tuple(replace(s, points=tuple(map(go, s.points))) for s in self.strokes),
            tuple(
                replace(
                    t,
                    at=go(t.at),
                    size_mm=max(t.size_mm * to.scale, least_text_mm),
                    turn_deg=readable_deg(to.direction_deg(t.turn_deg)),
                )
                for t in self.texts
            ),
        )


def draw_panel(panel: DraftedPanel, unit: Unit = "mm") -> Drawing:
    """All that is drawn of a panel, figures in its words in `unit`."""
    rings = [Ring("cutting_line", panel.cutting_line), Ring("seam_line", panel.seam_line)]
    rings += [Ring("cutting_line", h) for h in panel.hole_cutting_lines]
    rings += [Ring("seam_line", h) for h in panel.holes]
    strokes: list[Stroke] = []
    for notch in panel.notches:
        strokes += _notch(notch, panel.seam_line[notch.edge])
    texts: list[Text] = []
    for mark in panel.marks:
        if mark.kind == "grain":
            strokes += arrow(np.asarray(mark.points))
        elif mark.kind != "label":
            more, words = _mark(mark, unit)
            strokes += more
            texts += words
        else:
            x, y = mark.points[0]
            lines = render_all(mark.lines, unit)
            size = letters_mm(mark, lines)
            for k, line in enumerate(lines):
                texts.append(
                    Text(
                        (x, y - 1.6 * size * (k - (len(lines) - 1) / 2)),
                        line,
                        size if k == 0 else 0.7 * size,
                    )
                )
    for ring in panel.rings():
        texts += [t for e in ring if (t := _edge_text(e, unit))]
    return Drawing(panel.name, tuple(rings), tuple(strokes), tuple(texts))


def side_by_side(drawings: Sequence[Drawing]) -> tuple[Drawing, ...]:
    """The drawings in a row, feet on y = 0, the first at x = 0."""
    x, row = 0.0, []
    for d in drawings:
        low, high = d.bounds()
        row.append(d.carried(Transform(x=x - low[0], y=-low[1])))
        x += high[0] - low[0] + GAP_MM
    return tuple(row)


def _notch(notch: DraftedNotch, edge: SeamEdge) -> list[Stroke]:
    length = edge_length(edge)
    shifts = (-_DOUBLE_NOTCH_MM / 2, _DOUBLE_NOTCH_MM / 2) if notch.double else (0.0,)
    lines = []
    for shift in shifts:
        t = parameter_at_length(edge, min(max(notch.along_mm + shift, 0.0), length))
        (x, y), (dx, dy) = point_at(edge, t), tangent_at(edge, t)
        depth = notch.depth_mm
        outer, inner = (edge.allowance, edge.allowance - depth) if depth else (-3.0, 3.0)
        lines.append(Stroke("notches", ((x + outer * dy, y - outer * dx), (x + inner * dy, y - inner * dx))))
    return lines


def _mark(mark: Mark, unit: Unit) -> tuple[list[Stroke], list[Text]]:
    """A run as a stroke (dashed where it is folded or sewn, not cut), a point as a small cross, and their words."""
    words = [w for w in render_all(mark.lines, unit) if w]
    if not words and mark.kind in _NAMED:
        words = [render(MARK_NAMES[mark.kind])]
    size = max(mark.size_mm, 2.0)
    if len(mark.points) == 1:
        x, y = mark.points[0]
        arm = _POINT_MM
        if mark.kind == "corner_dot":
            return [Stroke("marks", tuple((x + r * arm / 2, y + s * arm / 2) for r, s in _ROUND))], []
        strokes = [Stroke("marks", ((x - arm, y), (x + arm, y))), Stroke("marks", ((x, y - arm), (x, y + arm)))]
        return strokes, [Text((x, y + 2.2 * arm), w, size) for w in words]
    strokes = dashes(mark.points) if mark.is_dashed else [Stroke("marks", mark.points)]
    (ax, ay), (bx, by) = mark.points[0], mark.points[-1]
    middle = mark.points[len(mark.points) // 2] if len(mark.points) > 2 else ((ax + bx) / 2, (ay + by) / 2)
    return strokes, [Text((middle[0], middle[1] + 0.8 * size), w, size) for w in words]


def dashes(points: Sequence[Point] | Array, layer: Layer = "marks", dash: float = 4.0) -> list[Stroke]:
    """A run in strokes of `dash` mm with gaps of 2."""
    line = np.asarray(points)
    along = lengths_along(line)
    strokes = []
    for start in np.arange(0, along[-1], dash + 2.0):
        end = min(start + dash, float(along[-1]))
        inner = along[(along > start) & (along < end)]
        at = np.array([start, *inner, end])
        run = np.column_stack([np.interp(at, along, line[:, 0]), np.interp(at, along, line[:, 1])])
        strokes.append(Stroke(layer, tuple(_p(p) for p in run)))
    return strokes


def arrow(ends: Array) -> list[Stroke]:
    """A grain line between two ends (2, 2), with a head at each."""
    a, b = ends
    d = (b - a) / (float(np.hypot(*(b - a))) or 1.0)
    n = np.array([-d[1], d[0]])
    head = min(6.0, 0.2 * float(np.hypot(*(b - a))))
    tips = [(b, -1.0), (a, 1.0)]
    strokes = [Stroke("grain", (_p(a), _p(b)))]
    strokes += [
        Stroke(
            "grain",
            (_p(tip + s * head * d + 0.5 * head * n), _p(tip), _p(tip + s * head * d - 0.5 * head * n)),
        )
        for tip, s in tips
    ]
    return strokes


def edge_words(edge: SeamEdge, unit: Unit = "mm") -> str:
    """The edge's name and what is added to it."""
    words = {"edge": edge.name, "finish": edge.finish.replace("_", " ")}
    if edge.is_cut_on_seam:
        return render(message("edge_cut_on_seam", **words))
    if edge.turn_under:
        figures = {"allowance_mm": edge.allowance, "under_mm": edge.turn_under}
        return render(message("edge_turned_under", **words, **figures), unit)
    return render(message("edge_with_allowance", **words, allowance_mm=edge.allowance), unit)


def _edge_text(edge: SeamEdge, unit: Unit) -> Text | None:
    """The edge's name and allowance, just inside the seam line at its middle."""
    text = edge_words(edge, unit)
    if edge_length(edge) < len(text) * EDGE_TEXT_MM * 0.6:
        return None
    (x, y), (dx, dy) = point_at(edge, 0.5), tangent_at(edge, 0.5)
    inset = EDGE_TEXT_MM * 1.3
    turn = readable_deg(math.degrees(math.atan2(dy, dx)))
    return Text((x - inset * dy, y + inset * dx), text, EDGE_TEXT_MM, turn)


def readable_deg(degrees: float) -> float:
    """The direction of a line of text, turned about where it would stand upside down: -90 to 90."""
    turn = (degrees + 180) % 360 - 180
    return turn - 180 if turn > 90.01 else turn + 180 if turn < -90 else turn


def _p(a: Array) -> Point:
    return float(a[0]), float(a[1])

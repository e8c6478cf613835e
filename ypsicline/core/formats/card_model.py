"""The pieces of a scale model in card: finished outlines with tabs along their joins, to be folded and glued."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ypsicline.core.formats.drawing import Drawing, Layer, Ring, Stroke, Text, dashes
from ypsicline.core.geometry.edges import Array, Edge, Point, flatten
from ypsicline.core.geometry.plane import as_point
from ypsicline.core.geometry.rings import flatten_ring, lengths_along
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message
from ypsicline.core.pattern.join import Join
from ypsicline.core.pattern.mark import letters_mm
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.wording import render, render_all

__all__ = ["card_pieces"]

TAB_MM = 6.0
LEAST_TAB_MM = 1.5
TOOTH_MM = 10.0
LETTERS_MM = 3.0
_TICK_MM = 2.0
# of the way along an edge, clear of the notch in its middle
_LETTER_AT = 0.42
# so much of a tab may lie over the piece or another tab: what rounding does, mm²
_TOUCHES_MM2 = 0.05
_STRAIGHT_MM = 0.2
_DASH_MM = 2.0
_INNER_RAD = math.radians(60)


@dataclass(frozen=True)
class _Side:
    """What is glued along an edge: the join's letter, and whether it has tabs here, as one or as teeth."""

    letter: str
    tabs: bool
    teeth: bool


@dataclass(frozen=True)
class _CardEdge:
    """An edge of a piece as it lies on the card, (n, 2) mm, with the id of the edge that it comes from."""

    points: Array
    of: str


def card_pieces(
    panels: Sequence[DraftedPanel], joins: Sequence[Join], scale: float, unit: Unit = "mm"
) -> tuple[Drawing, ...]:
    """Every piece that the joins sew, the second of a pair mirrored, and once each panel that they don't; `scale` 0.1 for 1:10.

    Each is drawn as it is once it is sewn, on the fold opened out. Along each join one side has tabs, in teeth where it
    bends, and both have its letter.
    """
    sides = _sides(panels, joins)
    folded_panels = {
        a.panel for j in joins for a in j.first if any(a.panel == b.panel and a.edge != b.edge for b in j.second)
    }
    pieces = []
    for panel in panels:
        pieces_sewn = [a.piece for j in joins for a in (*j.first, *j.second) if a.panel == panel.id]
        for piece in range(1, max(pieces_sewn, default=1) + 1):
            pieces.append(
                _piece(
                    panel, piece, max(pieces_sewn, default=1), sides, scale, unit, is_folded=panel.id in folded_panels
                )
            )
    return tuple(pieces)


def _sides(panels: Sequence[DraftedPanel], joins: Sequence[Join]) -> dict[tuple[str, str, int], _Side]:
    """What is glued along each edge of each piece. Tabs are on the straight side where the other bends, else on the one of
    more edges, so that none lies over a fold."""
    edges: dict[tuple[str, str], list[Edge]] = {}
    for p in panels:
        for edge, source in zip(p.seam_line, p.seam_of, strict=True):
            edges.setdefault((p.id, source), []).append(edge)
    sides: dict[tuple[str, str, int], _Side] = {}
    for join in joins:
        runs = [[e for a in run for e in edges.get((a.panel, a.edge), ())] for run in (join.first, join.second)]
        bends = [any(e.kind != "line" for e in run) for run in runs]
        tabbed = bends.index(False) if any(bends) and not all(bends) else int(len(runs[1]) > len(runs[0]))
        for k, run in enumerate((join.first, join.second)):
            for a in run:
                sides.setdefault((a.panel, a.edge, a.piece), _Side(join.letter, k == tabbed, any(bends)))
    return sides


def _piece(
    panel: DraftedPanel,
    piece: int,
    pieces: int,
    sides: Mapping[tuple[str, str, int], _Side],
    scale: float,
    unit: Unit,
    *,
    is_folded: bool,
) -> Drawing:
    flip = -1.0 if panel.hand == "pair" and piece % 2 == 0 else 1.0
    to_card = np.array([flip * scale, scale])
    ring = [
        _CardEdge(flatten(e) * to_card, of)
        for e, of in zip(panel.seam_line, panel.seam_of, strict=True)
        if not e.finishing.is_on_fold
    ]
    if flip < 0:
        ring = [_CardEdge(e.points[::-1], e.of) for e in reversed(ring)]
    fold = next((e for e in panel.seam_line if e.finishing.is_on_fold), None) if panel.on_fold else None
    if fold is not None:
        ring = _opened_out(ring, np.array([fold.start, fold.end]) * to_card)
    body = shapely.Polygon(np.vstack([e.points[:-1] for e in ring]))
    outline: list[Array] = []
    strokes, texts, tabs = [], [], shapely.Polygon()
    for edge in ring:
        side = sides.get((panel.id, edge.of, piece))
        ways = _with_tabs(edge.points, side.teeth, body, tabs) if side and side.tabs else None
        outline.append((edge.points if ways is None else ways)[:-1])
        if ways is not None:
            tabs = tabs.union(shapely.Polygon(np.vstack([ways, edge.points[::-1]])).buffer(0))
            strokes += dashes(edge.points, "seam_line", _DASH_MM)
        if side and side.letter:
            texts.append(_lettered(edge.points, side.letter))
    if is_folded:
        strokes += _folds(body)
    for n in panel.notches:
        start = np.asarray(n.on_seam) * to_card
        inward = start - np.asarray(n.on_cut) * to_card
        length = float(np.hypot(*inward))
        if length:
            strokes.append(_stroke("notches", np.array([start, start + inward * (_TICK_MM / length)])))
    for mark in panel.marks:
        if mark.kind in ("dart", "pleat"):
            strokes.append(_stroke("marks", np.asarray(mark.points) * to_card))
        if mark.kind == "label":
            name = panel.name if pieces == 1 else render(message("card_piece", panel=panel.name, piece=piece))
            lines = (name, *render_all((panel.way_up,), unit)) if panel.way_up else (name,)
            size = min(max(letters_mm(mark, lines) * scale, LETTERS_MM), 2 * LETTERS_MM)
            x, y = np.asarray(mark.points[0]) * to_card
            texts += [Text((float(x), float(y - 1.5 * size * k)), words, size) for k, words in enumerate(lines)]
    rings = [_ring(np.vstack(outline))]
    rings += [_ring(flatten_ring(h) * to_card) for h in panel.holes]
    return Drawing(panel.name, tuple(rings), tuple(strokes), tuple(texts))


def _opened_out(ring: Sequence[_CardEdge], fold: Array) -> list[_CardEdge]:
    """A half and its mirror image about the fold."""
    base, way = fold[0], (fold[1] - fold[0]) / np.hypot(*(fold[1] - fold[0]))

    def mirrored(points: Array) -> Array:
        out = points - base
        return np.asarray(base + 2 * np.outer(out @ way, way) - out)

    # begun behind the fold, so that the half runs from one end of it to the other
    start = min(range(len(ring)), key=lambda k: min(math.dist(ring[k].points[0], f) for f in fold))
    half = [*ring[start:], *ring[:start]]
    return [*half, *(_CardEdge(mirrored(e.points)[::-1], e.of) for e in reversed(half))]


def _with_tabs(points: Array, teeth: bool, body: shapely.Polygon, others: shapely.Geometry) -> Array | None:
    """The edge with its tabs, which narrow until they lie clear of the piece and of other tabs; None where they never do."""
    depth = min(TAB_MM, lengths_along(points)[-1] / 3)
    while depth >= LEAST_TAB_MM:
        way = _tabs(points, teeth, depth)
        own = shapely.Polygon(np.vstack([way, points[::-1]])).buffer(0)
        if own.intersection(body).area <= _TOUCHES_MM2 and own.intersection(others).area <= _TOUCHES_MM2:
            return way
        depth *= 0.7
    return None


def _tabs(points: Array, teeth: bool, depth: float) -> Array:
    along = lengths_along(points)
    length = float(along[-1])
    count = max(1, math.ceil(length / TOOTH_MM)) if teeth else 1
    stops = np.linspace(0, length, count + 1)
    inset = min(0.7 * depth, length / count / 3)
    way = [points[0]]
    for a, b in zip(stops[:-1], stops[1:], strict=True):
        for s in (a + inset, b - inset):
            at, normal = _place(points, along, s)
            way.append(at + depth * normal)
        way.append(_place(points, along, b)[0])
    return np.array(way)


def _place(points: Array, along: Array, at: float) -> tuple[Array, Array]:
    """A place of an edge and the direction outward there."""
    k = min(int(np.searchsorted(along, at, side="right")) - 1, len(points) - 2)
    step = points[k + 1] - points[k]
    share = (at - along[k]) / max(along[k + 1] - along[k], 1e-9)
    return points[k] + share * step, np.array([step[1], -step[0]]) / max(float(np.hypot(*step)), 1e-9)


def _folds(body: shapely.Polygon) -> list[Stroke]:
    """Where a sheet that is sewn to itself is folded: from each inner corner to the next."""
    points = np.asarray(body.exterior.coords)[:-1]
    before, behind = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turns = np.arctan2(before[:, 0] * behind[:, 1] - before[:, 1] * behind[:, 0], (before * behind).sum(axis=1))
    inner = points[turns < -_INNER_RAD]
    folds = (np.array([a, b]) for a, b in zip(inner, np.roll(inner, -1, axis=0), strict=True) if len(inner) > 1)
    return [s for f in folds if body.covers(shapely.LineString(f)) for s in dashes(f, "seam_line", _DASH_MM)]


def _lettered(points: Array, letter: str) -> Text:
    at, normal = _place(points, lengths_along(points), _LETTER_AT * float(lengths_along(points)[-1]))
    return Text(as_point(at - 1.1 * LETTERS_MM * normal), letter, LETTERS_MM)


def _stroke(layer: Layer, points: Array) -> Stroke:
    return Stroke(layer, tuple(as_point(p) for p in points))


def _ring(points: Array) -> Ring:
    corners: list[Point] = [as_point(p) for p in points]
    return Ring(
        "cutting_line",
        tuple(Edge("line", (a, b)) for a, b in zip(corners, [*corners[1:], corners[0]], strict=True) if a != b),
    )

"""What a page of a panel says where the panel's own words don't fall on it: whose piece it is, its grain, its allowances."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import shapely
from shapely import affinity

from ypsicline.core.formats.drawing import Drawing, arrow, edge_words
from ypsicline.core.geometry.edges import Point, flatten
from ypsicline.core.geometry.plane import along
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.lengths import Unit
from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["PageWords", "words_on"]

_LARGEST_MM, _SMALLEST_MM = 5.0, 1.6
_MOST_EDGES = 4
_CLEAR_MM, _SHORTEST_GRAIN_MM = 4.0, 6.0
# how wide a letter is on average, of its height
_LETTER = 0.52


@dataclass(frozen=True)
class PageWords:
    """Lines centred under `at`, in the drawing's mm, letters `size_mm` high, and the strokes of a grain arrow."""

    lines: tuple[str, ...]
    at: Point
    size_mm: float
    grain: tuple[tuple[Point, ...], ...]


def words_on(
    panel: DraftedPanel, lies: Transform, drawing: Drawing, low: Point, window: tuple[float, float], unit: Unit
) -> PageWords | None:
    """The words for the page whose window has its lower left corner at `low`; None where a text of the panel lies whole
    on it. `drawing` is the panel's as it `lies` on the paper; figures are in `unit`."""
    page = shapely.box(*low, low[0] + window[0], low[1] + window[1])
    if any(shapely.contains(page, _box_of(t.at, t.text, t.size_mm, t.turn_deg)) for t in drawing.texts):
        return None
    cloth = shapely.Polygon(lies.points(np.asarray(panel.cutting_points)))
    parts = [g for g in shapely.get_parts(cloth.intersection(page)) if g.geom_type == "Polygon"]
    if not parts:
        return None
    room = shapely.maximum_inscribed_circle(max(parts, key=lambda g: float(g.area)), 0.5)
    (x, y), rim = room.coords
    reach = math.dist((x, y), rim)
    lines = (panel.name, *_allowances([lies.edge(e) for ring in panel.rings() for e in ring], page, unit))
    wide = 2 * reach * 0.9 / (_LETTER * max(len(line) for line in lines))
    size = min(_LARGEST_MM, wide, 1.1 * reach / (1.5 * len(lines)))
    size = max(size, _SMALLEST_MM)
    half = (_LETTER * size * max(len(line) for line in lines) / 2, 0.75 * size * len(lines))
    grain = _grain((x, y), reach, math.radians(lies.direction_deg(panel.grain_deg)), half)
    return PageWords(lines, (x, y + 0.75 * size * (len(lines) - 1)), size, grain)


def _grain(at: Point, reach: float, turn: float, words: Point) -> tuple[tuple[Point, ...], ...]:
    """An arrow along the grain beside words of half this width and height, in a circle of radius `reach`; none where
    there is no room."""
    way, beside = (math.cos(turn), math.sin(turn)), (-math.sin(turn), math.cos(turn))
    off = abs(beside[0]) * words[0] + abs(beside[1]) * words[1] + _CLEAR_MM
    half = 0.8 * math.sqrt(max(reach**2 - off**2, 0.0))
    if half < _SHORTEST_GRAIN_MM:
        return ()
    middle = along(at, beside, off)
    return tuple(s.points for s in arrow(np.array([along(middle, way, -half), along(middle, way, half)])))


def _box_of(at: Point, text: str, size_mm: float, turn_deg: float) -> shapely.Polygon:
    half, high = len(text) * size_mm * _LETTER / 2, size_mm / 2
    box = shapely.box(-half, -high, half, high)
    return affinity.translate(affinity.rotate(box, turn_deg, origin=(0, 0)), *at)


def _allowances(edges: Sequence[SeamEdge], page: shapely.Polygon, unit: Unit) -> list[str]:
    """Names and allowances of the edges that cross a page, the longest stretch first."""
    by_letter: dict[str, tuple[float, SeamEdge]] = {}
    for edge in edges:
        length = float(shapely.LineString(flatten(edge)).intersection(page).length)
        if length > 1:
            by_letter[edge.name] = (by_letter.get(edge.name, (0.0, edge))[0] + length, edge)
    most = sorted(by_letter.values(), key=lambda f: -f[0])[:_MOST_EDGES]
    return [edge_words(e, unit) for _, e in most]

"""The pages of paper that panels are printed on, and how each panel is turned so that they are few."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ypsicline.core.errors import Refusal
from ypsicline.core.formats.drawing import Drawing
from ypsicline.core.formats.rows import in_rows
from ypsicline.core.geometry.edges import Point
from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import message

__all__ = ["OVERLAP_MM", "Page", "Window", "page_plan", "sheets_of", "turns_for_paper"]

OVERLAP_MM = 12.0
MOST_PAGES = 600
# between panels that share a page
GAP_MM = 6.0
_RIM_MM = 1.0
_STEP_DEG = 15

Window = tuple[float, float]
"""Width and height of what a page shows, mm."""


@dataclass(frozen=True)
class Page:
    """One page of a panel: row from the top (A, B, ...), column from the left (1, 2, ...), lower left corner in mm. Panels that
    are smaller than a page share one: the `shared` one, counted from 1; 0 for a page of its own."""

    panel: int
    row: int
    column: int
    low: Point
    shared: int = 0

    @property
    def label(self) -> str:
        if self.shared:
            return str(self.shared)
        return f"{chr(65 + self.row % 26)}{self.row // 26 or ''}{self.column + 1}"


def turns_for_paper(drawings: Sequence[Drawing], window: Window) -> list[Transform]:
    """How each panel is turned on paper: as it lies unless it takes fewer pages otherwise; lengthwise or across before askew."""
    turns = [_fewest_pages(drawing, window) for drawing in drawings]
    small = [k for k, t in enumerate(turns) if _fits(_size(drawings[k].carried(Transform.turn(t))), window)]
    if len(small) > 1:
        ways: list[list[float]] = [[turns[k] for k in small]]
        ways += [[_laid(drawings[k], turns[k], window, across) for k in small] for across in (True, False)]

        def pages(way: Sequence[float]) -> int:
            laid = [drawings[k].carried(Transform.turn(t)) for k, t in zip(small, way, strict=True)]
            return 1 + max(page for page, _, _ in in_rows([_size(d) for d in laid], window, GAP_MM))

        fewest = min(ways, key=pages)
        for k, turn in zip(small, fewest, strict=True):
            turns[k] = turn
    return [Transform.turn(t) for t in turns]


def page_plan(drawings: Sequence[Drawing], window: Window) -> list[Page]:
    """The pages of every panel that show some of it; the grid starts at the panel's lower left. Where several panels are
    smaller than a page, they share pages. Raises `Refusal` where there are over 600."""
    plan: list[Page] = _shared_pages(drawings, window)
    small = {p.panel for p in plan}
    for k, drawing in enumerate(drawings):
        if k in small:
            continue
        rows, columns, low = _grid(_size(drawing), window, drawing.bounds()[0])
        if columns * rows + len(plan) > MOST_PAGES:
            raise Refusal(message("too_many_pages", most_pages=MOST_PAGES), "pages")
        plan += [Page(k, row, column, at) for row, column, at in _cells(_cloth(drawing), rows, columns, low, window)]
    return plan


def sheets_of(plan: Sequence[Page]) -> list[list[Page]]:
    """What is printed on each sheet of paper: the panels that share one, or one page of a panel."""
    sheets: dict[object, list[Page]] = {}
    for page in plan:
        sheets.setdefault(page.shared or page, []).append(page)
    return list(sheets.values())


def _shared_pages(drawings: Sequence[Drawing], window: Window) -> list[Page]:
    """The pages that panels smaller than one share, in rows; none where fewer than two are."""
    sizes = {k: size for k, d in enumerate(drawings) if _fits(size := _size(d), window)}
    if len(sizes) < 2:
        return []
    places = in_rows(list(sizes.values()), window, GAP_MM)
    pages = []
    for k, (page, x, y) in zip(sizes, places, strict=True):
        (x0, y0), _ = drawings[k].bounds()
        pages.append(Page(k, 0, 0, (x0 - _RIM_MM - x, y0 - _RIM_MM - y), page + 1))
    return sorted(pages, key=lambda page: page.shared)


def _size(drawing: Drawing) -> tuple[float, float]:
    """Width and height of a panel with a rim that keeps its line whole."""
    (x0, y0), (x1, y1) = drawing.bounds()
    return x1 - x0 + 2 * _RIM_MM, y1 - y0 + 2 * _RIM_MM


def _fits(size: tuple[float, float], window: Window) -> bool:
    return size[0] <= window[0] and size[1] <= window[1]


def _cloth(drawing: Drawing) -> shapely.Polygon:
    return shapely.Polygon(flatten_ring(drawing.rings[0].edges)).buffer(_RIM_MM)


def _grid(size: tuple[float, float], window: Window, low: Point) -> tuple[int, int, Point]:
    """Rows and columns of pages for a panel of this size with its lower left corner at `low`, and the grid's own corner."""
    columns, rows = (max(1, math.ceil((s - OVERLAP_MM) / (w - OVERLAP_MM))) for s, w in zip(size, window, strict=True))
    return rows, columns, (low[0] - _RIM_MM, low[1] - _RIM_MM)


def _cells(
    cloth: shapely.Polygon, rows: int, columns: int, low: Point, window: Window
) -> Iterator[tuple[int, int, Point]]:
    """The pages of a grid that show some of the cloth, by row and column, with their lower left corners."""
    row, column = (g.ravel() for g in np.mgrid[:rows, :columns])
    x = low[0] + column * (window[0] - OVERLAP_MM)
    y = low[1] + (rows - 1 - row) * (window[1] - OVERLAP_MM)
    shapely.prepare(cloth)
    shows = shapely.intersects(cloth, shapely.box(x, y, x + window[0], y + window[1]))
    for r, c, a, b in zip(row[shows], column[shows], x[shows], y[shows], strict=True):
        yield int(r), int(c), (float(a), float(b))


def _fewest_pages(drawing: Drawing, window: Window) -> float:
    """By what angle a panel, by itself, is turned to take the fewest pages."""
    cloth = _cloth(drawing)
    if _fits(_size(drawing), window):
        return 0.0
    (ax, ay), (bx, by), *_ = shapely.minimum_rotated_rectangle(cloth).exterior.coords
    along = -math.atan2(by - ay, bx - ax)
    square = (0.0, math.pi / 2)
    askew = (along, along + math.pi / 2, *(math.radians(d) for d in range(_STEP_DEG - 90, 90, _STEP_DEG) if d))
    return min(map(_upright, (*square, *askew)), key=lambda turn: _count(cloth, turn, window))


def _upright(turn: float) -> float:
    """The same way round or half a turn from it, so that words don't stand on their heads: -π/2 to π/2."""
    return math.pi / 2 - (math.pi / 2 - turn) % math.pi


def _count(cloth: shapely.Polygon, turn: float, window: Window) -> int:
    lies = shapely.affinity.rotate(cloth, turn, origin=(0, 0), use_radians=True)
    x0, y0, x1, y1 = lies.bounds
    rows, columns, low = _grid((x1 - x0, y1 - y0), window, (x0 + _RIM_MM, y0 + _RIM_MM))
    return rows * columns if rows * columns > MOST_PAGES else sum(1 for _ in _cells(lies, rows, columns, low, window))


def _laid(drawing: Drawing, turn: float, window: Window, across: bool) -> float:
    """The turn of a small panel that lies `across` the page, or stands, as far as it fits so."""
    other = _upright(turn + math.pi / 2)
    wide, high = _size(drawing.carried(Transform.turn(turn)))
    if (wide >= high) == across or not _fits((high, wide), window):
        return turn
    return other

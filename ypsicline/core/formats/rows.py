"""Boxes in rows on pages of paper."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

__all__ = ["in_rows"]


@dataclass(frozen=True)
class _Row:
    """A row of boxes on a page: its lowest line, how high it is, and where its room begins."""

    page: int
    low: float
    high: float
    length: float


def in_rows(
    sizes: Sequence[tuple[float, float]], window: tuple[float, float], gap: float
) -> list[tuple[int, float, float]]:
    """Where boxes, each (width, height) no larger than the window, lie: the page, counted from 0, and the lower left corner.

    The highest come first, each in the first row that has room for it; rows are `gap` apart, and so are boxes in one.
    """
    width, height = window
    rows: list[_Row] = []
    places: dict[int, tuple[int, float, float]] = {}
    for k in sorted(range(len(sizes)), key=lambda k: -sizes[k][1]):
        wide, high = sizes[k]
        n = next((n for n, r in enumerate(rows) if r.high >= high and width - r.length >= wide), len(rows))
        if n == len(rows):
            page, top = (rows[-1].page, rows[-1].low + rows[-1].high + gap) if rows else (0, 0.0)
            rows.append(_Row(page, top, high, 0.0) if top + high <= height else _Row(page + 1, 0.0, high, 0.0))
        row = rows[n]
        places[k] = (row.page, row.length, row.low)
        rows[n] = replace(row, length=row.length + wide + gap)
    return [places[k] for k in range(len(sizes))]

"""Distances taped between reference sheets: held against the photos, and taken into the adjustment."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ypsicline.core.capture.layout import Layout
from ypsicline.core.capture.sheets import Sheet
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["SheetDistance", "Span", "spans_of"]

# a tape between sheets, one standard deviation, mm and as a share of its length; beyond how many it is a slip
_SIGMA_TAPE, _SHARE_TAPE, _SLIP = 0.5, 3e-4, 6.0


@dataclass(frozen=True)
class SheetDistance:
    """Taped between two sheets, mm: from the upper left corner of the printed chequers of one to that of the other."""

    first: str
    second: str
    mm: float

    def __post_init__(self) -> None:
        if self.first == self.second:
            raise Refusal(message("distance_needs_two_sheets"), "distance")
        if not 50 <= self.mm <= 20_000:
            figures = {"apart_mm": self.mm, "least_mm": 50, "most_mm": 20_000}
            raise Refusal(message("sheets_apart_out_of_range", **figures), "distance")

    @property
    def sigma_mm(self) -> float:
        return _SIGMA_TAPE + _SHARE_TAPE * self.mm


@dataclass(frozen=True)
class Span:
    """A distance between two sheets of the layout: where on each it is taped (2,), and how long it is."""

    sheets: tuple[int, int]
    at: tuple[Array, Array]
    distance: SheetDistance

    def miss(self, places: Array) -> tuple[float, Array]:
        """In standard deviations, and its derivative by both sheets' x, y, turn (2, 3)."""
        ends, slopes = [], []
        for sheet, at in zip(self.sheets, self.at, strict=True):
            x, y, turn = places[sheet]
            c, s = np.cos(turn), np.sin(turn)
            ends.append(np.array([x + c * at[0] - s * at[1], y + s * at[0] + c * at[1]]))
            slopes.append(np.array([[1, 0, -s * at[0] - c * at[1]], [0, 1, c * at[0] - s * at[1]]]))
        d = ends[1] - ends[0]
        length = max(float(np.hypot(*d)), 1e-9)
        u = d / length / self.distance.sigma_mm
        return (length - self.distance.mm) / self.distance.sigma_mm, np.array([-u @ slopes[0], u @ slopes[1]])


def spans_of(
    layout: Layout, p: Array, sheets: Sequence[Sheet], scale: Array, distances: Sequence[SheetDistance]
) -> tuple[list[Span], tuple[tuple[SheetDistance, float], ...]]:
    """The typed distances between sheets that are seen, and those that the photos alone contradict."""
    ids = [s.id for s in sheets]
    spans, slips = [], []
    for d in distances:
        if d.first not in ids or d.second not in ids:
            continue
        pair = ids.index(d.first), ids.index(d.second)
        first, second = (sheets[k].board_upper_left() * scale for k in pair)
        span = Span(pair, (first, second), d)
        miss, _ = span.miss(layout.places(p))
        if abs(miss) > _SLIP:
            slips.append((d, miss * d.sigma_mm))
        else:
            spans.append(span)
    return spans, tuple(slips)

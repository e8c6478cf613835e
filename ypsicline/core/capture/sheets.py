"""Reference sheets: what is printed on each, so that a photograph of them can be measured.

A sheet is a chessboard whose white squares carry fiducial markers (the ChArUco pattern of
Garrido-Jurado et al., Pattern Recognition 47(6), 2014). All sheets of all papers share one
dictionary of 1000 markers and no marker is used twice, so that any marker tells its sheet.

A sheet's own frame is in mm from the lower left corner of the paper, x right, y up, printed
side towards the reader.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import cv2
import numpy as np

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = [
    "PAPERS",
    "SHEETS_PER_PAPER",
    "Paper",
    "PaperName",
    "Sheet",
    "all_sheets",
    "make_sheets",
    "sheets_by_id",
]

PaperName = Literal["a4", "letter", "a3"]

DPI = 300
MM_PER_PX = 25.4 / DPI
SHEETS_PER_PAPER = 12
MARKER_OF_SQUARE = 0.72
MARKER_MODULES = 7
_DICTIONARY = cv2.aruco.DICT_5X5_1000


@dataclass(frozen=True)
class Paper:
    """A paper size in whole 300 dpi pixels, and the board printed on it."""

    name: PaperName
    size_px: tuple[int, int]
    columns: int
    rows: int
    square_mm: float
    top_mm: float
    first_marker: int

    @property
    def size_mm(self) -> tuple[float, float]:
        return self.size_px[0] * MM_PER_PX, self.size_px[1] * MM_PER_PX

    @property
    def markers(self) -> int:
        return self.columns * self.rows // 2

    @property
    def board_left_mm(self) -> float:
        return (self.size_mm[0] - self.columns * self.square_mm) / 2

    @property
    def board_bottom_mm(self) -> float:
        return self.size_mm[1] - self.top_mm - self.rows * self.square_mm


PAPERS: dict[str, Paper] = {
    "a4": Paper("a4", (2480, 3508), 7, 10, 25.0, 10.0, 0),
    "letter": Paper("letter", (2550, 3300), 7, 9, 25.0, 10.0, 420),
    "a3": Paper("a3", (3508, 4961), 5, 7, 50.0, 12.0, 792),
}


@dataclass(frozen=True)
class Sheet:
    """One reference sheet; `id` is printed on it, `number` counts from 1."""

    paper: PaperName
    number: int

    @property
    def id(self) -> str:
        return f"{self.paper}-{self.number:02d}"

    @property
    def size_mm(self) -> tuple[float, float]:
        return PAPERS[self.paper].size_mm

    @property
    def marker_ids(self) -> range:
        paper = PAPERS[self.paper]
        first = paper.first_marker + (self.number - 1) * paper.markers
        return range(first, first + paper.markers)

    def board_corners(self) -> Array:
        """The chessboard's inner corners (n, 2) in the sheet's frame."""
        return _in_sheet(self.paper, np.asarray(_board(self).getChessboardCorners())[:, :2])

    def marker_corners(self) -> dict[int, Array]:
        """Marker identity -> its four corners (4, 2) in the sheet's frame, in the detector's order."""
        board = _board(self)
        return {
            int(i): _in_sheet(self.paper, np.asarray(points)[:, :2])
            for i, points in zip(board.getIds(), board.getObjPoints(), strict=True)
        }

    def paper_corners(self) -> Array:
        """The paper's corners (4, 2), counter-clockwise from the lower left."""
        w, h = self.size_mm
        return np.array([[0, 0], [w, 0], [w, h], [0, h]], dtype=float)

    def board_upper_left(self) -> Array:
        """The upper left corner of the printed chequers (2,), from which a tape to another sheet is laid."""
        paper = PAPERS[self.paper]
        return np.array([paper.board_left_mm, paper.size_mm[1] - paper.top_mm])

    def black_rectangles(self) -> Array:
        """Everything black on the board: (n, 4) of x, y (lower left), width, height in mm."""
        paper = PAPERS[self.paper]
        square, left, top = paper.square_mm, paper.board_left_mm, paper.size_mm[1] - paper.top_mm
        rectangles: list[tuple[float, float, float, float]] = [
            (left + c * square, top - (r + 1) * square, square, square)
            for r in range(paper.rows)
            for c in range(paper.columns)
            if (r + c) % 2 == 0
        ]
        dictionary = cv2.aruco.getPredefinedDictionary(_DICTIONARY)
        for marker, corners in self.marker_corners().items():
            bits = cv2.aruco.generateImageMarker(dictionary, marker, MARKER_MODULES)
            x0, y1 = corners[:, 0].min(), corners[:, 1].max()
            module = (corners[:, 0].max() - x0) / MARKER_MODULES
            for r, c0, c1 in _runs(bits == 0):
                rectangles.append((x0 + c0 * module, y1 - (r + 1) * module, (c1 - c0) * module, module))
        return np.array(rectangles)


def make_sheets(paper: str, count: int) -> tuple[Sheet, ...]:
    """The first `count` sheets of a paper; raises `Refusal` for another paper or more than there are."""
    if paper not in PAPERS:
        raise Refusal(message("no_sheets_on_paper", paper=paper), "paper")
    if not 1 <= count <= SHEETS_PER_PAPER:
        raise Refusal(message("sheets_count_out_of_range", sheets_per_paper=SHEETS_PER_PAPER, count=count), "count")
    return tuple(Sheet(PAPERS[paper].name, n) for n in range(1, count + 1))


@lru_cache(maxsize=1)
def all_sheets() -> tuple[Sheet, ...]:
    """Every sheet that can be printed, on all papers."""
    return tuple(sheet for name in PAPERS for sheet in make_sheets(name, SHEETS_PER_PAPER))


def sheets_by_id(ids: Sequence[str]) -> tuple[Sheet, ...]:
    """The sheets of these identities; raises `Refusal` for one that isn't ours."""
    by_id = {sheet.id: sheet for sheet in all_sheets()}
    for one in ids:
        if one not in by_id:
            raise Refusal(message("not_one_of_our_sheets", sheet=one[:40]), "sheets")
    return tuple(by_id[one] for one in ids)


def dictionary() -> cv2.aruco.Dictionary:
    return cv2.aruco.getPredefinedDictionary(_DICTIONARY)


@lru_cache(maxsize=64)
def _board(sheet: Sheet) -> cv2.aruco.CharucoBoard:
    paper = PAPERS[sheet.paper]
    return cv2.aruco.CharucoBoard(
        (paper.columns, paper.rows),
        paper.square_mm,
        paper.square_mm * MARKER_OF_SQUARE,
        dictionary(),
        np.array(list(sheet.marker_ids)),
    )


def _in_sheet(paper: str, board_mm: Array) -> Array:
    """From the board's frame (upper left corner, y down) to the sheet's."""
    p = PAPERS[paper]
    return np.column_stack([p.board_left_mm + board_mm[:, 0], p.size_mm[1] - p.top_mm - board_mm[:, 1]])


def _runs(mask: np.ndarray) -> list[tuple[int, int, int]]:
    runs = []
    for r, row in enumerate(mask):
        edges = np.flatnonzero(np.diff(np.concatenate([[0], row.astype(int), [0]])))
        runs += [(r, int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True)]
    return runs

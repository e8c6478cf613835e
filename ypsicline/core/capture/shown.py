"""What pieces and drawn lines a scene shows, their edges, and whether these are sure enough to be given."""

from __future__ import annotations

from contextlib import suppress
from weakref import WeakKeyDictionary

import cv2
import numpy as np

from ypsicline.core.capture.drawn_shapes import DrawnShape, find_drawn
from ypsicline.core.capture.pieces import CoarsePiece, paint
from ypsicline.core.capture.placed_edge import STRAYS_MM, MeasuredEdge, edge_of
from ypsicline.core.capture.rectify import Window
from ypsicline.core.capture.scene import Scene, fine_window, whole_window
from ypsicline.core.capture.segment import find_pieces
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array

__all__ = [
    "LINE_MM_PER_PX",
    "edge_in",
    "is_in_question",
    "is_useless",
    "lines_in",
    "lines_to_choose",
    "pieces_in",
    "pieces_to_choose",
    "window_of",
]

LINE_MM_PER_PX = 0.45
# how far from the sheets' middle a line is looked for first, see `whole_window`
NEAR_SHEETS = (0.9, 300.0)
# a drawn line that is closed only beyond what is near the sheets is taken when it goes round so many times as much
LARGER = 1.5
# an outline of which more than this share is so far off by other readings of the picture, mm and as a share of its size, isn't
# given before the maker pointed at the piece; what is doubtful otherwise, or shorter, is drawn as such
ASKS_FROM, ASKS_MM, ASKS_SHARE = 0.12, 5.0, 0.01
# nor at all one of which more than this share may be so far off; what is less is settled by hand
USELESS_FROM, USELESS_MM, USELESS_SHARE = 0.35, 20.0, 0.05
# nor one that is doubtful all round and somewhere by more than this share of its size: nothing of it holds
LOOSE_SHARE = 0.1
# a drawn shape of which so much lies within the ring of sheets is what they were laid round
MOSTLY_IN_RING = 0.5
# beside a sure piece others are asked about where one of them is at least this share of it
OFFERED_SHARE = 0.1
# what was found before in a scene that is asked again
_PIECES_OF: WeakKeyDictionary[Scene, tuple[CoarsePiece, ...]] = WeakKeyDictionary()
_LINES_OF: WeakKeyDictionary[Scene, tuple[DrawnShape, ...]] = WeakKeyDictionary()
_EDGE_OF: WeakKeyDictionary[CoarsePiece, MeasuredEdge] = WeakKeyDictionary()


def pieces_in(scene: Scene) -> tuple[CoarsePiece, ...]:
    """The pieces as they are read without being told anything. Raises `Refusal` (reason `low_contrast`) where there are none."""
    if scene not in _PIECES_OF:
        _PIECES_OF[scene] = find_pieces(scene.flat, whole_window(scene), scene.covers())
    return _PIECES_OF[scene]


def edge_in(scene: Scene, piece: CoarsePiece) -> MeasuredEdge:
    """A piece's edge. Raises `Refusal` as `edge_of` does."""
    if piece not in _EDGE_OF:
        _EDGE_OF[piece] = edge_of(piece, scene.flat(window_of(scene, piece)), scene.covers())
    return _EDGE_OF[piece]


def pieces_to_choose(scene: Scene) -> tuple[CoarsePiece, ...]:
    """The pieces without what runs out of the picture or is itself in question, a blot on the wood, beside a first piece that
    is neither; and only that where all others are so small that they are taken for things lying there."""
    first, *others = pieces_in(scene)
    if not others or first.leaves_picture or not _is_sure(scene, first):
        return (first, *others)
    sure = tuple(p for p in others if not p.leaves_picture and _is_sure(scene, p))
    return (first, *sure) if any(p.area_mm2 >= OFFERED_SHARE * first.area_mm2 for p in sure) else (first,)


def _is_sure(scene: Scene, piece: CoarsePiece) -> bool:
    """Whether a piece is given without being pointed at."""
    try:
        return not is_in_question(edge_in(scene, piece))
    except Refusal:
        return False  # its edge isn't seen


def lines_in(scene: Scene) -> tuple[DrawnShape, ...]:
    """The drawn shapes. Raises `Refusal` (reason `no_line`) where there are none."""
    if scene not in _LINES_OF:
        _LINES_OF[scene] = _find_lines(scene)
    return _LINES_OF[scene]


def lines_to_choose(scene: Scene) -> tuple[DrawnShape, ...]:
    """The drawn shapes without what lies wholly outside the ring of sheets, a loop in the table's pattern, where most of another
    lies inside it. Raises as `lines_in` does."""
    shapes = lines_in(scene)
    if len(shapes) < 2:
        return shapes
    in_ring = paint([scene.ring_of_sheets()], shapes[0].window)
    shares = [float(in_ring[s.mask].mean()) for s in shapes]
    if max(shares) < MOSTLY_IN_RING:
        return shapes
    return tuple(s for s, share in zip(shapes, shares, strict=True) if share)


def _find_lines(scene: Scene) -> tuple[DrawnShape, ...]:
    """The drawn shapes near the sheets, where a pen's line is seen finely, or else anywhere that the photos show: where there
    are none near the sheets, or a larger line that runs on from there and is closed beyond."""
    near, whole = whole_window(scene, LINE_MM_PER_PX, reach=NEAR_SHEETS), whole_window(scene, LINE_MM_PER_PX)
    if near.mm_per_px >= whole.mm_per_px:
        return _lines_over(scene, whole)
    try:
        shapes = _lines_over(scene, near)
    except Refusal:
        return _lines_over(scene, whole)
    if shapes[0].beside_larger:
        with suppress(Refusal):
            beyond = _lines_over(scene, whole)
            return beyond if beyond[0].area_mm2 > LARGER * shapes[0].area_mm2 else shapes
    return shapes


def _lines_over(scene: Scene, window: Window) -> tuple[DrawnShape, ...]:
    return find_drawn(scene.flat(window), paint(scene.covers(), window, grow_mm=2.0))


def is_in_question(edge: MeasuredEdge) -> bool:
    """Whether a piece of such an edge is only given once the maker has pointed at it."""
    disputed = float(np.percentile(edge.disputed, 100 * (1 - ASKS_FROM)))
    size = float(np.ptp(edge.outline.outline, axis=0).max())
    return is_useless(edge.outline.outline, edge.doubts) or disputed > max(ASKS_MM, ASKS_SHARE * size)


def is_useless(outline: Array, doubts: Array) -> bool:
    """Whether so much of an outline (n, 2) may be so far off, by `doubts` (n,), mm, that there is nothing to settle by hand."""
    size = float(np.ptp(outline, axis=0).max())
    sure, most, worst = np.percentile(doubts, [5, 100 * (1 - USELESS_FROM), 95])
    nothing_holds = sure > STRAYS_MM and worst > LOOSE_SHARE * size
    return bool(nothing_holds or most > max(USELESS_MM, USELESS_SHARE * size))


def window_of(scene: Scene, piece: CoarsePiece | DrawnShape) -> Window:
    """The window round a piece in which its edge is measured, about as fine as the photos are."""
    left, top, wide, high = cv2.boundingRect(piece.mask.astype(np.uint8))
    box = piece.window.to_mm(np.array([[left, top + high - 1], [left + wide - 1, top]], dtype=float))
    return fine_window(scene, box[0] - 14, box[1] + 14)

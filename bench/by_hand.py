"""Strokes, walks, scans and rolled traces: how near they come, and how long they take."""

from __future__ import annotations

import cv2
import numpy as np
import shapely

from bench.compare import signed_errors
from bench.scenes import cases
from bench.timing import timed
from demo.pieces import circle
from tests.core.test_by_hand import DPI, scanned
from tests.core.test_more_measured import roll
from ypsicline.core.capture.capture import Capture, SeveralPieces, capture_piece
from ypsicline.core.capture.mosaic import flat_preview
from ypsicline.core.capture.photo import Photo, read_photo
from ypsicline.core.capture.scan import capture_scan, join_scans
from ypsicline.core.capture.strokes import Brush, paint_over
from ypsicline.core.capture.walking import walk_edge
from ypsicline.core.geometry.edges import Array
from ypsicline.core.trueing.bending import bend_to_tape
from ypsicline.core.trueing.rolled import rolled
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.trueing.tape import TapeMeasure
from ypsicline.standins.camera import take_photo

__all__ = ["by_hand"]


def by_hand() -> list[str]:
    """A section of the table: a 12 MP photo laid flat as the server keeps it, and scans of 150 dots per inch."""
    case = cases()[0]
    photo = read_photo(take_photo(case.scene, case.shots[0]))
    result = capture_piece(photo)
    if not isinstance(result, Capture):
        raise SystemExit("one piece was to be found")
    ring = np.asarray(result.outline)
    flat = flat_preview([photo.pixels], result.views, np.vstack([result.trusted, ring]), 0.0, 3600)
    bitten = np.asarray(shapely.Polygon(ring).difference(shapely.box(-20, 120, 60, 260)).exterior.coords)[:-1]
    strokes = [Brush(((50, 160), (40, 200), (25, 240)), 8, True)]
    mended, _ = paint_over(flat, [bitten], strokes)
    stops = [(float(x), float(y)) for x, y in ring[:: len(ring) // 12]]
    lengths = walk_edge(flat, stops, is_closed=True).way
    scan = scanned(circle((200, 150), 90))
    disc = circle((200, 150), 90)
    one = _scan([scan])
    half = scan.pixels.shape[1]
    turn = cv2.getRotationMatrix2D((half / 2, scan.pixels.shape[0] / 2), 4, 1)
    turned = cv2.warpAffine(scan.pixels, turn, scan.pixels.shape[1::-1], borderValue=(235,) * 3, flags=cv2.INTER_CUBIC)
    tiles = [Photo(scan.pixels[:, : int(0.62 * half)].copy()), Photo(turned[:, int(0.38 * half) :].copy())]
    marks = roll(300, 480, 1.9, 12, shake=0.3)
    board = true_up([(0.0, 0.0), (400.0, 0.0), (400.0, 300.0), (0.0, 300.0)])
    taped = [TapeMeasure((0, 1), None, 403), TapeMeasure((0, 2), None, 501), TapeMeasure(None, 3, 299)]
    girths = rolled(marks).girths_mm
    return [
        "", "## By hand, scans, marks", "", "| work | p95, mm | ms (median) |", "|---|---|---|",
        f"| strokes mend a bitten kidney of 600 mm | {_p95(mended, case.truth):.3f} | {timed(lambda: paint_over(flat, [bitten], strokes), 7):.0f} |",
        f"| the edge of the kidney walked in 12 steps | {_p95(lengths, case.truth):.3f} | {timed(lambda: walk_edge(flat, stops, is_closed=True), 7):.0f} |",
        f"| one step of a walk, 150 mm | | {timed(lambda: walk_edge(flat, stops[:2]), 7):.0f} |",
        f"| a scan of 420 × 297 mm | {_p95(one, disc):.3f} | {timed(lambda: _scan([scan]), 3):.0f} |",
        f"| the same in two tiles, one turned by 4° | {_p95(_scan(tiles), disc):.3f} | {timed(lambda: _scan(tiles), 3):.0f} |",
        f"| a rolled cone, girths 570 and 912, marks off by 0.3 (σ) "
        f"| {max(abs(girths[0] - 570), abs(girths[1] - 912)):.2f} in girth | {timed(lambda: rolled(marks)):.0f} |",
        f"| an outline bent to three measures | | {timed(lambda: bend_to_tape(board, taped)):.0f} |",
    ]  # fmt: skip


def _p95(found: Array, truth: Array) -> float:
    return float(np.percentile(np.abs(signed_errors(np.asarray(found), truth)), 95))


def _scan(scans: list[Photo]) -> Array:
    result = capture_scan(*join_scans(scans, DPI))
    if isinstance(result, SeveralPieces):
        raise SystemExit("one piece was to be found on the scan")
    return np.asarray(result[0].outline)

"""Scans of known resolution: flat and true already, whole or in overlapping tiles."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.capture import (
    OUTLINE_STEP_MM,
    Capture,
    Kind,
    Ring,
    SeveralPieces,
)
from ypsicline.core.capture.drawn_edge import drawn_edge
from ypsicline.core.capture.drawn_shapes import find_drawn
from ypsicline.core.capture.flat_parts import shrunk
from ypsicline.core.capture.pen_line import PenSide
from ypsicline.core.capture.photo import Photo
from ypsicline.core.capture.placed_edge import MeasuredEdge, edge_of
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.scene import COARSE_MM_PER_PX
from ypsicline.core.capture.shown import LINE_MM_PER_PX
from ypsicline.core.capture.stretches import keeps_within, stretches
from ypsicline.core.capture.table_colour import find_by_colour
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import signed_area
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message

__all__ = ["capture_scan", "join_scans"]

LEAST_DPI, MOST_DPI = 50.0, 1200.0
MOST_TILES = 12
MOST_PIXELS = 150_000_000
FINEST_MM_PER_PX = 0.1
LEAST_MATCHES = 8
# a scanner's glass is true to about this share
SCANNER_SHARE = 0.001
# grey levels of 255 by which the rim of a scan's ground may differ, and the share of it that may by more
RIM_SHADES, RIM_SHARE = 40.0, 0.02
_MATCH_MM_PER_PX = 0.2
# from the rim of a scan, where its ground is sure to show
GROUND_MM = (4.0, 17.0)


def join_scans(scans: Sequence[Photo], dpi: float) -> tuple[FlatPicture, float]:
    """Scans of `dpi` as one flat picture, x right and y up from the first scan's lower left corner; and how far
    overlapping tiles disagree, mm (0 for one).

    Tiles may be turned and must overlap by a hand's breadth; each is laid on those before it by
    matched features, without any stretch (least squares of a turn and a shift; Umeyama, IEEE
    PAMI 13(4), 1991). Raises `Refusal` (reason `scan`).
    """
    if not LEAST_DPI <= dpi <= MOST_DPI:
        raise Refusal(message("scan_resolution_out_of_range", least_dpi=LEAST_DPI, most_dpi=MOST_DPI, dpi=dpi), "scan")
    if not 1 <= len(scans) <= MOST_TILES:
        raise Refusal(message("too_many_scans", most_tiles=MOST_TILES, count=len(scans)), "scan")
    reduced = max(s.reduced for s in scans)
    mm_per_px = 25.4 / dpi * reduced
    tiles = [_reduced(s.pixels, s.reduced / reduced) for s in scans]
    while mm_per_px < FINEST_MM_PER_PX:
        tiles = [cv2.resize(t, None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA) for t in tiles]
        mm_per_px *= 2
    if len(tiles) == 1:
        height = tiles[0].shape[0]
        window = Window(0.0, (height - 1) * mm_per_px, tiles[0].shape[1], height, mm_per_px)
        return FlatPicture(window, tiles[0], np.ones(tiles[0].shape[:2], dtype=bool)), 0.0
    places, apart_px = _lay_tiles(tiles, _MATCH_MM_PER_PX / mm_per_px)
    return _together(tiles, places, mm_per_px), apart_px * mm_per_px


def _reduced(tile: NDArray[np.uint8], factor: float) -> NDArray[np.uint8]:
    return tile if factor > 0.999 else cv2.resize(tile, None, fx=factor, fy=factor, interpolation=cv2.INTER_AREA)


def capture_scan(
    picture: FlatPicture, apart_mm: float = 0.0, *, kind: Kind = "piece", side: PenSide = "centre",
    pieces: Sequence[int] | None = None,
) -> tuple[Capture, ...] | SeveralPieces:  # fmt: skip
    """The pieces, or closed pen lines, on a joined scan, in the frame of `picture`, whose tiles disagree by `apart_mm`.

    With several and no choice of `pieces` (from 0), say what there is, in px of the picture. Raises
    `Refusal` as finding them in photos does.
    """
    edges = _lines(picture, side) if kind == "line" else _pieces(picture)
    window = picture.window
    if pieces is None and len(edges) > 1:
        return SeveralPieces(
            tuple(_ring(window.to_px(e.outline.outline[::8])) for e in edges),
            tuple(abs(signed_area(e.outline.outline)) for e in edges),
        )
    captures = []
    for k in pieces or [0]:
        if not 0 <= k < len(edges):
            raise Refusal(message("no_such_piece_in_scan", piece=k + 1, count=len(edges)), "piece")
        captures.append(_captured(picture, edges[k], apart_mm))
    return tuple(captures)


def _captured(picture: FlatPicture, measurement: MeasuredEdge, apart_mm: float) -> Capture:
    window, edge_outline = picture.window, measurement.outline
    size = float(np.ptp(edge_outline.outline, axis=0).max())
    edge = 2 * (0.12 * edge_outline.edge_mm + 0.1 * window.mm_per_px)
    step = max(1, round(OUTLINE_STEP_MM / window.mm_per_px))
    outline, doubts = edge_outline.outline[::step], measurement.doubts[::step]
    errors = np.sqrt(edge**2 + edge_outline.tone_mm**2 + (SCANNER_SHARE * size / 2) ** 2 + apart_mm**2 + doubts**2)
    right, bottom = window.columns * window.mm_per_px, window.top - window.rows * window.mm_per_px
    warnings: list[Message] = [message("scanner_to_check"), *measurement.warnings]
    if apart_mm > 0.5:
        warnings.append(message("tiles_disagree", apart_mm=apart_mm))
    return Capture(
        _ring(outline), tuple(_ring(h[::step]) for h in edge_outline.holes), round(keeps_within(errors, outline, doubts), 3),
        tuple(round(float(e), 3) for e in errors), window.mm_per_px,
        Transform(), (),
        ((window.left, bottom), (right, bottom), (right, window.top), (window.left, window.top)), tuple(warnings), (), 0.0, 0.0,
        doubtful=tuple(
            s for ring, doubts in measurement.rings for s in stretches(_ring(ring[::step]), doubts[::step])
        ),
    )  # fmt: skip


def _ring(points: Array) -> Ring:
    return tuple((float(x), float(y)) for x, y in points)


def _lines(picture: FlatPicture, side: PenSide) -> list[MeasuredEdge]:
    coarse = shrunk(picture, LINE_MM_PER_PX)
    shapes = find_drawn(coarse, np.zeros(coarse.in_view.shape, dtype=bool))
    return [drawn_edge(s, lambda shape: (picture, _finer(shape.mask, picture.window)), side) for s in shapes]


def _pieces(picture: FlatPicture) -> list[MeasuredEdge]:
    coarse = shrunk(picture, COARSE_MM_PER_PX)
    pieces = find_by_colour(coarse, _ground(coarse)) if _rim_is_ground(coarse) else ()
    whole = [p for p in pieces if not p.leaves_picture]
    if not whole or whole[0] is not pieces[0]:
        raise Refusal(message("piece_over_scan_edge"), "piece_leaves_picture")
    return [edge_of(p, picture, ()) for p in whole]


def _rim_is_ground(picture: FlatPicture) -> bool:
    """Whether nothing large reaches a scan's rim: it is of one shade, but for shadows and dust."""
    rim = np.vstack([picture.pixels[[1, -2]].reshape(-1, 3), picture.pixels[:, [1, -2]].reshape(-1, 3)]).astype(float)
    away = np.abs(rim - np.median(rim, axis=0)).max(axis=1)
    return float((away > RIM_SHADES).mean()) < RIM_SHARE


def _ground(picture: FlatPicture) -> NDArray[np.bool_]:
    """A strip along a scan's rim, where its ground is learnt."""
    near, far = (max(1, round(mm / picture.window.mm_per_px)) for mm in GROUND_MM)
    ground = np.zeros(picture.in_view.shape, dtype=bool)
    ground[near:-near, near:-near] = True
    ground[far:-far, far:-far] = False
    return ground & picture.in_view


def _finer(mask: NDArray[np.bool_], fine: Window) -> NDArray[np.bool_]:
    return cv2.resize(mask.astype(np.float32), (fine.columns, fine.rows), interpolation=cv2.INTER_LINEAR) > 0.5


def _lay_tiles(tiles: Sequence[NDArray[np.uint8]], shrink: float) -> tuple[list[Array], float]:
    """Of each tile the 2 × 3 matrix onto the first one's pixels, and the largest misfit of joined tiles, px."""
    features = [_features(t, shrink) for t in tiles]
    places: dict[int, Array] = {0: np.array([[1.0, 0, 0], [0, 1.0, 0]])}
    apart = 0.0
    while len(places) < len(tiles):
        best: tuple[int, int, Array, Array] | None = None
        for k in range(len(tiles)):
            for other in places if k not in places else ():
                a, b = _matches(features[other], features[k])
                if best is None or len(a) > len(best[2]):
                    best = (other, k, a, b)
        if best is None or len(best[2]) < LEAST_MATCHES:
            alone = ", ".join(str(k + 1) for k in range(len(tiles)) if k not in places)
            raise Refusal(message("scan_joins_no_other", alone=alone), "scan")
        other, k, a, b = best
        onto = a @ places[other][:, :2].T + places[other][:, 2]
        M, misses = _rigid(b, onto)
        places[k] = M
        apart = max(apart, float(np.percentile(misses, 95)))
    return [places[k] for k in range(len(tiles))], apart


def _features(tile: NDArray[np.uint8], shrink: float) -> tuple[Array, NDArray[np.float32]]:
    factor = max(shrink, 1.0)
    grey = cv2.cvtColor(tile, cv2.COLOR_RGB2GRAY)
    small = cv2.resize(grey, None, fx=1 / factor, fy=1 / factor, interpolation=cv2.INTER_AREA)
    points, described = cv2.SIFT.create(4000).detectAndCompute(small, None)
    at = np.array([p.pt for p in points], dtype=float).reshape(-1, 2)
    return (at + 0.5) * factor - 0.5, described if described is not None else np.zeros((0, 128), np.float32)


def _matches(one: tuple[Array, NDArray[np.float32]], two: tuple[Array, NDArray[np.float32]]) -> tuple[Array, Array]:
    """Places seen on both, px of each, that one turn and shift explains."""
    none = np.zeros((0, 2))
    if len(one[1]) < 2 or len(two[1]) < 2:
        return none, none
    pairs = [m for m, *n in cv2.BFMatcher().knnMatch(one[1], two[1], k=2) if n and m.distance < 0.75 * n[0].distance]
    if len(pairs) < 3:
        return none, none
    a = one[0][[m.queryIdx for m in pairs]]
    b = two[0][[m.trainIdx for m in pairs]]
    affine, inliers = cv2.estimateAffinePartial2D(b, a, method=cv2.RANSAC, ransacReprojThreshold=6.0, maxIters=4000)
    if affine is None or abs(np.hypot(affine[0, 0], affine[0, 1]) - 1) > 0.02:
        return none, none
    good = inliers.ravel() > 0
    return a[good], b[good]


def _rigid(points: Array, onto: Array) -> tuple[Array, Array]:
    """The turn and shift that lay points (n, 2) onto others best, and what each then misses by."""
    p, q = points - points.mean(axis=0), onto - onto.mean(axis=0)
    U, _, Vt = np.linalg.svd(q.T @ p)
    R = U @ np.diag([1.0, np.linalg.det(U @ Vt)]) @ Vt
    M = np.column_stack([R, onto.mean(axis=0) - R @ points.mean(axis=0)])
    return M, np.hypot(*(points @ R.T + M[:, 2] - onto).T)


def _together(tiles: Sequence[NDArray[np.uint8]], places: Sequence[Array], mm_per_px: float) -> FlatPicture:
    corners = np.vstack(
        [
            np.array([[0, 0], [t.shape[1] - 1, 0], [t.shape[1] - 1, t.shape[0] - 1], [0, t.shape[0] - 1]]) @ M[:, :2].T
            + M[:, 2]
            for t, M in zip(tiles, places, strict=True)
        ]
    )
    low, high = np.floor(corners.min(axis=0)), np.ceil(corners.max(axis=0))
    columns, rows = (int(v) + 1 for v in high - low)
    if columns * rows > MOST_PIXELS:
        raise Refusal(message("joined_scans_too_large"), "scan")
    mixed = np.full((rows, columns, 3), 255, dtype=np.uint8)
    deepest = np.zeros((rows, columns), dtype=np.float32)
    for tile, M in zip(tiles, places, strict=True):
        onto = np.column_stack([M[:, :2], M[:, 2] - low])
        depth = cv2.distanceTransform(
            cv2.copyMakeBorder(np.ones(tile.shape[:2], np.uint8), 1, 1, 1, 1, cv2.BORDER_CONSTANT, value=0),
            cv2.DIST_C,
            3,
        )[1:-1, 1:-1]
        here = cv2.warpAffine(depth, onto, (columns, rows), flags=cv2.INTER_LINEAR)
        pixels = cv2.warpAffine(tile, onto, (columns, rows), flags=cv2.INTER_LINEAR)
        nearer = here > deepest
        mixed[nearer] = pixels[nearer]
        deepest[nearer] = here[nearer]
    window = Window(0.0, (rows - 1) * mm_per_px, columns, rows, mm_per_px)
    return FlatPicture(window, mixed, deepest > 0)

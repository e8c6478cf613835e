"""Finding reference sheets in a photograph, and their chessboard corners to a few hundredths of a pixel."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.sheets import PAPERS, Sheet, all_sheets, dictionary
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array

__all__ = ["SeenSheet", "find_sheets"]

SEARCH_SIDE_PX = 2200
LEAST_MARKERS = 4
LEAST_CORNERS = 8
LEAST_SQUARE_PX = 14.0
BLUR_OF_SQUARE = 0.055
BLUR_AT_MOST_PX = 5.0
SMEARED = 0.48


@dataclass(frozen=True)
class SeenSheet:
    """A sheet in a photograph: corners (n, 2) in its own frame, mm, and where they are seen, px."""

    sheet: Sheet
    corners_mm: Array
    corners_px: Array
    to_px: Array
    square_px: float
    blur_px: float
    cut_off: bool


def find_sheets(grey: NDArray[np.uint8], known: tuple[Sheet, ...] | None = None) -> tuple[SeenSheet, ...]:
    """Every sheet in a grey photograph, in the order of their identities.

    `known` limits the search to the sheets that were printed. Raises `Refused`: `no_sheet`,
    `sheet_cut_off`, `sheet_too_small`, `blurred`.
    """
    markers = _markers(grey)
    seen: list[SeenSheet] = []
    troubles: list[Refused] = []
    for sheet in known or all_sheets():
        mine = {i: markers[i] for i in sheet.marker_ids if i in markers}
        if len(mine) < LEAST_MARKERS:
            continue
        try:
            seen.append(_measure(grey, sheet, mine))
        except Refused as e:
            troubles.append(e)
    if not seen:
        if _is_smeared(grey):
            raise Refused(
                "No reference sheet can be read: the whole photo is blurred. Hold the camera still or lean it on "
                "something, let it focus, and take it again.",
                "blurred",
            )
        raise troubles[0] if troubles else _no_sheet(len(markers))
    if all(s.cut_off for s in seen):
        raise _cut_off(seen[0].sheet)
    return tuple(seen)


def _is_smeared(grey: NDArray[np.uint8]) -> bool:
    """Whether even the picture's strongest edges spread over several pixels: at a quarter of the size they are
    then about four times as steep per pixel, where sharp ones stay about as steep."""
    quarter = cv2.resize(grey, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA)
    return _steepest(grey) < SMEARED * _steepest(quarter)


def _steepest(grey: NDArray[np.uint8]) -> float:
    across, down = (cv2.Sobel(grey, cv2.CV_32F, x, y, scale=1 / 8) for x, y in ((1, 0), (0, 1)))
    return float(np.percentile(np.hypot(across, down), 99.95))


def _no_sheet(markers: int) -> Refused:
    if markers:
        return Refused(
            "A reference sheet is in the picture, but too little of it can be read: it is cut off, covered, creased "
            "or in glare. Show it whole and flat.",
            "no_sheet",
        )
    return Refused(
        "No reference sheet was found. Lay printed sheets flat beside the piece, whole, in even light, and take the "
        "photo again; if they are there, come closer or hold the camera stiller.",
        "no_sheet",
    )


def _cut_off(sheet: Sheet) -> Refused:
    return Refused(
        f"Sheet {sheet.id.upper()} is cut off by the edge of the picture. Step back until every sheet is whole.",
        "sheet_cut_off",
    )


def _markers(grey: NDArray[np.uint8]) -> dict[int, Array]:
    scale = min(1.0, SEARCH_SIDE_PX / max(grey.shape))
    found = _detect(grey, scale)
    if scale < 1 and len(found) < 2 * LEAST_MARKERS:
        found = {**found, **_detect(grey, 1.0)}
    return found


def _detect(grey: NDArray[np.uint8], scale: float) -> dict[int, Array]:
    small = grey if scale == 1 else cv2.resize(grey, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    settings = cv2.aruco.DetectorParameters()
    settings.minMarkerPerimeterRate = 0.012
    corners, ids, _ = cv2.aruco.ArucoDetector(dictionary(), settings).detectMarkers(small)
    if ids is None:
        return {}
    ratio = np.array([grey.shape[1] / small.shape[1], grey.shape[0] / small.shape[0]])
    return {int(i): (c[0] + 0.5) * ratio - 0.5 for i, c in zip(ids.ravel(), corners, strict=True)}


def _measure(grey: NDArray[np.uint8], sheet: Sheet, markers: dict[int, Array]) -> SeenSheet:
    nominal = sheet.marker_corners()
    mm = np.vstack([nominal[i] for i in markers])
    px = np.vstack(list(markers.values()))
    square_mm = PAPERS[sheet.paper].square_mm
    H, kept = cv2.findHomography(mm, px, cv2.RANSAC, max(4.0, 0.02 * float(np.ptp(px))))
    if H is None or kept.sum() < 4 * LEAST_MARKERS:
        raise _no_sheet(len(markers))
    height, width = grey.shape
    rim = _through(H, sheet.paper_corners())
    cut_off = bool(((rim < 0) | (rim > [width - 1, height - 1])).any())

    board = sheet.board_corners()
    guess = _through(H, board)
    square_px = float(np.median(np.hypot(*(_through(H, board + [square_mm, 0]) - guess).T)))
    across_px = float(np.median(np.hypot(*(_through(H, board + [0, square_mm]) - guess).T)))
    square_px = min(square_px, across_px)
    if square_px < LEAST_SQUARE_PX:
        raise Refused(
            f"Sheet {sheet.id.upper()} is too small in the picture: its squares are only {square_px:.0f} pixels wide, "
            f"{LEAST_SQUARE_PX:.0f} are needed. Come closer, or send the photo at full size.",
            "sheet_too_small", numbers={"square_px": square_px},
        )  # fmt: skip
    margin = 0.5 * square_px
    inside = ((guess > margin) & (guess < [width - 1 - margin, height - 1 - margin])).all(axis=1)
    board, guess = board[inside], guess[inside]
    # the clean part of a saddle ends where the markers begin, 0.14 of a square from it
    window = int(np.clip(0.12 * square_px, 2, 14))
    refined = guess
    if len(guess):
        stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_COUNT, 40, 0.002)
        start = np.ascontiguousarray(guess, dtype=np.float32).reshape(-1, 1, 2)
        coarse = cv2.cornerSubPix(grey, start, (2 * window, 2 * window), (-1, -1), stop)
        refined = cv2.cornerSubPix(grey, coarse, (window, window), (-1, -1), stop).reshape(-1, 2).astype(float)
    near = np.hypot(*(refined - guess).T) < 0.2 * square_px
    blur = _blur_px(grey, refined[near], H, board[near], square_mm) if near.any() else 0.0
    if blur > min(BLUR_OF_SQUARE * square_px, BLUR_AT_MOST_PX):
        raise Refused(
            f"The photo is blurred: edges on sheet {sheet.id.upper()} are smeared over {2.5 * blur:.0f} pixels. "
            "Hold the camera still or lean it on something, let it focus, and take it again.",
            "blurred", numbers={"blur_px": blur},
        )  # fmt: skip
    good = near & _is_saddle(grey, refined, H, board, square_mm)
    if good.sum() < LEAST_CORNERS:
        raise _cut_off(sheet) if cut_off else _no_sheet(len(markers))
    return SeenSheet(sheet, board[good], refined[good], H, square_px, blur, cut_off)


def _is_saddle(grey: NDArray[np.uint8], at: Array, H: Array, board: Array, square_mm: float) -> NDArray[np.bool_]:
    """Whether dark and light alternate round each corner, as they do where nothing covers it."""
    step = 0.07 * square_mm
    shift = at - _through(H, board)
    levels = []
    for dx, dy in ((step, step), (-step, -step), (step, -step), (-step, step)):
        levels.append(_sample(grey, _through(H, board + [dx, dy]) + shift))
    a, b, c, d = levels
    contrast = np.abs((a + b) - (c + d)) / 2
    uneven = np.maximum(np.abs(a - b), np.abs(c - d))
    return np.asarray((contrast > 25) & (uneven < 0.8 * contrast))


def _blur_px(grey: NDArray[np.uint8], at: Array, H: Array, board: Array, square_mm: float) -> float:
    """Standard deviation of the edge spread, in px, along the squares' edges a half square from each corner.

    From the edge's steepest slope: a step of height h blurred by a Gaussian of σ has slope h/(σ√2π).
    """
    shift = at - _through(H, board)
    widths = []
    for along, across in (((0.11, 0.0), (0.0, 1.0)), ((0.0, 0.11), (1.0, 0.0))):
        centre = board + np.array(along) * square_mm
        offsets = np.linspace(-0.1, 0.1, 81) * square_mm
        lines = [_sample(grey, _through(H, centre + np.array(across) * o) + shift) for o in offsets]
        profile = np.stack(lines, axis=1)
        ends = (
            _through(H, centre + np.array(across) * offsets[0]),
            _through(H, centre + np.array(across) * offsets[-1]),
        )
        step_px = np.hypot(*(ends[1] - ends[0]).T) / (len(offsets) - 1)
        height = np.abs(profile[:, -8:].mean(axis=1) - profile[:, :8].mean(axis=1))
        smooth = np.apply_along_axis(lambda v: np.convolve(v, np.ones(5) / 5, "valid"), 1, profile)
        slope = np.abs(np.diff(smooth, axis=1)).max(axis=1) / step_px
        ok = height > 25
        widths.append((height / np.maximum(slope, 1e-6) / np.sqrt(2 * np.pi))[ok])
    every = np.concatenate(widths)
    return float(np.median(every)) if len(every) else np.inf


def _sample(grey: NDArray[np.uint8], px: Array) -> Array:
    maps = np.ascontiguousarray(px, dtype=np.float32)
    taken = cv2.remap(grey, maps[:, 0], maps[:, 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(taken, dtype=float).ravel()


def _through(H: Array, points: Array) -> Array:
    p = points @ H[:, :2].T + H[:, 2]
    return np.asarray(p[:, :2] / p[:, 2:])

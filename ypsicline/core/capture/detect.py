"""Finding reference sheets in a photograph, and their chessboard corners to a few hundredths of a pixel."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.sheets import PAPERS, Sheet, all_sheets, dictionary
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import Message, message

__all__ = ["SeenSheet", "SeenSheets", "UnreadSheet", "find_sheets"]

SEARCH_SIDE_PX = 2200
LEAST_MARKERS = 2
LEAST_MARKER_PX = 10.0
# markers larger than the overlap are seen at half the size already
TILE_PX, OVERLAP_PX = 640, 160
MOST_PLACES = 6
LEAST_CORNERS = 8
LEAST_SQUARE_PX = 14.0
# a marker's side, px, at which it is read well
READABLE_PX = 36.0
# of what cameras make of light, nearly enough
GAMMA = 2.4
# a mirrored sheet shows at least so many of its markers
MIRRORED_MARKERS = 4
# so few markers of a sheet are looked for once more, larger
FEW_MARKERS = 8
# where a further sheet may lie is a smaller part of the picture than this
MOST_OF_PICTURE = 0.2
# of a saddle: least contrast of light and dark in grey levels, of a picture that uses all 255
LEAST_CONTRAST = 25.0
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


@dataclass(frozen=True)
class UnreadSheet:
    """A sheet that is in the picture but can't be measured, why, and where its paper is about, (4, 2) px."""

    sheet: Sheet
    why: Message
    corners_px: Array


@dataclass(frozen=True)
class SeenSheets:
    """The sheets that a photograph shows, and those that it shows too badly."""

    sheets: tuple[SeenSheet, ...]
    unread: tuple[UnreadSheet, ...]


def find_sheets(grey: NDArray[np.uint8], known_sheets: tuple[Sheet, ...] | None = None) -> SeenSheets:
    """Every sheet in a grey photograph, in the order of their identities.

    `known_sheets` limits the search to the sheets that were printed. Raises `Refusal` where none can be
    measured: `no_sheet`, `sheet_too_small`, `blurred`.
    """
    grey = _full_range(grey)
    sheets = known_sheets or all_sheets()
    markers = _markers(grey, sheets)
    sightings: list[SeenSheet] = []
    unread: list[UnreadSheet] = []
    troubles: list[Refusal] = []
    for sheet in sheets:
        mine = {i: markers[i] for i in sheet.marker_ids if i in markers}
        if not mine:
            continue
        try:
            sightings.append(_measure(grey, sheet, mine))
        except Refusal as e:
            troubles.append(e)
            unread.append(UnreadSheet(sheet, e.message, _about(sheet, mine)))
    if not sightings:
        if _is_smeared(grey):
            raise Refusal(message("photo_blurred"), "blurred")
        if _shows_mirrored(grey, sheets):
            raise Refusal(message("photo_mirrored"), "no_sheet")
        raise troubles[0] if troubles else _no_sheet(len(markers))
    return SeenSheets(tuple(sightings), tuple(unread))


def _full_range(grey: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """A dim picture stretched to all grey levels, so that thresholds mean the same in any light."""
    brightest = float(np.percentile(grey[::7, ::7], 99.5))
    return grey if brightest > 180 else cv2.convertScaleAbs(grey, alpha=min(230 / max(brightest, 1.0), 5.0))


def _about(sheet: Sheet, markers: dict[int, Array]) -> Array:
    """Where a sheet's paper is about, (4, 2) px, by one or more of its markers."""
    nominal = sheet.marker_corners()
    mm, px = (np.vstack([d[i] for i in markers]) for d in (nominal, markers))
    terms = np.column_stack([mm, np.ones(len(mm))])
    affine, *_ = np.linalg.lstsq(terms, px, rcond=None)
    corners = sheet.paper_corners()
    return np.asarray(np.column_stack([corners, np.ones(4)]) @ affine)


def _is_smeared(grey: NDArray[np.uint8]) -> bool:
    """Whether even the picture's strongest edges spread over several pixels: at a quarter of the size they are
    then about four times as steep per pixel, where sharp ones stay about as steep."""
    quarter = cv2.resize(grey, None, fx=0.25, fy=0.25, interpolation=cv2.INTER_AREA)
    return _steepest(grey) < SMEARED * _steepest(quarter)


def _steepest(grey: NDArray[np.uint8]) -> float:
    across, down = (cv2.Sobel(grey, cv2.CV_32F, x, y, scale=1 / 8) for x, y in ((1, 0), (0, 1)))
    return float(np.percentile(np.hypot(across, down), 99.95))


def _hardly_read(sheet: Sheet) -> Refusal:
    return Refusal(message("sheet_unreadable", sheet=sheet.id.upper()), "no_sheet")


def _shows_mirrored(grey: NDArray[np.uint8], sheets: Sequence[Sheet]) -> bool:
    """Whether a sheet would be seen if the picture were mirrored."""
    scale = min(1.0, SEARCH_SIDE_PX / max(grey.shape))
    markers = _detect(np.ascontiguousarray(grey[:, ::-1]), scale, (13, 13, 10))
    return any(sum(i in markers for i in s.marker_ids) >= MIRRORED_MARKERS for s in sheets)


def _no_sheet(markers: int) -> Refusal:
    if markers:
        return Refusal(message("sheet_of_another_job"), "no_sheet")
    return Refusal(message("no_sheet_in_photo"), "no_sheet")


def _markers(grey: NDArray[np.uint8], sheets: Sequence[Sheet]) -> dict[int, Array]:
    """Markers and their corners (4, 2), px: looked for in the whole picture, more and more finely until a sheet shows,
    then round every sheet that did."""
    coarse = min(1.0, SEARCH_SIDE_PX / max(grey.shape))
    markers: dict[int, Array] = {}
    for windows in (13, 13, 10), (3, 23, 10):
        markers = {**markers, **_detect(grey, coarse, windows)}
        if sum(any(i in markers for i in s.marker_ids) for s in sheets) > 1:
            break
    else:
        markers = {**markers, **_detect_small(grey)}
    shown = [s for s in sheets if any(i in markers for i in s.marker_ids)]
    for more in at_once(lambda sheet: _others_of(grey, sheet, markers), shown):
        markers.update(more)
    papers = [_about(s, {i: markers[i] for i in s.marker_ids if i in markers}) for s in shown]
    for low, high in _chequered_places(grey, papers):
        further = _read_in(grey, low, high, 1.0)
        markers = {**(further if len(further) > FEW_MARKERS else _read_in(grey, low, high, 2.0)), **markers}
    return markers


def _chequered_places(grey: NDArray[np.uint8], papers: Sequence[Array]) -> list[tuple[Array, Array]]:
    """Boxes, px, of what looks like a further sheet beside those at `papers` (4, 2): as light, as dark, and not much smaller."""
    if not papers:
        return []
    areas = [cv2.contourArea(p.astype(np.float32)) for p in papers]
    shrink = max(1, round(float(np.sqrt(min(areas))) / 40))
    small = cv2.resize(grey, None, fx=1 / shrink, fy=1 / shrink, interpolation=cv2.INTER_AREA).astype(np.float32)
    mean, square = cv2.blur(small, (9, 9)), cv2.blur(small * small, (9, 9))
    spread = np.sqrt(np.maximum(square - mean * mean, 0))
    sheets = np.zeros(small.shape, dtype=np.uint8)
    for p in papers:
        cv2.fillConvexPoly(sheets, np.rint(p / shrink).astype(np.int32), 1)
    usual = float(np.median(spread[sheets > 0])) if sheets.any() else np.inf
    alike = ((spread > 0.5 * usual) & (cv2.dilate(sheets, np.ones((9, 9), np.uint8)) == 0)).astype(np.uint8)
    whole_places = cv2.morphologyEx(alike, cv2.MORPH_OPEN, np.ones((11, 11), np.uint8))
    count, _, stats, _ = cv2.connectedComponentsWithStats(whole_places, connectivity=4)
    places = []
    for left, top, wide, high, area in sorted(stats[1:count].tolist(), key=lambda s: -s[cv2.CC_STAT_AREA]):
        # a print that touches a sheet makes one place of both
        if 0.2 * min(areas) < area * shrink**2 and wide * high < MOST_OF_PICTURE * small.size:
            ends = np.array([[left, top], [left + wide, top + high]], dtype=float) * shrink
            places.append((ends[0], ends[1]))
    return places[:MOST_PLACES]


def _others_of(grey: NDArray[np.uint8], sheet: Sheet, markers: dict[int, Array]) -> dict[int, Array]:
    """A sheet's markers that are seen by looking where those lie that were read."""
    own = {i: markers[i] for i in sheet.marker_ids if i in markers}
    if len(own) == len(sheet.marker_ids):
        return {}
    return {i: c for i, c in _near_by(grey, sheet, own).items() if i in sheet.marker_ids}


def _near_by(grey: NDArray[np.uint8], sheet: Sheet, markers: dict[int, Array]) -> dict[int, Array]:
    """The markers in the part of the picture where a sheet lies, of which some were read."""
    about = np.vstack([_about(sheet, markers), *markers.values()])
    side = float(np.median([np.hypot(*(c - np.roll(c, 1, axis=0)).T).mean() for c in markers.values()]))
    return _read_in(grey, about.min(axis=0), about.max(axis=0), float(np.clip(READABLE_PX / side, 0.4, 2.0)))


def _read_in(grey: NDArray[np.uint8], low: Array, high: Array, scale: float) -> dict[int, Array]:
    """The markers in a box of the picture, px, and a little round it."""
    grow = 0.15 * float(np.max(high - low))
    low = np.maximum(low - grow, 0).astype(int)
    high = np.minimum(high + grow, np.array(grey.shape[::-1])).astype(int)
    part = grey[low[1] : high[1], low[0] : high[0]]
    if min(part.shape) < 20:
        return {}
    windows = (3, 23, 10)
    of_light, of_grey = at_once(lambda picture: _detect(picture, scale, windows), (_as_light(part), part))
    return {i: c + low for i, c in {**of_light, **of_grey}.items()}


def _as_light(grey: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """A picture with the camera's gamma undone: it is light that blur mixes, and white runs less into small dark cells."""
    return np.asarray(cv2.LUT(grey, np.rint(255 * (np.arange(256) / 255) ** GAMMA).astype(np.uint8)))


def _detect_small(grey: NDArray[np.uint8]) -> dict[int, Array]:
    """Markers that are small in the picture, tile by tile: among all the squares of a checked cloth at once they are looked
    for in minutes."""
    markers: dict[int, Array] = {}
    for top in range(0, grey.shape[0], TILE_PX):
        for left in range(0, grey.shape[1], TILE_PX):
            tile = grey[top : top + TILE_PX + OVERLAP_PX, left : left + TILE_PX + OVERLAP_PX]
            if min(tile.shape) > OVERLAP_PX or top == left == 0:
                markers.update({i: c + [left, top] for i, c in _detect(tile, 1.0, (3, 23, 10)).items()})
    return markers


def _detect(grey: NDArray[np.uint8], scale: float, windows: tuple[int, int, int]) -> dict[int, Array]:
    """Markers in a grey picture at `scale`; `windows` are the least, largest and step of the sizes, px, over which
    it is thresholded."""
    how = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
    small = grey if scale == 1 else cv2.resize(grey, None, fx=scale, fy=scale, interpolation=how)
    settings = cv2.aruco.DetectorParameters()
    settings.minMarkerPerimeterRate = 4 * LEAST_MARKER_PX / max(small.shape)
    settings.adaptiveThreshWinSizeMin, settings.adaptiveThreshWinSizeMax, settings.adaptiveThreshWinSizeStep = windows
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
    H, inliers = cv2.findHomography(mm, px, cv2.RANSAC, max(4.0, 0.02 * float(np.ptp(px))))
    if len(markers) < LEAST_MARKERS or H is None or inliers.sum() < 4 * LEAST_MARKERS:
        raise _hardly_read(sheet)
    height, width = grey.shape
    rim = _through(H, sheet.paper_corners())
    cut_off = bool(((rim < 0) | (rim > [width - 1, height - 1])).any())

    board = sheet.board_corners()
    guess = _through(H, board)
    square_px = float(np.median(np.hypot(*(_through(H, board + [square_mm, 0]) - guess).T)))
    across_px = float(np.median(np.hypot(*(_through(H, board + [0, square_mm]) - guess).T)))
    square_px = min(square_px, across_px)
    if square_px < LEAST_SQUARE_PX:
        raise Refusal(
            message("sheet_too_small", sheet=sheet.id.upper(), square_px=square_px, least_px=LEAST_SQUARE_PX),
            "sheet_too_small", numbers={"square_px": square_px},
        )  # fmt: skip
    # a second time from the corners themselves, which lie all over the sheet where markers may not have been read
    for _ in range(2):
        at, refined, near = _refined(grey, _through(H, board), square_px)
        blur = _blur_px(grey, refined[near], H, board[at][near], square_mm) if near.any() else 0.0
        saddle = near & _is_saddle(grey, refined, H, board[at], square_mm)
        good = np.flatnonzero(at)[saddle]
        if len(good) < LEAST_CORNERS:
            break
        again, _ = cv2.findHomography(board[good], refined[saddle], cv2.RANSAC, 0.1 * square_px)
        H = H if again is None else again
    if blur > min(BLUR_OF_SQUARE * square_px, BLUR_AT_MOST_PX):
        raise Refusal(
            message("photo_blurred_at_sheet", sheet=sheet.id.upper(), smeared_px=2.5 * blur),
            "blurred", numbers={"blur_px": blur},
        )  # fmt: skip
    if len(good) < LEAST_CORNERS:
        raise _hardly_read(sheet)
    return SeenSheet(sheet, board[good], refined[saddle], H, square_px, blur, cut_off)


def _refined(
    grey: NDArray[np.uint8], guess: Array, square_px: float
) -> tuple[NDArray[np.bool_], Array, NDArray[np.bool_]]:
    """Which guessed corners (n, 2) lie well inside the picture; those, refined; and which of them stayed near."""
    height, width = grey.shape
    margin = 0.5 * square_px
    inside = np.asarray(((guess > margin) & (guess < [width - 1 - margin, height - 1 - margin])).all(axis=1))
    guess = guess[inside]
    if not len(guess):
        return inside, guess, np.zeros(0, dtype=bool)
    # the clean part of a saddle ends where the markers begin, 0.14 of a square from it
    window = int(np.clip(0.12 * square_px, 2, 14))
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_COUNT, 40, 0.002)
    start = np.ascontiguousarray(guess, dtype=np.float32).reshape(-1, 1, 2)
    coarse = cv2.cornerSubPix(grey, start, (2 * window, 2 * window), (-1, -1), stop)
    refined = cv2.cornerSubPix(grey, coarse, (window, window), (-1, -1), stop).reshape(-1, 2).astype(float)
    return inside, refined, np.asarray(np.hypot(*(refined - guess).T) < 0.2 * square_px)


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
    return np.asarray((contrast > LEAST_CONTRAST) & (uneven < 0.8 * contrast))


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
    samples = cv2.remap(grey, maps[:, 0], maps[:, 1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(samples, dtype=float).ravel()


def _through(H: Array, points: Array) -> Array:
    p = points @ H[:, :2].T + H[:, 2]
    return np.asarray(p[:, :2] / p[:, 2:])

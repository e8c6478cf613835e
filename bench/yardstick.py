"""The same work by bare library calls, for comparison: what one would write in an afternoon."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import shapely
from numpy.typing import NDArray

from ypsicline.core.capture.sheets import make_sheets

__all__ = ["bare_outline", "bare_parallel"]

Array = NDArray[np.float64]


@dataclass(frozen=True)
class _Window:
    mm_per_px: float = 0.28
    reach_mm: float = 620.0


def bare_outline(pixels: NDArray[np.uint8]) -> Array:
    """Markers of one sheet, one homography, Otsu's threshold, integer contour: mm, y up."""
    detector = cv2.aruco.ArucoDetector(cv2.aruco.getPredefinedDictionary(cv2.aruco.DICT_5X5_1000))
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY)
    corners, ids, _ = detector.detectMarkers(grey)
    shown = {int(i) for i in ids.ravel()}
    sheet = max(make_sheets("a4", 4), key=lambda s: len(shown & set(s.marker_ids)))
    nominal = sheet.marker_corners()
    kept = [(nominal[int(i)], c[0]) for i, c in zip(ids.ravel(), corners, strict=True) if int(i) in nominal]
    mm, px = np.vstack([a for a, _ in kept]), np.vstack([b for _, b in kept])
    to_mm, _ = cv2.findHomography(px, mm)
    w = _Window()
    centre = cv2.perspectiveTransform(np.array([[[pixels.shape[1] / 2, pixels.shape[0] / 2]]]), to_mm)[0, 0]
    left, top = centre[0] - w.reach_mm, centre[1] + w.reach_mm
    lay = np.array([[1 / w.mm_per_px, 0, -left / w.mm_per_px], [0, -1 / w.mm_per_px, top / w.mm_per_px], [0, 0, 1]])
    size = (round(2 * w.reach_mm / w.mm_per_px),) * 2
    flat = cv2.warpPerspective(grey, lay @ to_mm, size, borderMode=cv2.BORDER_REPLICATE)
    _, mask = cv2.threshold(cv2.GaussianBlur(flat, (0, 0), 2), 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    best, most = None, 0.0
    for m in (mask, 255 - mask):
        contours, _ = cv2.findContours(m, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
        for c in contours:
            x, y, cw, ch = cv2.boundingRect(c)
            inside = x > 2 and y > 2 and x + cw < size[0] - 2 and y + ch < size[1] - 2
            middle = cv2.pointPolygonTest(c, (size[0] / 2, size[1] / 2), False) > 0
            area = cv2.contourArea(c)
            if inside and middle and area > most:
                best, most = c, area
    if best is None:
        return np.empty((0, 2))
    return np.column_stack([best[:, 0, 0], -best[:, 0, 1]]).astype(float) * w.mm_per_px


def bare_parallel(points: Array, allowance: float) -> shapely.Geometry:
    """One allowance all round, mitred."""
    return shapely.Polygon(points).buffer(allowance, join_style="mitre", mitre_limit=3)

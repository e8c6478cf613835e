"""The outline to a fraction of a pixel.

Near the coarse outline the piece's and the table's colours are known on either side, both
varying slowly. The share of piece in each pixel is the picture's colour projected on the line
from one to the other; the outline is where that share is one half, by marching squares
(Lorensen & Cline, SIGGRAPH 1987) on a lightly smoothed picture.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import scipy
import shapely
import skimage
from numpy.typing import NDArray

from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.pieces import SMALLEST_HOLE_MM2
from ypsicline.core.capture.rectify import FlatPicture
from ypsicline.core.capture.shaded_rim import outside_if_shaded
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import signed_area
from ypsicline.core.messages import message

__all__ = ["RIM_MM", "FoundOutline", "find_outline", "find_region"]

BAND_MM = 5.0
RIM_MM = 1.6
# the colours beside a rim are the means within such a reach, worked out on so fine a grain; of the nearest
COLOUR_REACH_MM, GRAIN_MM = 7.0, 2.0
NEAREST_REACH_MM, NEAREST_GRAIN_MM = 1.0, 0.4
# a colour is astray that is off the way between two by such a share of their difference, at least so many grey levels
ASTRAY_SHARE, LEAST_ASTRAY = 0.25, 15.0
# of colours as like as each other by so many levels the one that is a millimetre nearer is taken
LEVELS_PER_MM = 5.0
SMOOTH_PX = 0.8
LEAST_STEP = 8.0
_MASK_SIGMA_MM = 0.8
# at so many points of an outline it is looked whether the table beside it is shaded
LOOKED_AT = 500
# a picture stores about this root of the light
TONE = 2.2


@dataclass(frozen=True)
class FoundOutline:
    """Rings (n, 2) in the table's mm, the outline counter-clockwise and the holes clockwise.

    `edge_mm` is how wide the edge is smeared (one standard deviation) and `contrast` how many
    grey levels of 255 part piece and table along it. `sides` is 2 where a point is the middle between
    two edges, each found by itself. `tone_mm` is how far apart two honest readings of the edge's
    middle lie, `shade_mm` how far inside the rings it lies if the table beside them is shaded; None where nothing tells.
    `astray_share` is the share of what lies near the rim whose colour isn't between those on either side.
    """

    outline: Array
    holes: tuple[Array, ...]
    edge_mm: float
    contrast: float
    sides: int = 1
    tone_mm: float = 0.0
    shade_mm: float | None = None
    astray_share: float = 0.0


def find_outline(picture: FlatPicture, mask: NDArray[np.bool_], *, past_lines: bool = True) -> FoundOutline:
    """Refine the coarse `mask` (rows, columns of the picture) to rings, `past_lines` that run up to them as joints of tiles do.

    Raises `Refusal` (reason `low_contrast`) where piece and table differ too little along the
    outline to tell where it runs.
    """
    share = _share_of_piece(picture, mask, past_lines=past_lines)
    rings = [
        _ring(picture, c)
        for c in skimage.measure.find_contours(share.share, 0.5, positive_orientation="high")
        if len(c) > 8
    ]
    rings = [r for r in rings if abs(signed_area(r)) > SMALLEST_HOLE_MM2]
    if not rings:
        raise Refusal(message("edge_not_followed"), "low_contrast")
    outline = max(rings, key=lambda r: abs(signed_area(r)))
    sense = np.sign(signed_area(outline))
    holes = tuple(r for r in rings if r is not outline and np.sign(signed_area(r)) != sense)
    near = np.abs(share.share[share.at] - 0.5) < 0.25
    on_edge = share.steps[near]
    contrast = float(np.median(on_edge)) if len(on_edge) else 0.0
    if contrast < LEAST_STEP:
        raise Refusal(
            message("edge_like_the_table"),
            "low_contrast", numbers={"contrast": contrast},
        )  # fmt: skip
    edge_mm = _edge_width(share, picture.window.mm_per_px)
    return FoundOutline(
        _turned(outline, counter_clockwise=True),
        tuple(_turned(h, counter_clockwise=False) for h in holes),
        edge_mm,
        contrast,
        tone_mm=_tone_shift(share.inside[near], share.outside[near], edge_mm),
        shade_mm=_outside_if_shaded(picture, share, outline),
        astray_share=share.astray_share,
    )


def find_region(picture: FlatPicture, mask: NDArray[np.bool_]) -> shapely.Geometry:
    """What the picture shows of the piece, refined from the coarse `mask`; cut off where the picture ends.

    Where piece and table hardly differ the mask's own rim is kept, smoothed.
    """
    share_of_piece = _share_of_piece(picture, mask, past_lines=True)
    share = share_of_piece.share
    soft = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), _MASK_SIGMA_MM / picture.window.mm_per_px)
    at = tuple(v[share_of_piece.steps < LEAST_STEP] for v in share_of_piece.at)
    share[at] = soft[at]
    rings = [_ring(picture, c - 1) for c in skimage.measure.find_contours(np.pad(share, 1), 0.5) if len(c) > 8]
    loops = [shapely.LinearRing(r) for r in rings if abs(signed_area(r)) > SMALLEST_HOLE_MM2]
    return shapely.build_area(shapely.GeometryCollection(loops))


@dataclass(frozen=True)
class _Share:
    """How much of each pixel is piece, the pixels `at` (rows, columns) near the rim where that was looked at, by how many
    grey levels piece and table differ beside each of them, their colours `inside` and `outside`, and the share of these pixels
    whose colour isn't between them."""

    share: NDArray[np.float32]
    at: tuple[NDArray[np.intp], ...]
    steps: NDArray[np.float32]
    inside: NDArray[np.float32]
    outside: NDArray[np.float32]
    astray_share: float = 0.0


def _share_of_piece(picture: FlatPicture, mask: NDArray[np.bool_], *, past_lines: bool) -> _Share:
    mm_per_px = picture.window.mm_per_px
    share, rim = mask.astype(np.float32), _rim(mask, RIM_MM / mm_per_px)
    at = np.unravel_index(np.flatnonzero(rim), rim.shape)
    if not len(at[0]):
        none = np.empty((0, 3), dtype=np.float32)
        return _Share(share, at, none[:, 0], none, none)
    colour = cv2.GaussianBlur(picture.pixels, (0, 0), SMOOTH_PX)
    bands = at_once(lambda side: _shrink(side, RIM_MM, BAND_MM, mm_per_px), (mask, ~mask & picture.in_view))
    inside, outside = at_once(
        lambda band: _local_colour(colour, band, COLOUR_REACH_MM / mm_per_px, GRAIN_MM / mm_per_px, at), bands
    )
    shares, astray = _between(colour[at], inside, outside)
    if past_lines and all(band.any() for band in bands):
        again = np.flatnonzero(astray)
        shares[again] = _past_lines(colour, bands, mm_per_px, tuple(v[again] for v in at), shares[again])
    share[at] = np.clip(shares, -0.5, 1.5)
    return _Share(share, at, np.linalg.norm(inside - outside, axis=-1), inside, outside, float(astray.mean()))


def _past_lines(
    colour: NDArray[np.uint8],
    bands: Sequence[NDArray[np.float32]],
    mm_per_px: float,
    at: tuple[NDArray[np.intp], ...],
    shares: NDArray[np.float32],
) -> NDArray[np.float32]:
    """The `shares` of piece in pixels `at` (rows, columns), of those that are between the nearest colours of both `bands`, or the
    likest, told by these.

    The joint of two tiles may lie as far from the tiles' mean colour towards the piece's as the piece does, and has nothing of it.
    """

    def nearest(where: tuple[NDArray[np.intp], ...]) -> list[NDArray[np.float32]]:
        reach_px, grain_px = NEAREST_REACH_MM / mm_per_px, NEAREST_GRAIN_MM / mm_per_px
        return at_once(lambda band: _local_colour(colour, band, reach_px, grain_px, where), bands)

    def likest(where: tuple[NDArray[np.intp], ...]) -> list[NDArray[np.float32]]:
        return [_likest_colour(colour, band, mm_per_px, where) for band in bands]

    shares, again = shares.copy(), np.arange(len(shares))
    for sides in (nearest, likest):
        if not len(again):
            break
        where = tuple(v[again] for v in at)
        told, astray = _between(colour[where], *sides(where))
        shares[again[~astray]] = told[~astray]
        again = again[astray]
    return shares


def _between(
    colours: NDArray[np.uint8], inside: NDArray[np.float32], outside: NDArray[np.float32]
) -> tuple[NDArray[np.float32], NDArray[np.bool_]]:
    """How far each colour (n, 3) lies on the way from `outside` to `inside`, and whether it lies astray of that."""
    step = inside - outside
    length2 = (step**2).sum(axis=-1)
    share = ((colours - outside) * step).sum(axis=-1) / np.maximum(length2, 25.0)
    off = np.linalg.norm(colours - outside - share[:, None] * step, axis=-1)
    return share, off > np.maximum(ASTRAY_SHARE * np.sqrt(length2), LEAST_ASTRAY)


def _likest_colour(
    colour: NDArray[np.uint8], where: NDArray[np.float32], mm_per_px: float, at: tuple[NDArray[np.intp], ...]
) -> NDArray[np.float32]:
    """Of each pixel `at` (rows, columns) the colour over `where` that is most like its own, not far off."""
    down = max(1, round(NEAREST_GRAIN_MM / mm_per_px))
    if not where[::down, ::down].any():
        down = 1
    rows, columns = (down * v for v in np.nonzero(where[::down, ::down]))
    of = colour[rows, columns].astype(np.float32)
    levels_per_px = LEVELS_PER_MM * mm_per_px
    tree = scipy.spatial.cKDTree(np.column_stack([of, rows * levels_per_px, columns * levels_per_px]))
    wanted = np.column_stack([colour[at], at[0] * levels_per_px, at[1] * levels_per_px])
    return of[tree.query(wanted)[1]]


def _outside_if_shaded(picture: FlatPicture, share: _Share, ring: Array) -> float | None:
    """How far outside its edge a `ring` (n, 2), mm, lies if the table beside it is shaded, mm; None where nothing tells."""
    ring = _turned(ring, counter_clockwise=True)[:: max(1, len(ring) // LOOKED_AT)]
    columns, rows = np.rint(picture.window.to_px(ring)).astype(np.intp).T
    looked_at, wanted = (np.ravel_multi_index(at, share.share.shape, mode="clip") for at in (share.at, (rows, columns)))
    which = np.minimum(np.searchsorted(looked_at, wanted), len(looked_at) - 1)
    told = looked_at[which] == wanted
    return outside_if_shaded(picture, ring[told], share.inside[which[told]], share.outside[which[told]])


def _tone_shift(inside: NDArray[np.float32], outside: NDArray[np.float32], edge_mm: float) -> float:
    """How far the middle between two shades as a picture stores them lies from the middle of their light, mm.

    A lens blurs light, and a picture stores about its 2.4th root (sRGB, IEC 61966-2-1): between a dark
    and a light side of one edge, blurred by a Gaussian of `edge_mm`, both middles lie apart. Which of
    the two is nearer the cloth's rim depends on sharpening and on the shadow beside it.
    """
    a, b = (np.mean(c, axis=-1) / 255 for c in (inside, outside))
    middle = ((np.maximum(a, 0) ** TONE + np.maximum(b, 0) ** TONE) / 2) ** (1 / TONE)
    share = np.clip((middle - b) / np.where(np.abs(a - b) < 0.01, np.inf, a - b), 0.01, 0.99)
    return float(edge_mm * np.median(np.abs(scipy.special.ndtri(np.where(share == 0.01, 0.5, share)))))


def _shrink(mask: NDArray[np.bool_], near_mm: float, far_mm: float, mm_per_px: float) -> NDArray[np.float32]:
    """The part of the mask between `near_mm` and `far_mm` from its rim; nearer where it is too thin for that."""
    depth = cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 3) * mm_per_px
    return np.asarray((depth > near_mm) & (depth < far_mm + near_mm), dtype=np.float32)


def _local_colour(
    colour: NDArray[np.uint8],
    where: NDArray[np.float32],
    reach_px: float,
    grain_px: float,
    at: tuple[NDArray[np.intp], ...],
) -> NDArray[np.float32]:
    """The mean colour over `where` within `reach_px` or so of each pixel `at` (rows, columns): worked out on a grain of
    `grain_px`, then looked up."""
    rows, columns = where.shape
    down = max(1, round(grain_px))
    size = (max(columns // down, 8), max(rows // down, 8))
    sigma = reach_px / down
    weight = cv2.resize(where, size, interpolation=cv2.INTER_AREA)
    masked = cv2.bitwise_and(colour, colour, mask=(where > 0).astype(np.uint8))
    sums = cv2.resize(masked, size, interpolation=cv2.INTER_AREA).astype(np.float32)
    mean = cv2.GaussianBlur(sums, (0, 0), sigma) + 1e-4 * _wide_blur(sums, sigma)
    total = cv2.GaussianBlur(weight, (0, 0), sigma) + 1e-4 * _wide_blur(weight, sigma)
    mean /= np.maximum(total, 1e-9)[..., None]
    y = ((at[0] + 0.5) * (size[1] / rows) - 0.5).astype(np.float32)
    x = ((at[1] + 0.5) * (size[0] / columns) - 0.5).astype(np.float32)
    return _looked_up(mean, x, y)


def _wide_blur(picture: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    """Blurred by about four times `sigma`, on a picture a quarter the size: only for where nothing is nearer."""
    rows, columns = picture.shape[:2]
    small = cv2.resize(picture, (max(columns // 4, 8), max(rows // 4, 8)), interpolation=cv2.INTER_AREA)
    return np.asarray(
        cv2.resize(cv2.GaussianBlur(small, (0, 0), sigma), (columns, rows), interpolation=cv2.INTER_LINEAR)
    )


def _looked_up(picture: NDArray[np.float32], x: NDArray[np.float32], y: NDArray[np.float32]) -> NDArray[np.float32]:
    """`picture` at the points (x, y), folded into rows that the resampler can take."""
    count, width = len(x), 4096
    padding = -count % width
    columns, rows = (np.pad(v, (0, padding), mode="edge").reshape(-1, width) for v in (x, y))
    samples = cv2.remap(picture, columns, rows, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return np.asarray(samples.reshape(-1, picture.shape[-1])[:count])


def _rim(mask: NDArray[np.bool_], radius_px: float) -> NDArray[np.bool_]:
    size = 2 * int(np.ceil(radius_px)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    m = mask.astype(np.uint8)
    return (cv2.dilate(m, kernel) > 0) & (cv2.erode(m, kernel) == 0)


def _ring(picture: FlatPicture, contour: Array) -> Array:
    ring = picture.window.to_mm(contour[:, ::-1])
    return np.asarray(ring[:-1] if np.allclose(ring[0], ring[-1]) else ring)


def _turned(ring: Array, *, counter_clockwise: bool) -> Array:
    return ring if (signed_area(ring) > 0) == counter_clockwise else ring[::-1].copy()


def _edge_width(share_of_piece: _Share, mm_per_px: float) -> float:
    """σ of the edge's spread, from the slope of the share where it crosses one half: slope = 1/(σ√2π)."""
    share = share_of_piece.share
    row, column = (v[np.abs(share[share_of_piece.at] - 0.5) < 0.15] for v in share_of_piece.at)
    (above, below), (left, right) = (
        (np.maximum(v - 1, 0), np.minimum(v + 1, most - 1)) for v, most in zip((row, column), share.shape, strict=True)
    )
    steep = np.hypot(share[row, right] - share[row, left], share[below, column] - share[above, column]) / 2
    slope = float(np.median(steep)) if len(steep) else 0.0
    return mm_per_px / (max(slope, 1e-3) * np.sqrt(2 * np.pi))

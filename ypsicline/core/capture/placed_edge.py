"""The edge of a piece that was placed roughly: measured in the photo, with what is doubtful stretch by stretch."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
import scipy
import shapely
import skimage

from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.contour import LEAST_STEP, RIM_MM, FoundOutline, find_outline
from ypsicline.core.capture.flat_parts import fill_rings
from ypsicline.core.capture.pieces import SMALLEST_HOLE_MM2, CoarsePiece, Mask, Reading, Share
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.shaded_rim import shadow_within
from ypsicline.core.capture.snapping import CLEAR, STEP_MM, Snapped, nearest_rival_mm, settle, snapped
from ypsicline.core.capture.stretches import doubts_where_vague, run_lengths
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring, signed_area
from ypsicline.core.messages import Message, message

__all__ = ["STRAYS_MM", "MeasuredEdge", "along_with", "edge_of", "without_hairs"]

REACH_PX, LEAST_REACH_MM, MOST_REACH_MM = 3.0, 2.5, 9.0
# the sides of an edge are told by colours that separate them as well as this
LEAST_SEPARATION = 0.6
# of a reading's fineness, how far its rim may lie off for that alone; how much farther off the truth may be than other
# readings are, and along which share of the outline beside them
RIM_OF_FINENESS, OTHERS_TELL, BESIDE_SHARE = 1.6, 2.0, 0.03
# other readings as near as this count by how little the colours tell, but at least so much
NEAR_MM, LEAST_OF_NEAR = 9.0, 0.2
# beside a sheet as near as this the edge may be hidden, and then lie as far off as half the sheet is wide
HIDDEN_BY_SHEET_MM, HIDDEN_MM = 2.5, 105.0
# an outline farther than this, and so many px, from the edge that was looked for strays; on no longer a stretch it only runs
# into a corner's tip, or so many of the px on which it was placed, which round it off by a part of one; what strayed, and an edge
# beside it, may lie so many times as far off, as both are soft
STRAYS_MM, STRAYS_PX, TIP_MM, TIP_PX, ROUNDED_PX, OFF_TIMES = 0.8, 2.0, 8.0, 2.0, 0.3, 1.3
# two ways to measure an edge agree within this; where they don't on more than this share of it, it is patterned; how often
# an edge is followed on into its tips
SAME_EDGE_MM, PATTERNED_SHARE, MOST_ROUNDS = 0.6, 0.03, 4
# and it is followed where it lies farther than this from where it was placed
FOLLOWED_MM = 0.75 * RIM_MM
# lines that run up to a rim are looked for where so much of what lies near it has neither piece's nor table's colour
LINES_SHARE = 0.002
# an edge is seen where it is clear along this share of it
SEEN_SHARE = 0.5
# a hair is no wider than this and at least so long; a tip's part as wide as twice that is so many times as large (four, where it
# narrows evenly); so near a hair points are its own; what has more of them than this share isn't hairs
HAIR_MM, LEAST_HAIR_MM, TIP_GROWS, HAIR_RIM_MM, MOST_HAIRS = 2.4, 2.5, 2.2, 0.05, 0.2
# how sure the network is of a hole that is one
SURELY_HOLE = 0.2


@dataclass(frozen=True)
class MeasuredEdge:
    """An outline with its holes, how far each of its points may be off for what is doubtful about the edge, mm (n,), for other
    readings of the picture alone (`disputed`), and warnings. `hidden_share` is the share of it that lies against or under a
    sheet; `hole_doubts` say of each hole's points what `doubts` says of the outline's."""

    outline: FoundOutline
    doubts: Array
    disputed: Array
    warnings: tuple[Message, ...] = ()
    hidden_share: float = 0.0
    hole_doubts: tuple[Array, ...] = ()

    @property
    def rings(self) -> Iterator[tuple[Array, Array]]:
        """The outline and each hole, with how far each of its points may be off."""
        return zip((self.outline.outline, *self.outline.holes), (self.doubts, *self.hole_doubts), strict=True)


def edge_of(piece: CoarsePiece, fine: FlatPicture, papers: Sequence[Array]) -> MeasuredEdge:
    """The outline and holes of `piece`, measured in the `fine` picture, beside `papers` (4, 2) that may hide it.

    Raises `Refusal` (reason `low_contrast`) where hardly any edge is seen.
    """
    reach = float(np.clip(REACH_PX * piece.window.mm_per_px, LEAST_REACH_MM, MOST_REACH_MM))
    share = np.zeros(piece.mask.shape, np.float32) if piece.share is None else piece.share
    placed = _rings(piece.mask, share, piece.window)
    rings = at_once(lambda ring: snapped(fine, ring, share, piece.window, reach), placed)
    if not rings:
        raise Refusal(message("edge_not_followed"), "low_contrast")
    measurement = _measure(fine, rings)
    doubts, disputed = _doubts(measurement.outline, rings[0], piece, max(STRAYS_MM, STRAYS_PX * fine.window.mm_per_px))
    if measurement.shade_mm is None:
        doubts = np.maximum(doubts, _on_shadow(fine, measurement.outline))
    warnings: list[Message] = []
    hidden_stretches = _near_sheets(measurement.outline, papers)
    if hidden_stretches.any():
        doubts = np.where(hidden_stretches, np.maximum(doubts, HIDDEN_MM), doubts)
        warnings.append(message("sheet_against_piece", percent=float(100 * hidden_stretches.mean())))
    weak = doubts > STRAYS_MM
    if weak.mean() > 0.01:
        warnings.append(message("edge_is_weak", percent=float(100 * weak.mean()), doubt_mm=doubts[weak].max()))
    hole_doubts = tuple(_doubts_of_hole(h, rings[1:], piece, fine.window.mm_per_px) for h in measurement.holes)
    return MeasuredEdge(measurement, doubts, disputed, tuple(warnings), float(hidden_stretches.mean()), hole_doubts)


def _measure(fine: FlatPicture, snaps: Sequence[Snapped]) -> FoundOutline:
    """The edge near the placed rings: by the colours of piece and table where those hold all round, followed on into narrow
    tips; on a print or stripes by the colours place by place. Raises as `edge_of` does."""
    rings = at_once(lambda p: settle(fine, p.ring), snaps)
    try:
        placed = fill_rings(fine.window, rings)
        outline = find_outline(fine, placed, past_lines=False)
    except Refusal:
        # a print on checks: along the whole edge no colours hold, though place by place it is seen
        if float(np.mean(snaps[0].clear > CLEAR)) < SEEN_SHARE:
            raise
        outline = FoundOutline(rings[0], (), fine.window.mm_per_px, LEAST_STEP)
        is_patterned = True
    else:
        off = scipy.spatial.cKDTree(outline.outline).query(rings[0])[0]
        is_patterned = float(np.mean(off > SAME_EDGE_MM)) > PATTERNED_SHARE
    if is_patterned:
        holes = tuple(r if signed_area(r) < 0 else r[::-1] for r in rings[1:])
        ring = rings[0] if signed_area(rings[0]) > 0 else rings[0][::-1]
        # what was told of a shadow was told of another ring
        return replace(outline, outline=ring, holes=holes, shade_mm=None)
    if outline.astray_share > LINES_SHARE:
        outline = find_outline(fine, placed)
    outline = _followed_on(fine, outline, np.vstack(rings))
    return replace(outline, outline=without_hairs(outline.outline))


def _followed_on(fine: FlatPicture, outline: FoundOutline, placed: Array) -> FoundOutline:
    """An outline followed on into its tips, where it ends as far as was looked from the points (n, 2) along which it was
    `placed`."""
    if scipy.spatial.cKDTree(placed).query(np.vstack([outline.outline, *outline.holes]))[0].max() < FOLLOWED_MM:
        return outline
    for _ in range(MOST_ROUNDS):
        before = np.vstack([outline.outline, *outline.holes])
        again = find_outline(fine, fill_rings(fine.window, [outline.outline, *outline.holes]))
        on = scipy.spatial.cKDTree(before).query(again.outline[::3])[0]
        if on.max() < SAME_EDGE_MM or float(np.mean(on > SAME_EDGE_MM)) > PATTERNED_SHARE:
            break
        outline = again
    return outline


def without_hairs(outline: Array) -> Array:
    """An outline (n, 2), mm, without the points of hairs that stand out of it: seams of boards and the like that the edge was
    followed into. A tip that grows narrow towards its end is no hair: it is wider a little farther back."""
    whole = shapely.Polygon(outline)
    if not whole.is_valid:
        return outline
    thin, thicker = (shapely.difference(whole, whole.buffer(-r).buffer(1.02 * r)) for r in (HAIR_MM / 2, HAIR_MM))
    farther_back = [t for t in shapely.get_parts(thicker) if t.area > 0]
    hairs = []
    for part in shapely.get_parts(thin):
        if part.length / 2 < LEAST_HAIR_MM:
            continue
        around = sum(t.area for t in farther_back if t.intersects(part))
        if around < TIP_GROWS * part.area:
            hairs.append(part)
    if not hairs:
        return outline
    on_hair = shapely.contains_xy(shapely.union_all(hairs).buffer(HAIR_RIM_MM), outline[:, 0], outline[:, 1])
    return outline if on_hair.mean() > MOST_HAIRS else outline[~on_hair]


def along_with(outline: Array, before: Array, doubts: Array) -> Array:
    """What is doubtful at each point of an outline by what was so at the nearest point of an earlier one."""
    return np.asarray(doubts[scipy.spatial.cKDTree(before).query(outline)[1]])


def _rings(mask: Mask, share: Share, window: Window) -> list[Array]:
    """Outline and holes, mm, where piece and table are equally likely, the outline first."""
    near = cv2.dilate(mask.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    soft = np.pad(np.where(near, share, 0.0), 1)
    rings = [window.to_mm(c[:-1, ::-1] - 1) for c in skimage.measure.find_contours(soft, 0.5) if len(c) > 8]
    rings = [r for r in rings if abs(signed_area(r)) > SMALLEST_HOLE_MM2]
    if not rings:
        return []
    outline = max(rings, key=lambda r: abs(signed_area(r)))
    within = shapely.Polygon(outline)
    holes = [r for r in rings if r is not outline and np.sign(signed_area(r)) != np.sign(signed_area(outline))]
    own = [h for h in holes if within.contains(shapely.Point(h[0]))]
    return [outline, *(h for h in own if float(share[fill_rings(window, [h])].mean()) < SURELY_HOLE)]


def _doubts(outline: Array, snap: Snapped, piece: CoarsePiece, strays_mm: float) -> tuple[Array, Array]:
    """How far each point may be off: by other readings of the picture, by an edge beside it that is nearly as likely, where no
    edge is seen or its sides aren't told by their colours, and where what was measured left the edge that was looked for by
    more than `strays_mm`; and how far by other readings alone."""
    away, nearest = scipy.spatial.cKDTree(snap.ring).query(outline)
    vague = (snap.clear < CLEAR / 2) | (snap.separation < LEAST_SEPARATION)
    off = _off_other_readings(snap.ring, [r for r in piece.readings if not r.against_colours], piece.window)
    believed = np.where(off > NEAR_MM, off, off * np.maximum(1 - snap.separation, LEAST_OF_NEAR))
    against = _off_other_readings(snap.ring, [r for r in piece.readings if r.against_colours], piece.window)
    other = OTHERS_TELL * np.maximum(believed, against)
    blind = doubts_where_vague(vague, snap.ring)
    rival = np.where(snap.rival[nearest] > 0, OFF_TIMES * (snap.rival[nearest] + away), 0.0)
    own = np.hypot(np.hypot(other, blind)[nearest], rival)
    beside, disputed = (_and_beside(v) for v in (own, other[nearest]))
    coarse_px = piece.window.mm_per_px
    is_tip = run_lengths(away > strays_mm, outline) <= max(TIP_MM, TIP_PX * coarse_px)
    strays = np.where(is_tip, np.maximum(away - max(strays_mm, ROUNDED_PX * coarse_px), 0), OFF_TIMES * away)
    return np.hypot(beside, strays), disputed


def _and_beside(doubts: Array) -> Array:
    """The largest of doubts (n,) along a share of an outline about each of its points."""
    spread = max(3, round(BESIDE_SHARE * len(doubts)))
    return np.asarray(scipy.ndimage.maximum_filter1d(doubts, spread, mode="wrap"))


def _on_shadow(fine: FlatPicture, outline: Array) -> Array:
    """How far off each point (n,) of an outline may be, mm, where it may lie on the outer side of a shadow wider than an edge
    is."""
    ring = even_ring(outline, STEP_MM)[0]
    wide = shadow_within(fine, ring)
    off = np.where(wide > nearest_rival_mm(fine.window), OFF_TIMES * wide, 0.0)
    return along_with(outline, ring, _and_beside(off))


def _doubts_of_hole(hole: Array, placed: Sequence[Snapped], piece: CoarsePiece, mm_per_px: float) -> Array:
    """The same of a hole: as of an outline by itself, but that it can't be farther off than it is wide."""
    wide = 2 * math.sqrt(abs(signed_area(hole)) / math.pi)
    if not placed:
        return np.full(len(hole), wide)
    nearest = min(placed, key=lambda p: float(np.median(scipy.spatial.cKDTree(p.ring).query(hole)[0])))
    doubts = _doubts(hole, nearest, piece, max(STRAYS_MM, STRAYS_PX * mm_per_px))[0]
    return np.minimum(doubts, wide)


def _off_other_readings(ring: Array, readings: Sequence[Reading], window: Window) -> Array:
    """How far the rims of other readings lie from each point, beyond what their coarseness explains, mm (n,)."""
    at = window.to_px(ring).astype(np.float32)
    worst = np.zeros(len(ring))
    for reading in readings:
        inside = reading.mask.astype(np.uint8)
        if not inside.any() or inside.all():
            continue
        rim = np.maximum(*(cv2.distanceTransform(m, cv2.DIST_L2, 5) for m in (inside, 1 - inside)))
        off = cv2.remap(rim, at[:, :1], at[:, 1:], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)[:, 0]
        worst = np.maximum(worst, off * window.mm_per_px - RIM_OF_FINENESS * reading.fineness_mm)
    return worst


def _near_sheets(outline: Array, papers: Sequence[Array]) -> Mask:
    """Which points lie on or against a sheet."""
    near = np.zeros(len(outline), dtype=bool)
    for p in papers:
        near |= shapely.contains_xy(shapely.Polygon(p).buffer(HIDDEN_BY_SHEET_MM), outline[:, 0], outline[:, 1])
    return near

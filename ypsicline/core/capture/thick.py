"""The top face of something thick, seen in one photo.

In the plane of the top face the camera sees the face itself and, on the near side of a tilted
view, the wall below its rim. What is seen there ends at the wall's foot, which stands on the
table straight below the rim: drawn out from the camera by the height, the foot comes to lie
under the rim again. So the rim lies between what both outlines have in common, where all of the
wall was taken for piece, and the outline, where nothing of it was. In between it is measured:
there the face's own colours end. Whether a wall is seen at all (and not a face that ends at what
is seen) is told by its shade.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np
import scipy
import shapely

from ypsicline.core.capture.flat_parts import fill_rings
from ypsicline.core.capture.pieces import Mask
from ypsicline.core.capture.placed_edge import MeasuredEdge, along_with
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.snapping import STEP_MM, across, normals, sampled, settle
from ypsicline.core.geometry.edges import Array
from ypsicline.core.geometry.rings import even_ring, signed_area
from ypsicline.core.messages import message

__all__ = ["top_face"]

LEAST_WALL_MM, SEEN_FROM_MM = 1.0, 0.4
# a wall is that much darker or lighter than its face just within the rim, in Lab, along that share of where it may be seen;
# a border of the face's own is as different from it along this share of the rest
LEAST_DIFFERENCE, TOLD_SHARE, BORDER_SHARE = 8.0, 0.3, 0.3
# where the colours end that this much of the face has, within how far of the rim, mm; they vary by so many times what most do
FACE_MM, BEFORE_MM, LEAST_END, SPREADS = (-4.0, -1.5), 1.2, 5.0, 1.5
# what is compared on both sides of an edge, mm from it; how wide a border may be; how far a ring is smoothed to look across it
BESIDE_MM, BORDER_MM, RIM_MM, SMOOTH_MM = (0.4, 1.2), (-12.0, -8.0), (-2.4, -1.2), 3.0
ACROSS_MM, MOST_STEPS, BLUR_PX, RUN_POINTS, CORNER_POINTS = 0.2, 400, 0.6, 9, 25
# an edge as near as this to the outline, or so many px, is the outline's own
AT_OUTLINE_MM, AT_OUTLINE_PX = 0.5, 1.2
# a rim that was measured leaves so much of its wall's width in doubt, at most so many mm; points farther apart don't meet
WALL_SHARE, MOST_WALL_MM, APART_MM = 0.4, 0.6, 1.5


@dataclass(frozen=True)
class _Rim:
    """A ring of the face, looked across. `measured` (n, 2) is where its own colours end, out from `ring` (n, 2) along `normal`,
    mm, and an edge parts face and wall there if it is `clear` (n,); what is seen ends `room` (n,) out. `near` tells where a
    wall may be seen, `told` the share of that along which it is told apart from what is seen beyond, `bordered` the share of
    the rest along which the face has such an edge within itself."""

    ring: Array
    normal: Array
    measured: Array
    near: Mask
    room: Array
    clear: Mask
    told: float
    bordered: float


def top_face(edge: MeasuredEdge, picture: FlatPicture, eye_mm: Array, height_mm: float) -> MeasuredEdge:
    """The face's edge out of that of all that is seen, both at `height_mm`.

    `picture` is laid flat at that height, `eye_mm` (3,) is where the camera was.
    """
    outline, towards_eye = edge.outline, height_mm / eye_mm[2]
    seen = shapely.Polygon(outline.outline)
    drawn_out = shapely.Polygon(_drawn_out(outline.outline, eye_mm[:2], towards_eye))
    if not (seen.is_valid and drawn_out.is_valid):
        return edge
    face = shapely.intersection(seen, drawn_out)
    if face.geom_type != "Polygon" or shapely.difference(seen, face.buffer(LEAST_WALL_MM)).is_empty:
        return edge
    own = np.asarray(shapely.geometry.polygon.orient(face).exterior.coords)[:-1]
    softened = replace(picture, pixels=cv2.GaussianBlur(picture.pixels, (0, 0), BLUR_PX))
    looks = [
        _hole(picture, softened, hole, doubts, eye_mm[:2], towards_eye)
        for hole, doubts in zip(outline.holes, edge.hole_doubts, strict=True)
    ]
    holes, hole_doubts = (tuple(v) for v in zip(*looks, strict=True)) if looks else ((), ())
    edge = replace(edge, outline=replace(outline, holes=holes), hole_doubts=hole_doubts)
    rim = _look_across(picture, softened, own, outline.outline, eye_mm[:2], towards_eye)
    if rim.told < TOLD_SHARE or rim.bordered > BORDER_SHARE:
        inside = _off(outline.outline, own)
        warning = message("wall_may_be_seen", wide_mm=float(inside.max()))
        return replace(edge, doubts=np.hypot(edge.doubts, inside), warnings=(*edge.warnings, warning))
    doubts = np.hypot(along_with(own, outline.outline, edge.doubts), _off(own, outline.outline))
    ring, doubts = _measured(rim, own, doubts)
    wide = float(_off(outline.outline, ring).max())
    warnings = (message("wall_left_out", wide_mm=wide),) if wide > SEEN_FROM_MM else ()
    return replace(
        edge, outline=replace(edge.outline, outline=ring), doubts=doubts, warnings=(*edge.warnings, *warnings)
    )


def _drawn_out(ring: Array, eye: Array, towards_eye: float) -> Array:
    """The rim that stands straight above a ring (n, 2) of the wall's foot, both in the plane of the face."""
    return eye + (ring - eye) / (1 - towards_eye)


def _hole(
    picture: FlatPicture, softened: FlatPicture, hole: Array, doubts: Array, eye: Array, towards_eye: float
) -> tuple[Array, Array]:
    """A hole (n, 2), clockwise, without its far wall, where that is told apart, looked at from as far round it as it may be;
    else as it is, and in doubt by what may be wall. With how far off each of its points may be, as `doubts` (n,) before."""
    moved = _drawn_out(hole, eye, towards_eye)
    around = shapely.Polygon(hole).buffer(float(np.hypot(*(moved - hole).T).max()))
    if around.geom_type != "Polygon":
        return hole, doubts
    start = np.asarray(shapely.geometry.polygon.orient(around, -1).exterior.coords)[:-1]
    rim = _look_across(picture, softened, start, hole, eye, towards_eye)
    if rim.told > TOLD_SHARE:
        return _measured(rim, hole, doubts)
    wall = ((hole - moved) * normals(hole)).sum(axis=1)
    return hole, np.hypot(doubts, np.maximum(wall, 0.0))


def _look_across(
    picture: FlatPicture, softened: FlatPicture, ring: Array, seen: Array, eye: Array, towards_eye: float
) -> _Rim:
    """Look in the `softened` picture from a `ring` of the face, on or within its rim, out to where what is `seen` ends, both
    counter-clockwise, or clockwise round a hole."""
    ring = even_ring(ring, STEP_MM)[0]
    ring = scipy.ndimage.gaussian_filter1d(ring, SMOOTH_MM / STEP_MM, axis=0, mode="wrap")
    normal = normals(ring)
    wall = ((eye - ring) * towards_eye * normal).sum(axis=1)
    near = scipy.ndimage.median_filter(wall > SEEN_FROM_MM, CORNER_POINTS, mode="wrap")
    farthest = _off(ring, seen).max() + SEEN_FROM_MM + BESIDE_MM[1]
    step_mm = max(ACROSS_MM, (farthest - BORDER_MM[0]) / MOST_STEPS)
    u = np.arange(BORDER_MM[0], farthest + step_mm, step_mm)
    places = ring[:, None] + u[None, :, None] * normal[:, None]
    ended = _is_beyond(seen, picture.window, places) & (u >= 0)
    room = np.where(ended.any(axis=1), u[ended.argmax(axis=1)], u[-1])
    colours = sampled(softened.pixels, softened.window, places)
    lab = cv2.cvtColor(colours / np.float32(255), cv2.COLOR_RGB2LAB)
    within = (u >= FACE_MM[0]) & (u <= FACE_MM[1])
    unlike = np.linalg.norm(lab - np.median(lab[:, within], axis=1)[:, None], axis=2)
    ends = max(LEAST_END, SPREADS * float(np.percentile(unlike[near][:, within], 75))) if near.any() else LEAST_END
    own = np.where(unlike < ends, 1.0, -1.0)
    own[:, u < -BEFORE_MM] = 0
    may_end = (u >= -BEFORE_MM) & (u <= room[:, None] + SEEN_FROM_MM)
    out = np.where(near, u[np.where(may_end, np.cumsum(own, axis=1), -np.inf).argmax(axis=1)], 0.0)
    at_outline = max(AT_OUTLINE_MM, AT_OUTLINE_PX * picture.window.mm_per_px)
    measured = settle(picture, ring + scipy.ndimage.median_filter(out, RUN_POINTS, mode="wrap")[:, None] * normal)
    clear = _step(unlike, u, out) > LEAST_DIFFERENCE
    border = np.median(lab[:, u < BORDER_MM[1]], axis=1) - np.median(lab[:, (u > RIM_MM[0]) & (u < RIM_MM[1])], axis=1)
    return _Rim(
        ring,
        normal,
        measured,
        near,
        room,
        scipy.ndimage.median_filter(clear, RUN_POINTS, mode="wrap"),
        told=_share(clear & (_off(measured, seen) > at_outline), near),
        bordered=_share(np.linalg.norm(border, axis=1) > LEAST_DIFFERENCE, ~near),
    )


def _is_beyond(seen: Array, window: Window, places: Array) -> Mask:
    """Whether places (n, m, 2) lie outside a ring (k, 2), or within it where it is clockwise, as round a hole (n, m)."""
    enclosed = sampled(fill_rings(window, [seen]).astype(np.float32), window, places)[..., 0] > 0.5
    return enclosed if signed_area(seen) < 0 else ~enclosed


def _share(what: Mask, of: Mask) -> float:
    return float(what[of].mean()) if of.any() else 0.0


def _step(unlike: Array, u: Array, at: Array) -> Array:
    """How much more unlike the face it is just beyond the places `at` of profiles (n, m) than just before them (n,)."""
    away = u - at[:, None]
    before, beyond = (
        np.nanmedian(np.where((away >= low) & (away <= high), unlike, np.nan), axis=1)
        for low, high in ((-BESIDE_MM[1], -BESIDE_MM[0]), BESIDE_MM)
    )
    return np.asarray(beyond - before)


def _measured(rim: _Rim, own: Array, doubts: Array) -> tuple[Array, Array]:
    """The ring (n, 2), on the near side where the face's colours end, else along `own`; and how far each point may be off, mm
    (n,): as `doubts` says of those of `own`, less where an edge is clear, more where near and far side don't meet."""
    nearest = scipy.spatial.cKDTree(rim.ring).query(own)[1]
    along = nearest + ((own - rim.ring[nearest]) * across(rim.normal[nearest])).sum(axis=1) / -STEP_MM
    near, far = rim.near, ~rim.near[nearest]
    order = np.argsort(np.concatenate([np.flatnonzero(near), along[far]]), kind="stable")
    joined = np.vstack([rim.measured[near], own[far]])[order]
    wall = np.minimum(WALL_SHARE * rim.room, MOST_WALL_MM)
    wall = np.where(rim.clear, wall, np.hypot(wall, along_with(rim.ring, own, doubts)))
    apart = np.hypot(*(np.roll(joined, -1, axis=0) - joined).T)
    apart = np.where(apart > APART_MM, apart, 0.0)
    doubts = np.maximum(np.concatenate([wall[near], doubts[far]])[order], np.maximum(apart, np.roll(apart, 1)))
    parts = [p for p in shapely.get_parts(shapely.make_valid(shapely.Polygon(joined))) if p.geom_type == "Polygon"]
    whole = shapely.geometry.polygon.orient(max(parts, key=lambda p: p.area), np.sign(signed_area(own)))
    ring = np.asarray(whole.exterior.coords)[:-1]
    return ring, along_with(ring, joined, doubts)


def _off(points: Array, ring: Array) -> Array:
    """How far each point (n, 2) lies from the nearest of a dense ring's (m, 2), mm (n,)."""
    return np.asarray(scipy.spatial.cKDTree(ring).query(points)[0])

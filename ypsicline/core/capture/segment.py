"""Telling pieces from the table as a person does: one look at all of it, then closer ones at what stands out.

Each look is the network's (`piece_net`) on the photo laid flat: first all of the table that is seen,
on few pixels, then every likely place alone, more finely and knowing what the look before said.
What it says of a place is put right by how piece and table look in this picture (`appearance`), and
it looks once more, knowing that. What a maker pointed at (`Taps`) is known in every look. The edge is
measured afterwards, in the photo.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.appearance import FINE, WIDE, Manner, shares_by_appearance
from ypsicline.core.capture.continuation import with_continuation
from ypsicline.core.capture.drawn_shapes import DrawnShape
from ypsicline.core.capture.gleam import gleam_of, with_gleam
from ypsicline.core.capture.looks import (
    LIKELY,
    PIECE,
    WAYS,
    Flat,
    Look,
    Taps,
    look_at,
    resampled,
    tidy,
    together,
    unlikely,
)
from ypsicline.core.capture.other_readings import other_readings
from ypsicline.core.capture.pieces import MAIN_SHARE, SMALLEST_PIECE_MM2, CoarsePiece, Mask, Reading, paint, pieces_of
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.capture.table_repeat import like_repeat, off_the_repeat
from ypsicline.core.capture.things import without_things_at_rim
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["agrees", "find_pieces", "read_also_as"]

# the lower left and upper right corner, mm
Box = tuple[Array, Array]

FIRST_PX, CLOSER_PX, CLOSEST_PX = 160, 160, 448
# px of the look before within which the closest look is believed
RIM_REACH = 8.0
FINEST_MM_PER_PX = 0.5
SHADOW = 0.5
MOST_SHADOWS = 6
CLOSER_MARGIN, CLOSEST_MARGIN = 0.3, 0.12
WAYS_CLOSEST = 3
# how much of the table round about tells what the table looks like, on how many px; and beside which the piece is told apart
WIDE_MARGIN, WIDE_PX, FINE_MARGIN = 0.9, 450, 0.35
# so near a sheet its own rim may be seen
BESIDE_SHEETS_MM = 4.0
# how sure the largest piece has to be, and others beside it
LEAST_SURE, OTHERS_SURE = 0.7, 0.965
# where the photo shows so many times as much, nothing may be sure: then the sheets' surroundings are looked at alone, so
# many times as far round them as they lie apart, and so many mm
FAR_BEYOND, ABOUT_SPANS, ABOUT_MM = 1.6, 0.9, 300.0
MOST_PLACES = 8
TAP_REACH_MM = 12.0


def find_pieces(
    flat: Flat, whole: Window, papers: Sequence[Array], taps: Taps | None = None
) -> tuple[CoarsePiece, ...]:
    """The pieces on the table, largest first, none much smaller than the largest.

    `flat` lays the photo flat over a window; `papers` are the sheets' corners (4, 2) as they appear
    there. With taps on the piece only what was pointed at. Raises `Refusal` (reason `low_contrast`)
    where nothing stands out from the table, or nothing where the maker pointed.
    """
    taps = taps or Taps()
    pieces = _pieces_in(whole, flat, whole, papers, taps)
    near = _about_sheets(whole, papers)
    if near is not None and not any(p.sure >= LEAST_SURE for p in pieces):
        # a piece is only a few pixels large where the photo shows the table far off
        pieces += _pieces_in(near, flat, whole, papers, taps)
    pieces = sorted(_distinct(pieces), key=lambda p: -p.area_mm2)
    if len(taps.piece):
        pieces = [p for p in pieces if any(_reaches(p, at) for at in taps.piece)]
        if not pieces:
            raise Refusal(message("nothing_where_pointed"), "low_contrast")
        return tuple(pieces[:1])
    sure = [p for p in pieces if p.sure >= LEAST_SURE][:1] or pieces[:1]
    sure += [p for p in pieces if p is not next(iter(sure), None) and p.sure >= OTHERS_SURE]
    if not sure:
        raise Refusal(message("no_piece_stands_out"), "low_contrast")
    return tuple(p for p in sure if p.area_mm2 >= MAIN_SHARE * sure[0].area_mm2)


def _pieces_in(window: Window, flat: Flat, whole: Window, papers: Sequence[Array], taps: Taps) -> list[CoarsePiece]:
    """The pieces at the places that a look at a window takes for likely."""
    first = look_at(flat, _fitted(window, FIRST_PX), papers, None, taps, ways=len(WAYS))
    pieces: list[CoarsePiece] = []
    alike: list[Look] = []
    for low, high in _likely_places(first):
        closer = look_at(flat, _around(low, high, CLOSER_MARGIN, CLOSER_PX, whole), papers, first, taps, ways=len(WAYS))
        box = _box_of(closer, low, high)
        if box is None:
            continue
        closest = look_at(
            flat, _around(*box, CLOSEST_MARGIN, CLOSEST_PX, whole), papers, closer, taps, ways=WAYS_CLOSEST
        )
        closest = _only_along_the_rim(closest, closer)
        parts = _segmented(flat, whole, papers, taps, (first, closer, closest))
        if parts is None:
            continue
        for piece in pieces_of(tidy(parts.look), parts.look.picture, parts.look.piece):
            mean_share = float(parts.net.piece[piece.mask].mean())
            pieces.append(replace(piece, sure=mean_share, readings=parts.readings, shadows=_shadows(parts.look)))
        if parts.alike is not None:
            alike.append(parts.alike)
    return [p for p in pieces if not any(_is_table(p, a) for a in alike)]


def _is_table(piece: CoarsePiece, alike: Look) -> bool:
    """Whether most of a piece looks like what comes again all over the table."""
    return float(resampled(alike.piece, alike.picture.window, piece.window)[piece.mask].mean()) > PIECE


def _about_sheets(whole: Window, papers: Sequence[Array]) -> Window | None:
    """The part of a window about the sheets, None where that is nearly all of it."""
    if not papers:
        return None
    corners = np.vstack(papers)
    middle, reach = corners.mean(axis=0), ABOUT_SPANS * float(np.ptp(corners, axis=0).max()) + ABOUT_MM
    ends = whole.to_mm(np.array([[0.0, whole.rows - 1], [whole.columns - 1, 0.0]]))
    low, high = np.maximum(middle - reach, ends[0]), np.minimum(middle + reach, ends[1])
    if float((high - low).max()) * FAR_BEYOND > float((ends[1] - ends[0]).max()):
        return None
    return Window.around(low, high, whole.mm_per_px)


@dataclass(frozen=True)
class _Segmentation:
    """A place as the network and the picture's own kinds of places tell it apart, how else it may be read, and what looks
    like the table's repeat (shares of it on the wide window) where it has one."""

    look: Look
    net: Look
    readings: tuple[Reading, ...]
    alike: Look | None = None


def _segmented(
    flat: Flat, whole: Window, papers: Sequence[Array], taps: Taps, looks: Sequence[Look]
) -> _Segmentation | None:
    """What the network made of a place, coarse looks first, put right by how piece and table look in this picture."""
    box = _box_of_parts(looks[-1])
    if box is None:
        return None
    picture = flat(_around(*box, WIDE_MARGIN, WIDE_PX, whole))
    counted = _pixels_counted(picture, papers)
    before = together(looks, picture)
    off_repeat = off_the_repeat(picture.pixels, counted, before.piece)
    wide = _main_parts(_by_appearance(before, papers, WIDE, off_repeat))
    longer = with_continuation(wide, counted)
    if longer is not wide:
        wide = _main_parts(_by_appearance(longer, papers, WIDE, off_repeat))
    wide = with_gleam(wide, gleam_of(wide, counted))
    afar = together(looks[:-1], picture)
    box = _box_of_parts(wide)
    if box is None:
        return None
    bare = without_things_at_rim(wide, taps)
    closest = look_at(flat, _around(*box, FINE_MARGIN, CLOSEST_PX, whole), papers, bare, taps, ways=WAYS_CLOSEST)
    off_closest = None if off_repeat is None else resampled(off_repeat, picture.window, closest.picture.window)
    fine = _by_appearance(closest, papers, FINE, off_closest)
    counted_closest = _pixels_counted(closest.picture, papers)
    fine = with_continuation(fine, counted_closest)
    gleam = gleam_of(fine, counted_closest)
    with_things = with_gleam(fine, gleam)
    fine = without_things_at_rim(with_things, taps)
    readings: tuple[Reading, ...] = ()
    if fine is not with_things:
        readings = (Reading(tidy(with_things), fine.picture.window.mm_per_px, against_colours=True),)
    alike = table = None
    if off_repeat is not None:
        alike = replace(wide, piece=like_repeat(off_repeat, counted, wide.piece > PIECE).astype(np.float32))
        table = resampled(alike.piece, picture.window, closest.picture.window) > PIECE
    readings = (*readings, *other_readings(fine, closest, wide, afar, gleam, table))
    return _Segmentation(fine, closest, readings, alike)


def _by_appearance(look: Look, papers: Sequence[Array], manner: Manner, off_repeat: NDArray[np.float32] | None) -> Look:
    """A look put right by the picture's own kinds of places."""
    counted = _pixels_counted(look.picture, papers)
    return replace(look, piece=shares_by_appearance(look.picture.pixels, counted, look.piece, manner, off_repeat))


def _pixels_counted(picture: FlatPicture, papers: Sequence[Array]) -> Mask:
    """Which pixels show the table or what lies on it, and no sheet."""
    return np.asarray(picture.in_view & ~paint(papers, picture.window, grow_mm=BESIDE_SHEETS_MM))


def _main_parts(look: Look) -> Look:
    """A look without parts that are small beside its largest: these are hardly pieces."""
    likely = (look.piece > PIECE).astype(np.uint8)
    count, labels = cv2.connectedComponents(likely, connectivity=4)
    weights = np.bincount(labels.ravel(), (look.piece * likely).ravel(), count)
    main = (weights >= MAIN_SHARE * weights.max())[labels] & (likely > 0)
    return unlikely(look, ~main)


def _box_of_parts(look: Look) -> Box | None:
    left, top, wide, high = cv2.boundingRect((look.piece > PIECE).astype(np.uint8))
    return _corners(look.picture.window, left, top, wide, high) if wide else None


def _fitted(window: Window, side_px: int) -> Window:
    """The same part of the table on at most `side_px` pixels a side."""
    mm = max(window.columns, window.rows) * window.mm_per_px / side_px
    low, high = window.to_mm(np.array([[0.0, window.rows - 1], [window.columns - 1, 0.0]]))
    return Window.around(low, high - mm, mm)


def _around(low: Array, high: Array, margin: float, side_px: int, whole: Window) -> Window:
    """A window round a box, no larger than the whole."""
    grow = margin * float((high - low).max())
    ends = whole.to_mm(np.array([[0.0, whole.rows - 1], [whole.columns - 1, 0.0]]))
    low, high = np.maximum(low - grow, ends[0]), np.minimum(high + grow, ends[1])
    return Window.around(low, high, max(FINEST_MM_PER_PX, float((high - low).max()) / side_px))


def _only_along_the_rim(closest: Look, closer: Look) -> Look:
    """The closest look where the one before saw a rim not far off; elsewhere that one, which saw more round about."""
    before = resampled(closer.piece, closer.picture.window, closest.picture.window)
    unsure = ((before > LIKELY) & (before < 1 - LIKELY)).astype(np.uint8)
    inside = (before > PIECE).astype(np.uint8)
    kernel = np.ones((3, 3), np.uint8)
    rim = cv2.morphologyEx(inside, cv2.MORPH_GRADIENT, kernel) | unsure
    reach = RIM_REACH * closer.picture.window.mm_per_px / closest.picture.window.mm_per_px
    near = cv2.distanceTransform(1 - rim, cv2.DIST_L2, 5) < reach
    each = tuple(np.where(near, one, before) for one in closest.each)
    return replace(closest, piece=np.where(near, closest.piece, before), each=each)


def _likely_places(look: Look) -> list[Box]:
    """Boxes (low, high), mm, of what may be a piece, the likeliest first; parts that almost touch are one place."""
    likely = (look.piece > LIKELY).astype(np.uint8)
    mask = cv2.morphologyEx(likely, cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(mask, connectivity=8)
    window, weights = look.picture.window, np.bincount(labels.ravel(), look.piece.ravel() * mask.ravel(), count)
    weights[0] = 0
    places = []
    for k in np.argsort(-weights)[:MOST_PLACES]:
        if weights[k] * window.mm_per_px**2 < max(
            SMALLEST_PIECE_MM2, 0.5 * MAIN_SHARE * weights.max() * window.mm_per_px**2
        ):
            continue
        left, top, wide, high = (float(v) for v in stats[k, :4])
        places.append(_corners(window, left, top, wide, high))
    return places


def _corners(window: Window, left: float, top: float, wide: float, high: float) -> Box:
    ends = window.to_mm(np.array([[left - 1, top + high], [left + wide, top - 1]]))
    return ends[0], ends[1]


def _box_of(look: Look, low: Array, high: Array) -> Box | None:
    """The box of what a closer look takes for piece and that reaches into the box (low, high)."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats((look.piece > LIKELY).astype(np.uint8), connectivity=8)
    window = look.picture.window
    ends = np.clip(np.rint(window.to_px(np.array([low, high]))), 0, [window.columns - 1, window.rows - 1]).astype(int)
    inside = labels[ends[1, 1] : ends[0, 1] + 1, ends[0, 0] : ends[1, 0] + 1]
    own = [k for k in np.unique(inside) if k and stats[k, cv2.CC_STAT_AREA] * window.mm_per_px**2 >= SMALLEST_PIECE_MM2]
    if not own:
        return None
    left, top = stats[own, 0].min(), stats[own, 1].min()
    right, bottom = (stats[own, 0] + stats[own, 2]).max(), (stats[own, 1] + stats[own, 3]).max()
    return _corners(window, left, top, right - left, bottom - top)


def _shadows(look: Look) -> tuple[Array, ...]:
    """Rings, mm, round what a look took for shadow and not for piece."""
    dark = ((look.shadow > SHADOW) & (look.piece < PIECE)).astype(np.uint8)
    dark = cv2.morphologyEx(dark, cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    rings, _ = cv2.findContours(dark, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_TC89_KCOS)
    window = look.picture.window
    large = [r for r in rings if cv2.contourArea(r) * window.mm_per_px**2 >= SMALLEST_PIECE_MM2]
    return tuple(
        window.to_mm(r.reshape(-1, 2).astype(float)) for r in sorted(large, key=cv2.contourArea)[-MOST_SHADOWS:]
    )


def _distinct(pieces: Sequence[CoarsePiece]) -> list[CoarsePiece]:
    """Each piece once, as the place saw it that is surest of it."""
    once: list[CoarsePiece] = []
    for piece in sorted(pieces, key=lambda p: -p.sure):
        if not any(_same(piece, other) for other in once):
            once.append(piece)
    return once


def _same(piece: CoarsePiece, other: CoarsePiece) -> bool:
    """Whether two places led to the same piece."""
    inside = np.column_stack(np.nonzero(piece.mask)[::-1])[::7].astype(float)
    at = np.rint(other.window.to_px(piece.window.to_mm(inside))).astype(int)
    within = ((at >= 0) & (at < [other.window.columns, other.window.rows])).all(axis=1)
    return float(other.mask[at[within, 1], at[within, 0]].sum()) > 0.5 * len(inside)


def agrees(piece: CoarsePiece | DrawnShape, taps: Taps) -> bool:
    """Whether all places pointed at as piece lie on it, or just beside, and none pointed at as table."""
    return all(_reaches(piece, at) for at in taps.piece) and not any(_reaches(piece, at) for at in taps.table)


def read_also_as(piece: CoarsePiece, others: Sequence[CoarsePiece]) -> CoarsePiece:
    """A piece that may be read as any of `others` too."""
    masks = [resampled(p.mask.astype(np.float32), p.window, piece.window) > PIECE for p in others]
    readings = [Reading(m, p.window.mm_per_px) for m, p in zip(masks, others, strict=True)]
    return replace(piece, readings=(*piece.readings, *readings))


def _reaches(piece: CoarsePiece | DrawnShape, at: Array) -> bool:
    """Whether a place lies on a piece or just beside it."""
    window = piece.window
    away = cv2.distanceTransform((~piece.mask).astype(np.uint8), cv2.DIST_L2, 3) * window.mm_per_px
    column, row = np.rint(window.to_px(np.asarray(at)[None])[0]).astype(int)
    inside = 0 <= column < window.columns and 0 <= row < window.rows
    return inside and bool(away[row, column] <= TAP_REACH_MM)

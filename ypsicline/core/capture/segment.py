"""Telling pieces from the table as a person does: one look at all of it, then closer ones at what stands out.

Each look is the network's (`piece_net`) on the photo laid flat: first all of the table that is seen,
on few pixels, then every likely place alone, more finely and knowing what the look before said.
What it says of a place is put right by how piece and table look in this picture (`appearance`), and
it looks once more, knowing that. What a maker pointed at (`Taps`) is known in every look. The edge is
measured afterwards, in the photo.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import cv2
import numpy as np

from ypsicline.core.capture import piece_net
from ypsicline.core.capture.appearance import FINE, WIDE, Manner, odds_by_colour, shares_by_appearance
from ypsicline.core.capture.pieces import SMALLEST_PIECE_MM2, CoarsePiece, Mask, Reading, Share, paint, pieces_of
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Array
from ypsicline.core.messages import message

__all__ = ["Flat", "Taps", "agrees", "find_pieces"]

Flat = Callable[[Window], FlatPicture]

FIRST_PX, CLOSER_PX, CLOSEST_PX = 160, 160, 448
# px of the look before within which the closest look is believed
RIM_REACH = 8.0
FINEST_MM_PER_PX = 0.5
LIKELY, PIECE, SHADOW = 0.35, 0.5, 0.5
MOST_SHADOWS = 6
# shares at which a place may be called piece by somebody bolder, or warier
BOLDER = (0.2, 0.8)
CLOSER_MARGIN, CLOSEST_MARGIN = 0.3, 0.12
# how much of the table round about tells what the table looks like, on how many px; and beside which the piece is told apart
WIDE_MARGIN, WIDE_PX, FINE_MARGIN = 0.9, 450, 0.35
# a part as large as this share of the largest may be a piece; what isn't is no likelier than this
MAIN_SHARE, UNLIKELY = 0.06, 0.3
# parts are close together within this share of what they extend over
GAP_SHARE = 0.06
# odds beyond which a place in the piece looks like the table, and how many such places make a pattern
ALIKE, LEAST_ALIKE = 1.0, 3
# so near a sheet its own rim may be seen
BESIDE_SHEETS_MM = 4.0
# how sure the largest piece has to be, and others beside it
LEAST_SURE, OTHERS_SURE = 0.7, 0.965
SMALLEST_SHARE = 0.06
MOST_PLACES = 8
TAP_REACH_MM = 12.0


@dataclass(frozen=True)
class Taps:
    """Places (n, 2) on the table, mm, that a maker pointed at: on the piece, and on what isn't it."""

    piece: Array = field(default_factory=lambda: np.zeros((0, 2)))
    table: Array = field(default_factory=lambda: np.zeros((0, 2)))


@dataclass(frozen=True)
class _Way:
    """A way to show the network a picture: mirrored, its colours exchanged, or as a negative."""

    mirrored: bool = False
    channels: tuple[int, int, int] = (0, 1, 2)
    sign: int = 1


WAYS = (
    _Way(),
    _Way(sign=-1, mirrored=True),
    _Way(channels=(2, 0, 1)),
    _Way(channels=(1, 2, 0), sign=-1),
    _Way(channels=(2, 1, 0), mirrored=True),
    _Way(channels=(0, 2, 1), sign=-1, mirrored=True),
    _Way(channels=(1, 0, 2)),
    _Way(channels=(2, 0, 1), sign=-1, mirrored=True),
    _Way(mirrored=True),
    _Way(sign=-1),
)
WAYS_CLOSEST = 3


@dataclass(frozen=True)
class _Look:
    """What the network said of a picture: shares of piece and shadow (rows, columns), the mean of what it said of it shown
    in several ways (`each`)."""

    picture: FlatPicture
    piece: Share
    shadow: Share
    each: tuple[Share, ...]


def find_pieces(
    flat: Flat, whole: Window, papers: Sequence[Array], taps: Taps | None = None
) -> tuple[CoarsePiece, ...]:
    """The pieces on the table, largest first, none much smaller than the largest.

    `flat` lays the photo flat over a window; `papers` are the sheets' corners (4, 2) as they appear
    there. With taps on the piece only what was pointed at. Raises `Refused` (reason `low_contrast`)
    where nothing stands out from the table, or nothing where the maker pointed.
    """
    taps = taps or Taps()
    first = _look(flat, _fitted(whole, FIRST_PX), papers, None, taps, ways=len(WAYS))
    pieces: list[CoarsePiece] = []
    for low, high in _likely_places(first):
        closer = _look(flat, _around(low, high, CLOSER_MARGIN, CLOSER_PX, whole), papers, first, taps, ways=len(WAYS))
        box = _box_of(closer, low, high)
        if box is None:
            continue
        closest = _look(flat, _around(*box, CLOSEST_MARGIN, CLOSEST_PX, whole), papers, closer, taps, ways=WAYS_CLOSEST)
        closest = _only_along_the_rim(closest, closer)
        parts = _segmented(flat, whole, papers, taps, (first, closer, closest))
        if parts is None:
            continue
        for piece in pieces_of(_tidy(parts.look), parts.look.picture, parts.look.piece):
            mean_share = float(parts.net.piece[piece.mask].mean())
            pieces.append(replace(piece, sure=mean_share, readings=parts.readings, shadows=_shadows(parts.look)))
    pieces = sorted(_distinct(pieces), key=lambda p: -p.area_mm2)
    if len(taps.piece):
        pieces = [p for p in pieces if any(_reaches(p, at) for at in taps.piece)]
        if not pieces:
            raise Refused(message("nothing_where_pointed"), "low_contrast")
        return tuple(pieces[:1])
    sure = [p for p in pieces if p.sure >= LEAST_SURE][:1] or pieces[:1]
    sure += [p for p in pieces if p is not next(iter(sure), None) and p.sure >= OTHERS_SURE]
    if not sure:
        raise Refused(message("no_piece_stands_out"), "low_contrast")
    return tuple(p for p in sure if p.area_mm2 >= SMALLEST_SHARE * sure[0].area_mm2)


@dataclass(frozen=True)
class _Segmentation:
    """A place as the network and the picture's own kinds of places tell it apart, and how else it may be read."""

    look: _Look
    net: _Look
    readings: tuple[Reading, ...]


def _segmented(
    flat: Flat, whole: Window, papers: Sequence[Array], taps: Taps, looks: Sequence[_Look]
) -> _Segmentation | None:
    """What the network made of a place, coarse looks first, put right by how piece and table look in this picture."""
    box = _box_of_parts(looks[-1])
    if box is None:
        return None
    picture = flat(_around(*box, WIDE_MARGIN, WIDE_PX, whole))
    wide = _main_parts(_by_appearance(_together(looks, picture), papers, WIDE))
    afar = _together(looks[:-1], picture)
    box = _box_of_parts(wide)
    if box is None:
        return None
    closest = _look(flat, _around(*box, FINE_MARGIN, CLOSEST_PX, whole), papers, wide, taps, ways=WAYS_CLOSEST)
    fine = _by_appearance(closest, papers, FINE)
    return _Segmentation(fine, closest, (*_readings(fine, closest, wide), *_without_bites(fine), *_in_one(fine, afar)))


def _together(looks: Sequence[_Look], picture: FlatPicture) -> _Look:
    """What looks, coarse ones first, say of a picture; each counts where the later ones don't reach."""
    share = np.zeros(picture.seen.shape, dtype=np.float32)
    for look in looks:
        share = np.where(_reached(look, picture.window), _resampled(look, picture.window), share)
    return _Look(picture, share, np.zeros_like(share), (share,))


def _by_appearance(look: _Look, papers: Sequence[Array], manner: Manner) -> _Look:
    """A look put right by the picture's own kinds of places."""
    picture = look.picture
    counted = picture.seen & ~paint(papers, picture.window, grow_mm=BESIDE_SHEETS_MM)
    return replace(look, piece=shares_by_appearance(picture.pixels, counted, look.piece, manner))


def _main_parts(look: _Look) -> _Look:
    """A look without parts that are small beside its largest: these are hardly pieces."""
    likely = (look.piece > PIECE).astype(np.uint8)
    count, labels = cv2.connectedComponents(likely, connectivity=4)
    weights = np.bincount(labels.ravel(), (look.piece * likely).ravel(), count)
    main = (weights >= MAIN_SHARE * weights.max())[labels] & (likely > 0)
    return replace(look, piece=np.where(main, look.piece, np.minimum(look.piece, UNLIKELY)))


def _box_of_parts(look: _Look) -> tuple[Array, Array] | None:
    rows, columns = np.nonzero(look.piece > PIECE)
    if not len(rows):
        return None
    left, top = float(columns.min()), float(rows.min())
    return _corners(look.picture.window, left, top, float(columns.max()) + 1 - left, float(rows.max()) + 1 - top)


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


def _look(flat: Flat, window: Window, papers: Sequence[Array], before: _Look | None, taps: Taps, *, ways: int) -> _Look:
    picture = flat(window)
    prior = None if before is None else 2 * _resampled(before, window) - 1
    told = piece_net.as_input(picture.pixels, paint(papers, window), picture.seen, prior, _tap_marks(window, taps))
    rows, columns = picture.seen.shape
    more = [-n % piece_net.STRIDE for n in (rows, columns)]
    told = np.pad(told, ((0, 0), (0, more[0]), (0, more[1])))
    shown = np.stack([_as(told, way) for way in WAYS[:ways]])
    answers = piece_net.run(shown)
    pieces, shadows = (
        [
            (one[:, ::-1] if way.mirrored else one)[:rows, :columns] * picture.seen
            for way, one in zip(WAYS, said, strict=False)
        ]
        for said in answers
    )
    return _Look(picture, np.mean(pieces, axis=0), np.mean(shadows, axis=0), tuple(pieces))


def _as(told: Share, way: _Way) -> Share:
    """The network's input shown otherwise: what is piece doesn't depend on it."""
    shown = told.copy()
    shown[:3] = way.sign * told[list(way.channels)]
    return shown[:, :, ::-1] if way.mirrored else shown


def _only_along_the_rim(closest: _Look, closer: _Look) -> _Look:
    """The closest look where the one before saw a rim not far off; elsewhere that one, which saw more round about."""
    before = _resampled(closer, closest.picture.window)
    unsure = ((before > LIKELY) & (before < 1 - LIKELY)).astype(np.uint8)
    inside = (before > PIECE).astype(np.uint8)
    kernel = np.ones((3, 3), np.uint8)
    rim = cv2.morphologyEx(inside, cv2.MORPH_GRADIENT, kernel) | unsure
    reach = RIM_REACH * closer.picture.window.mm_per_px / closest.picture.window.mm_per_px
    near = cv2.distanceTransform(1 - rim, cv2.DIST_L2, 5) < reach
    each = tuple(np.where(near, one, before) for one in closest.each)
    return replace(closest, piece=np.where(near, closest.piece, before), each=each)


def _tap_marks(window: Window, taps: Taps) -> Share | None:
    if not len(taps.piece) and not len(taps.table):
        return None
    marks = np.zeros((window.rows, window.columns), dtype=np.float32)
    for places, sign in ((taps.piece, 1), (taps.table, -1)):
        for column, row in window.to_px(np.asarray(places, dtype=float).reshape(-1, 2)):
            marks += sign * piece_net.tap_mark(marks.shape, column, row)
    return marks


def _resampled(look: _Look, window: Window) -> Share:
    """A look's share of piece over another window; table beyond its own."""
    source = look.picture.window
    ratio = window.mm_per_px / source.mm_per_px
    x, y = source.to_px(np.array([[window.left, window.top]]))[0]
    matrix = np.array([[ratio, 0, x], [0, ratio, y]], dtype=np.float32)
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return np.asarray(cv2.warpAffine(look.piece, matrix, (window.columns, window.rows), flags=how))


def _reached(look: _Look, window: Window) -> Mask:
    """Where a look's own window lies in another."""
    source = look.picture.window
    ends = np.rint(window.to_px(source.to_mm(np.array([[0.0, 0.0], [source.columns - 1, source.rows - 1]])))).astype(
        int
    )
    inside = np.zeros((window.rows, window.columns), dtype=bool)
    (left, top), (right, bottom) = np.maximum(ends, 0)
    inside[top : bottom + 1, left : right + 1] = True
    return inside


def _likely_places(look: _Look) -> list[tuple[Array, Array]]:
    """Boxes (low, high), mm, of what may be a piece, the likeliest first; parts that almost touch are one place."""
    likely = (look.piece > LIKELY).astype(np.uint8)
    joined = cv2.morphologyEx(likely, cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8))
    count, labels, stats, _ = cv2.connectedComponentsWithStats(joined, connectivity=8)
    window, weights = look.picture.window, np.bincount(labels.ravel(), look.piece.ravel() * joined.ravel(), count)
    weights[0] = 0
    places = []
    for k in np.argsort(-weights)[:MOST_PLACES]:
        if weights[k] * window.mm_per_px**2 < max(
            SMALLEST_PIECE_MM2, 0.5 * SMALLEST_SHARE * weights.max() * window.mm_per_px**2
        ):
            continue
        left, top, wide, high = (float(v) for v in stats[k, :4])
        places.append(_corners(window, left, top, wide, high))
    return places


def _corners(window: Window, left: float, top: float, wide: float, high: float) -> tuple[Array, Array]:
    ends = window.to_mm(np.array([[left - 1, top + high], [left + wide, top - 1]]))
    return ends[0], ends[1]


def _box_of(look: _Look, low: Array, high: Array) -> tuple[Array, Array] | None:
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


def _tidy(look: _Look) -> Mask:
    """What is more likely piece than not, without hairs."""
    mask = (look.piece > PIECE).astype(np.uint8)
    return cv2.morphologyEx(mask, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))) > 0


def _readings(fine: _Look, net: _Look, wide: _Look) -> tuple[Reading, ...]:
    """How else the same place may be read: more and less boldly, by the network alone, shown in several ways, and from
    farther off."""
    window = fine.picture.window
    own = [fine.piece > level for level in BOLDER] + [one > PIECE for one in net.each]
    before = _resampled(wide, window) > PIECE
    return (*(Reading(m, window.mm_per_px) for m in own), Reading(before, wide.picture.window.mm_per_px))


def _without_bites(fine: _Look) -> tuple[Reading, ...]:
    """The piece as it would be if bites out of its rim were what places in its midst are that look like the table: its own
    print or dots. None where there are no such places."""
    piece = fine.piece > PIECE
    odds = odds_by_colour(fine.picture.pixels.astype(np.float32), fine.piece)
    filled = cv2.morphologyEx(piece.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    alike = cv2.morphologyEx(((odds < -ALIKE) & piece).astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    count, labels = cv2.connectedComponents(alike, connectivity=4)
    inside = cv2.distanceTransform(filled, cv2.DIST_L2, 5)
    deep = cv2.distanceTransform(alike, cv2.DIST_L2, 5)
    radii = []
    for k in range(1, count):
        own = labels == k
        if inside[own].min() > 2:
            radii.append(float(deep[own].max()))
    if len(radii) < LEAST_ALIKE:
        return ()
    size = 2 * int(np.ceil(1.5 * np.percentile(radii, 90))) + 3
    closed = cv2.morphologyEx(filled, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    return (Reading(closed > 0, fine.picture.window.mm_per_px / 2, against_colours=True),)


def _in_one(fine: _Look, afar: _Look) -> tuple[Reading, ...]:
    """Parts that lie close together as the one piece that they may be from afar: stripes of the table's colour part them."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(_tidy(fine).astype(np.uint8), connectivity=4)
    areas = stats[1:, cv2.CC_STAT_AREA]
    main = 1 + np.flatnonzero(areas >= MAIN_SHARE * areas.max(initial=0))
    if len(main) < 2:
        return ()
    parts = np.isin(labels, main).astype(np.uint8)
    reach = 2 * round(GAP_SHARE * max(np.ptp(np.nonzero(parts), axis=1))) + 1
    closed = cv2.morphologyEx(parts, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach)))
    window = fine.picture.window
    between = (closed > 0) & (parts == 0)
    if not between.any() or float(_resampled(afar, window)[between].mean()) < LIKELY:
        return ()
    return (Reading(closed > 0, window.mm_per_px, against_colours=True),)


def _shadows(look: _Look) -> tuple[Array, ...]:
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


def agrees(piece: CoarsePiece, taps: Taps) -> bool:
    """Whether all places pointed at as piece lie on it, or just beside, and none pointed at as table."""
    return all(_reaches(piece, at) for at in taps.piece) and not any(_reaches(piece, at) for at in taps.table)


def _reaches(piece: CoarsePiece, at: Array) -> bool:
    """Whether a place lies on a piece or just beside it."""
    window = piece.window
    away = cv2.distanceTransform((~piece.mask).astype(np.uint8), cv2.DIST_L2, 3) * window.mm_per_px
    column, row = np.rint(window.to_px(np.asarray(at)[None])[0]).astype(int)
    inside = 0 <= column < window.columns and 0 <= row < window.rows
    return inside and bool(away[row, column] <= TAP_REACH_MM)

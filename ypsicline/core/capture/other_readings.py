"""How else a place may be read: what an outline is held against before it is believed."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.appearance import odds_by_colour
from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.looks import LIKELY, PIECE, Look, changes_of, light_of, resampled, tidy
from ypsicline.core.capture.pieces import MAIN_SHARE, Mask, Reading, Share

__all__ = ["other_readings"]

# shares at which a place may be called piece by somebody bolder, or warier
BOLDER = (0.2, 0.8)
# parts are close together within these shares of what they extend over; the least that joins them counts
GAP_SHARES = (0.06, 0.1, 0.15)
# odds beyond which a place in the piece looks like the table, and how many such places make a pattern
ALIKE, LEAST_ALIKE = 1.0, 3
# how sure of being table a place is that shows the table's colour, how much that colour may vary, and a lit place from it
TABLE, PLAIN, SAME_COLOUR = 0.1, 0.05, 0.1
# a lit place: so many times as bright as the table, as wide as this share of the piece, and how much of the piece it may be
LIT, LIT_WIDTH, LEAST_LIT, MOST_LIT = (0.5, 5.0), 0.07, 0.03, 0.6
# where it ends in the piece something is seen to end: light changes there so many times as much as within it
LIT_ENDS = 2.0
# things that lie at a rim are no wider, nor smaller; theirs is another colour from so much on, which less than this share of the
# piece has
WIDEST_THING_MM, LEAST_THING_MM2, LEAST_OTHER, NOWHERE = 70.0, 150.0, 15.0, 0.005
# glare: light beyond this share of what the camera tells, on so much of the piece; it reaches so many times as far as that, and
# within so many px at the rim there light changes by less than this share of what it falls off by in all
DAZZLING, LEAST_GLARE, MOST_GLARE, GLARE_REACH, SOFT_PX, SOFT = 0.85, 0.002, 0.3, 2.0, 5, 0.5
# things beside a piece are narrower than this share of it
NARROW = 0.3


def other_readings(
    fine: Look, net: Look, wide: Look, afar: Look, gleam: Mask, table: Mask | None = None
) -> tuple[Reading, ...]:
    """How else a place may be read than `fine` reads it.

    `net` is what the network alone says of it, `wide` a look at its surroundings too, `afar` what was thought before
    any close look. `gleam` (rows, columns) is piece in every reading. `table` (rows, columns) is what looks like the table's own
    repeat, where it has one: no reading reaches over it, but for what the piece has of other colours than the table.
    """
    odds = odds_by_colour(fine.picture.pixels.astype(np.float32), fine.piece)
    others = (
        *_by_others(fine, net, wide),
        *_without_bites(fine, odds),
        *_without_things_at_rim(fine),
        *_in_one(fine, afar),
        *_without_lit_table(fine),
        *_without_glare(fine),
    )
    readings = tuple(replace(r, mask=r.mask | gleam) for r in others)
    if table is None:
        return readings
    piece_or_unlike = ~table | ((fine.piece > PIECE) & (odds > 0))
    return tuple(replace(r, mask=r.mask & piece_or_unlike) for r in readings)


def _by_others(fine: Look, net: Look, wide: Look) -> tuple[Reading, ...]:
    """More and less boldly, by the network alone, shown in several ways, and from farther off."""
    window = fine.picture.window
    own = [fine.piece > level for level in BOLDER] + [one > PIECE for one in net.each]
    before = resampled(wide.piece, wide.picture.window, window) > PIECE
    return (*(Reading(m, window.mm_per_px) for m in own), Reading(before, wide.picture.window.mm_per_px))


def _without_bites(fine: Look, odds: Share) -> tuple[Reading, ...]:
    """The piece as it would be if bites out of its rim were what places in its midst are that look like the table: its own
    print or dots. None where there are no such places."""
    piece = fine.piece > PIECE
    body = cv2.morphologyEx(piece.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    alike = cv2.morphologyEx(((odds < -ALIKE) & piece).astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    count, labels = cv2.connectedComponents(alike, connectivity=4)
    inside = cv2.distanceTransform(body, cv2.DIST_L2, 5)
    deep = cv2.distanceTransform(alike, cv2.DIST_L2, 5)
    radii = []
    for k in range(1, count):
        own = labels == k
        if inside[own].min() > 2:
            radii.append(float(deep[own].max()))
    if len(radii) < LEAST_ALIKE:
        return ()
    size = 2 * int(np.ceil(1.5 * np.percentile(radii, 90))) + 3
    whole = cv2.morphologyEx(body, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    return (Reading(whole > 0, fine.picture.window.mm_per_px / 2, against_colours=True),)


def _without_things_at_rim(fine: Look) -> tuple[Reading, ...]:
    """The piece without narrow parts at its rim of a colour that all the rest of it has nowhere: a pencil or a tape that lies
    there. None where there are no such parts."""
    mm_per_px = fine.picture.window.mm_per_px
    piece = tidy(fine).astype(np.uint8)
    size = 2 * round(WIDEST_THING_MM / 2 / mm_per_px) + 1
    body = cv2.morphologyEx(piece, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))) > 0
    if not body.any():
        return ()
    count, labels, stats, _ = cv2.connectedComponentsWithStats(((piece > 0) & ~body).astype(np.uint8), connectivity=4)
    # at the very rim colours are mixed with the table's
    within = cv2.erode(piece, np.ones((3, 3), np.uint8)) > 0
    lab = _lab(fine)
    things = [
        k
        for k in range(1, count)
        if stats[k, cv2.CC_STAT_AREA] * mm_per_px**2 >= LEAST_THING_MM2
        and _has_other_colour(lab, within & (labels == k), within & body)
    ]
    if not things:
        return ()
    return (Reading((piece > 0) & ~np.isin(labels, things), mm_per_px, against_colours=True),)


def _lab(look: Look) -> NDArray[np.float32]:
    return np.asarray(cv2.cvtColor(look.picture.pixels.astype(np.float32) / 255, cv2.COLOR_RGB2LAB))


def _has_other_colour(lab: NDArray[np.float32], part: Mask, piece: Mask) -> bool:
    """Whether the usual colour of a part, of a picture in `lab` (rows, columns, 3), is hardly anywhere in a piece."""
    if not part.any():
        return False
    off = np.linalg.norm(lab[piece] - np.median(lab[part], axis=0), axis=1)
    return float(np.mean(off < LEAST_OTHER)) < NOWHERE


def _in_one(fine: Look, afar: Look) -> tuple[Reading, ...]:
    """Parts that lie close together as the one piece that they may be from afar: stripes of the table's colour part them."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(tidy(fine).astype(np.uint8), connectivity=4)
    areas = stats[1:, cv2.CC_STAT_AREA]
    main = 1 + np.flatnonzero(areas >= MAIN_SHARE * areas.max(initial=0))
    main = main[[not _is_thing_beside(labels == k, labels == main[areas[main - 1].argmax()], fine) for k in main]]
    if len(main) < 2:
        return ()
    parts = np.isin(labels, main).astype(np.uint8)
    window = fine.picture.window
    for share in GAP_SHARES:
        reach = 2 * round(share * max(np.ptp(np.nonzero(parts), axis=1))) + 1
        whole = cv2.morphologyEx(parts, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach)))
        if cv2.connectedComponents(whole, connectivity=4)[0] - 1 < len(main):
            between = (whole > 0) & (parts == 0)
            likely = float(resampled(afar.piece, afar.picture.window, window)[between].mean())
            return (Reading(whole > 0, window.mm_per_px, against_colours=True),) if likely > LIKELY else ()
    return ()


def _is_thing_beside(part: Mask, piece: Mask, fine: Look) -> bool:
    """Whether a part is no part of a piece but a thing beside it, a tape or a pencil: narrow, and of a colour that the piece has
    nowhere."""
    widths = [2 * float(cv2.distanceTransform(m.astype(np.uint8), cv2.DIST_L2, 5).max()) for m in (part, piece)]
    if widths[0] > min(NARROW * widths[1], WIDEST_THING_MM / fine.picture.window.mm_per_px):
        return False
    return _has_other_colour(_lab(fine), part, piece)


def _without_lit_table(fine: Look) -> tuple[Reading, ...]:
    """The piece without wide parts that have just the table's colour, only more or less light: sun through a window falls on
    the table too. None where the table isn't plain, most of the piece is of its colour, or nothing is seen to end there."""
    piece = fine.piece > PIECE
    bare = (fine.piece < TABLE) & fine.picture.in_view
    if not piece.any() or not bare.any():
        return ()
    light = (cv2.GaussianBlur(fine.picture.pixels, (0, 0), 1.5).astype(np.float32) / 255 + 1e-3) ** GAMMA
    bright = light.mean(axis=2)
    colour = np.log(light[..., [0, 2]] / light[..., [1]])
    table = np.median(colour[bare], axis=0)
    off = np.abs(colour - table).max(axis=2)
    if float(np.median(off[bare])) > PLAIN:
        return ()
    times = bright / float(np.median(bright[bare]))
    alike = piece & (off < SAME_COLOUR) & (times > LIT[0]) & (times < LIT[1])
    reach = round(LIT_WIDTH * float(np.sqrt(piece.sum()))) | 1
    lit = cv2.morphologyEx(alike.astype(np.uint8), cv2.MORPH_OPEN, np.ones((reach, reach), np.uint8)) > 0
    if not LEAST_LIT < lit.sum() / piece.sum() < MOST_LIT:
        return ()
    kernel = np.ones((5, 5), np.uint8)
    changes = np.log(cv2.dilate(bright, kernel) / cv2.erode(bright, kernel))
    border = (cv2.dilate(lit.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0) & piece & ~lit
    if float(np.median(changes[border])) < LIT_ENDS * float(np.median(changes[lit])):
        return ()
    return (Reading(piece & ~lit, fine.picture.window.mm_per_px, against_colours=True),)


def _without_glare(fine: Look) -> tuple[Reading, ...]:
    """The piece without what is too bright to have a colour where light falls off softly over its rim: a lamp that a shiny table
    mirrors, as likely as the piece. None where the rim is sharp beside it: then it is the piece that mirrors it."""
    piece = fine.piece > PIECE
    light = light_of(fine.picture.pixels, 1.0)
    lightness = light.mean(axis=2)
    kernel = np.ones((3, 3), np.uint8)
    dazzling = cv2.morphologyEx((piece & (light.min(axis=2) > DAZZLING)).astype(np.uint8), cv2.MORPH_OPEN, kernel)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(dazzling, connectivity=4)
    bare = (fine.piece < TABLE) & fine.picture.in_view
    if count < 2 or not bare.any():
        return ()
    usually = float(np.median(lightness[bare]))
    changes = changes_of(lightness, SOFT_PX)
    rim = piece & (cv2.erode(piece.astype(np.uint8), kernel, borderValue=1) == 0)
    glare = np.zeros_like(piece)
    for k in range(1, count):
        area = float(stats[k, cv2.CC_STAT_AREA])
        if not LEAST_GLARE < area / piece.sum() < MOST_GLARE:
            continue
        off = cv2.distanceTransform((labels != k).astype(np.uint8), cv2.DIST_L2, 5)
        about = off < (GLARE_REACH - 1) * np.sqrt(area / np.pi) + SOFT_PX
        beside = rim & about
        if beside.any() and float(np.median(changes[beside])) < SOFT * (float(np.median(lightness[beside])) - usually):
            glare |= about
    return (Reading(piece & ~glare, fine.picture.window.mm_per_px, against_colours=True),) if glare.any() else ()

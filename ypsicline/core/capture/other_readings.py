"""How else a place may be read: what an outline is held against before it is believed."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import scipy

from ypsicline.core.capture.appearance import odds_by_colour
from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.looks import LIKELY, PIECE, Look, changes_of, lab_of, light_of, resampled, tidy
from ypsicline.core.capture.pieces import MAIN_SHARE, Mask, Reading, Share
from ypsicline.core.capture.things import is_thing_beside

__all__ = ["other_readings"]

# shares at which a place may be called piece by somebody bolder, or warier
BOLDER = (0.2, 0.8)
# parts are close together within these shares of what they extend over; the least that joins them counts
GAP_SHARES = (0.06, 0.1, 0.15)
# odds beyond which a place in the piece looks like the table, and how many such places make a pattern
ALIKE, LEAST_ALIKE = 1.0, 3
# of a plain piece's colours 9 in 10 differ no more from the usual, steps of Lab
PLAIN_SPREAD = 12.0
# how sure of being table a place is that shows the table's colour, how much that colour may vary, and a lit place from it
TABLE, PLAIN, SAME_COLOUR = 0.1, 0.05, 0.1
# a lit place: so many times as bright as the table, as wide as this share of the piece, and how much of the piece it may be
LIT, LIT_WIDTH, LEAST_LIT, MOST_LIT = (0.5, 5.0), 0.07, 0.03, 0.6
# where it ends in the piece something is seen to end: light changes there so many times as much as within it
LIT_ENDS = 2.0
# glare: light beyond this share of what the camera tells, on so much of the piece; it reaches so many times as far as that, and
# within so many px at the rim there light changes by less than this share of what it falls off by in all
DAZZLING, LEAST_GLARE, MOST_GLARE, GLARE_REACH, SOFT_PX, SOFT = 0.85, 0.002, 0.3, 2.0, 5, 0.5


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
    print or dots. Holes in a piece of many colours may be such places too. None where there are no such places."""
    piece = fine.piece > PIECE
    body = cv2.morphologyEx(piece.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    filled = scipy.ndimage.binary_fill_holes(body) if _has_many_colours(fine, body > 0) else body > 0
    alike = cv2.morphologyEx(
        (((odds < -ALIKE) & piece) | (filled & (body == 0))).astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)
    )
    count, labels = cv2.connectedComponents(alike, connectivity=4)
    inside = cv2.distanceTransform(filled.astype(np.uint8), cv2.DIST_L2, 5)
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


def _has_many_colours(look: Look, piece: Mask) -> bool:
    if not piece.any():
        return False
    lab = lab_of(look.picture.pixels)[piece]
    return float(np.percentile(np.linalg.norm(lab - np.median(lab, axis=0), axis=1), 90)) > PLAIN_SPREAD


def _in_one(fine: Look, afar: Look) -> tuple[Reading, ...]:
    """Parts that lie close together as the one piece that they may be from afar: stripes of the table's colour part them."""
    _, labels, stats, _ = cv2.connectedComponentsWithStats(tidy(fine).astype(np.uint8), connectivity=4)
    areas = stats[1:, cv2.CC_STAT_AREA]
    main = 1 + np.flatnonzero(areas >= MAIN_SHARE * areas.max(initial=0))
    main = main[[not is_thing_beside(labels == k, labels == main[areas[main - 1].argmax()], fine) for k in main]]
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

"""Where a shiny piece mirrors the light: its colour is washed out there, and it is the piece all the same.

What a surface of one colour sends back is its own colour in more or less light, and light that it mirrors: all its colours lie
in the plane of its own colour and the light's (Shafer, "Using color to separate reflection components", Color Research &
Application 10(4), 1985). The light's colour is that of the sheets' paper.
"""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.looks import PIECE, Look, changes_of, light_of
from ypsicline.core.capture.pieces import Mask

__all__ = ["gleam_of", "with_gleam"]

# the piece's midst is so many px from its rim, and no less than this; of paper so many px are needed, and the lightest fifth of
# what sheets show is paper
MIDST_PX, LEAST_MIDST, LEAST_PAPER, PAPER_PERCENTILE = 5, 50, 50, 80
# the sine of the angle between a piece's own colour and the light's, from which on they span a plane
LEAST_ANGLE = 0.08
# colours are off the plane by their sine; nearly all of the piece's are within the first, those of a gleam within so many
# times that and the second, and most of the table's, the gleam itself being counted there, are off so many times as far
MOST_OFF, LEAST_OFF, TIMES, TABLES_TIMES, TABLES_PERCENTILE = 0.03, 0.02, 1.5, 3.0, 30
# a gleam is so much lighter than the piece mostly is, so large beside it, and joined to it along so many px
LIGHTER, LEAST_SHARE, MOST_SHARE, LEAST_JOIN_PX = 1.3, 0.003, 0.6, 4
# a gleam fades into the piece: within so many px of where it joins, lightness changes by less than this share of all that it
# changes by; at the edge of a paper that lies there by nearly all
FADES_PX, FADES = 5, 0.5
SURELY = 0.95

Light = NDArray[np.float32]


def with_gleam(look: Look, gleam: Mask) -> Look:
    """A look whose piece has its gleam (rows, columns) too."""
    return replace(look, piece=np.where(gleam, np.maximum(look.piece, SURELY), look.piece).astype(np.float32))


def gleam_of(look: Look, pixels_counted: Mask) -> Mask:
    """The pixels, beside what was read as piece, that show its colour washed out by mirrored light, among `pixels_counted`, those
    that are seen and no sheet."""
    piece = look.piece > PIECE
    light = light_of(look.picture.pixels, 1.0)
    paper = _paper(light[look.picture.in_view & ~pixels_counted])
    midst, table = _eroded(piece & pixels_counted), pixels_counted & ~_grown(piece, MIDST_PX)
    if paper is None or min(midst.sum(), table.sum()) < LEAST_MIDST:
        return np.zeros_like(piece)
    lightness = light.mean(axis=2)
    usually = float(np.median(lightness[midst]))
    washed_out = _in_plane(light, midst, table, paper) & (lightness > LIGHTER * usually) & pixels_counted & ~piece
    changes = changes_of(lightness, FADES_PX)
    gleam, beside = np.zeros_like(piece), _grown(piece, 3)
    count, labels = cv2.connectedComponents(_opened(washed_out), connectivity=4)
    for k in range(1, count):
        part = labels == k
        join = part & beside
        if not LEAST_SHARE < part.sum() / piece.sum() < MOST_SHARE or join.sum() < LEAST_JOIN_PX:
            continue
        if float(np.median(changes[join])) < FADES * (float(np.percentile(lightness[part], 90)) - usually):
            gleam |= part
    return _with_seams(gleam, piece) & pixels_counted


def _in_plane(light: Light, midst: Mask, table: Mask, paper: Light) -> Mask:
    """The pixels whose colour is the piece's own, by its `midst`, and the `paper`'s in some mixture; none where that doesn't tell
    them from the table."""
    own = np.median(light[midst], axis=0)
    normal = np.cross(own, paper)
    if np.linalg.norm(normal) < LEAST_ANGLE * np.linalg.norm(own) * np.linalg.norm(paper):
        return np.zeros_like(midst)
    off = np.abs(light @ (normal / np.linalg.norm(normal))) / np.maximum(np.linalg.norm(light, axis=2), 1e-3)
    usual = float(np.percentile(off[midst], 95))
    most = max(TIMES * usual, LEAST_OFF)
    if usual > MOST_OFF or float(np.percentile(off[table], TABLES_PERCENTILE)) < TABLES_TIMES * most:
        return np.zeros_like(midst)
    return np.asarray(off < most)


def _paper(sheets: Light) -> Light | None:
    """The colour of paper among what sheets show (n, 3), the light's colour; None where hardly any is seen."""
    lightness = sheets.sum(axis=1)
    if len(sheets) < LEAST_PAPER:
        return None
    return np.asarray(np.median(sheets[lightness >= np.percentile(lightness, PAPER_PERCENTILE)], axis=0))


def _with_seams(gleam: Mask, piece: Mask) -> Mask:
    """A gleam with the narrow seam that is left between it and the piece."""
    if not gleam.any():
        return gleam
    whole = cv2.morphologyEx((gleam | piece).astype(np.uint8), cv2.MORPH_CLOSE, np.ones((5, 5), np.uint8)) > 0
    return np.asarray(gleam | (whole & ~piece & _grown(gleam, 7)))


def _opened(mask: Mask) -> NDArray[np.uint8]:
    return cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))


def _eroded(mask: Mask) -> Mask:
    return cv2.erode(mask.astype(np.uint8), np.ones((MIDST_PX, MIDST_PX), np.uint8)) > 0


def _grown(mask: Mask, px: int) -> Mask:
    return cv2.dilate(mask.astype(np.uint8), np.ones((px, px), np.uint8)) > 0

"""One look at a part of the table: what the network says of it, shown in several ways."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture import piece_net
from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.pieces import Mask, Share, paint
from ypsicline.core.capture.rectify import FlatPicture, Window
from ypsicline.core.geometry.edges import Array

__all__ = [
    "LIKELY", "PIECE", "WAYS", "Flat", "Look", "Taps", "changes_of", "lab_of", "light_of", "look_at", "resampled", "tidy",
    "together", "unlikely",
]  # fmt: skip

Flat = Callable[[Window], FlatPicture]
# shares from which on a place may be, and is likelier than not, piece
LIKELY, PIECE = 0.35, 0.5
# and what is no main part, or is taken for a thing that lies there, is no likelier than this
UNLIKELY = 0.3


def light_of(pixels: NDArray[np.uint8], blur_px: float) -> NDArray[np.float32]:
    """The light, 0 to 1, that stored pixels (rows, columns, 3) stand for, blurred."""
    return np.asarray((cv2.GaussianBlur(pixels, (0, 0), blur_px).astype(np.float32) / 255) ** GAMMA)


def lab_of(pixels: NDArray[np.uint8]) -> NDArray[np.float32]:
    """The colours of stored pixels (rows, columns, 3) in CIE Lab: 0 to 100, and about -100 to 100."""
    return np.asarray(cv2.cvtColor(pixels.astype(np.float32) / 255, cv2.COLOR_RGB2LAB))


def changes_of(lightness: NDArray[np.float32], within_px: int) -> NDArray[np.float32]:
    """By how much lightness (rows, columns) changes within a square of so many px about each place."""
    kernel = np.ones((within_px, within_px), np.uint8)
    return np.asarray(cv2.dilate(lightness, kernel) - cv2.erode(lightness, kernel))


@dataclass(frozen=True)
class Taps:
    """Places (n, 2) on the table, mm, that a maker pointed at: on the piece, and on what isn't it."""

    piece: Array = field(default_factory=lambda: np.zeros((0, 2)))
    table: Array = field(default_factory=lambda: np.zeros((0, 2)))


@dataclass(frozen=True)
class _Way:
    """A way to show the network a picture: mirrored, its colours exchanged, or as a negative."""

    is_mirrored: bool = False
    channels: tuple[int, int, int] = (0, 1, 2)
    sign: int = 1


WAYS = (
    _Way(),
    _Way(sign=-1, is_mirrored=True),
    _Way(channels=(2, 0, 1)),
    _Way(channels=(1, 2, 0), sign=-1),
    _Way(channels=(2, 1, 0), is_mirrored=True),
    _Way(channels=(0, 2, 1), sign=-1, is_mirrored=True),
    _Way(channels=(1, 0, 2)),
    _Way(channels=(2, 0, 1), sign=-1, is_mirrored=True),
    _Way(is_mirrored=True),
    _Way(sign=-1),
)


@dataclass(frozen=True)
class Look:
    """What the network said of a picture: shares of piece and shadow (rows, columns), the mean of what it said of it shown
    in several ways (`each`)."""

    picture: FlatPicture
    piece: Share
    shadow: Share
    each: tuple[Share, ...]


def look_at(flat: Flat, window: Window, papers: Sequence[Array], before: Look | None, taps: Taps, *, ways: int) -> Look:
    """What the network says of a window of the photo laid flat, shown to it in so many `ways`, knowing where sheets
    lie, what the look `before` said and what the maker pointed at."""
    picture = flat(window)
    prior = None if before is None else 2 * resampled(before.piece, before.picture.window, window) - 1
    net_input = piece_net.as_input(
        picture.pixels, paint(papers, window), picture.in_view, prior, _tap_marks(window, taps)
    )
    rows, columns = picture.in_view.shape
    more = [-n % piece_net.STRIDE for n in (rows, columns)]
    net_input = np.pad(net_input, ((0, 0), (0, more[0]), (0, more[1])))
    inputs = np.stack([_as(net_input, way) for way in WAYS[:ways]])
    answers = piece_net.run(inputs)
    pieces, shadows = (
        [
            (one[:, ::-1] if way.is_mirrored else one)[:rows, :columns] * picture.in_view
            for way, one in zip(WAYS, shares, strict=False)
        ]
        for shares in answers
    )
    return Look(picture, np.mean(pieces, axis=0), np.mean(shadows, axis=0), tuple(pieces))


def _as(net_input: Share, way: _Way) -> Share:
    """The network's input shown otherwise: what is piece doesn't depend on it."""
    other = net_input.copy()
    other[:3] = way.sign * net_input[list(way.channels)]
    return other[:, :, ::-1] if way.is_mirrored else other


def _tap_marks(window: Window, taps: Taps) -> Share | None:
    if not len(taps.piece) and not len(taps.table):
        return None
    marks = np.zeros((window.rows, window.columns), dtype=np.float32)
    for places, sign in ((taps.piece, 1), (taps.table, -1)):
        for column, row in window.to_px(np.asarray(places, dtype=float).reshape(-1, 2)):
            marks += sign * piece_net.tap_mark(marks.shape, column, row)
    return marks


def resampled(share: Share, source: Window, window: Window) -> Share:
    """Shares on one window over another; 0 beyond its own."""
    ratio = window.mm_per_px / source.mm_per_px
    x, y = source.to_px(np.array([[window.left, window.top]]))[0]
    matrix = np.array([[ratio, 0, x], [0, ratio, y]], dtype=np.float32)
    how = cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP
    return np.asarray(cv2.warpAffine(share, matrix, (window.columns, window.rows), flags=how))


def together(looks: Sequence[Look], picture: FlatPicture) -> Look:
    """What looks, coarse ones first, say of a picture; each counts where the later ones don't reach."""
    share = np.zeros(picture.in_view.shape, dtype=np.float32)
    for look in looks:
        source = look.picture.window
        reached = resampled(np.ones_like(look.piece), source, picture.window) > 0.99
        share = np.where(reached, resampled(look.piece, source, picture.window), share)
    return Look(picture, share, np.zeros_like(share), (share,))


def unlikely(look: Look, where: Mask) -> Look:
    """A look by which hardly anything is piece `where` (rows, columns) says."""
    return replace(look, piece=np.where(where, np.minimum(look.piece, UNLIKELY), look.piece))


def tidy(look: Look) -> Mask:
    """What is more likely piece than not, without hairs."""
    mask = (look.piece > PIECE).astype(np.uint8)
    return cv2.morphologyEx(mask, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))) > 0

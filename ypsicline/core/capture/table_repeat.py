"""Tables whose pattern comes again: tiles, checks, dots. What differs from its own repeat isn't the table.

The lags at which the table looks like itself are the peaks of its autocorrelation, where each pair of pixels counts that
are both seen (Padfield, IEEE Trans. Image Processing 21, 2012). Folded by the two shortest, all the table lies in one
cell; what most of the pixels show that come to lie together is what the table looks like there.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import scipy
from numpy.typing import NDArray

from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.pieces import Mask, Share
from ypsicline.core.geometry.edges import Array

__all__ = ["like_repeat", "off_the_repeat"]

# shares from which on a place isn't asked what the table looks like
NOT_TABLE = 0.5
# brightness counts beside that of so many px round about; what is added to light so that black has a logarithm too
ABOUT_PX, DARK, SOFT_PX = 30.0, 0.02, 0.8
# the least lag, px; how alike the table is to itself there, at least and as a share of the best; how much of it has to overlap
LEAST_LAG, LEAST_ALIKE, OF_BEST, OVERLAP = 8.0, 0.45, 0.6, 0.2
# two lags lie across one another from this sine on; a table that comes again does so at least so many times
LEAST_SINE, LEAST_CELLS = 0.3, 6.0
# multiples of a lag at which it is measured more exactly, where it is still so much alike
MULTIPLES, STILL_ALIKE = (1, 2, 3, 4, 6), 0.25
# differences from the repeat are softened by so many px; those of a piece are in the median so many times those of the table
ALIKE_PX, LEAST_TIMES = 1.5, 2.0
BIN_PX, LEAST_IN_BIN = 1.5, 3


def off_the_repeat(pixels: NDArray[np.uint8], pixels_counted: Mask, share: Share) -> NDArray[np.float32] | None:
    """By how much each pixel (rows, columns, 3: logarithms of brightness, of red and of blue beside green) differs from what
    the table shows at all the places that are alike by its pattern; None where the table has no pattern that comes again.

    `pixels_counted` (rows, columns) are seen and no sheet, `share` (rows, columns) is how sure each is of being piece.
    """
    table = pixels_counted & (share < NOT_TABLE)
    if not table.any():
        return None
    looks = _looks(pixels, pixels_counted)
    lags = _Likeness.of(looks, table).lags()
    if lags is None or table.sum() < LEAST_CELLS * abs(np.linalg.det(lags)):
        return None
    off = looks - _folded(looks, table, lags)
    return np.asarray(np.where(pixels_counted[..., None], np.nan_to_num(off), 0), dtype=np.float32)


def like_repeat(off_repeat: NDArray[np.float32], pixels_counted: Mask, piece: Mask) -> Mask:
    """Where a place (rows, columns) differs from the table's repeat as the table does rather than as the `piece`; nowhere where
    these don't differ by it."""
    off = cv2.GaussianBlur(np.linalg.norm(off_repeat, axis=2), (0, 0), ALIKE_PX)
    table, own = off[pixels_counted & ~piece], off[pixels_counted & piece]
    if not len(table) or not len(own) or np.median(own) < LEAST_TIMES * np.median(table):
        return np.zeros_like(piece)
    return np.asarray(pixels_counted & (off < np.sqrt(np.median(own) * np.median(table))))


def _looks(pixels: NDArray[np.uint8], pixels_counted: Mask) -> NDArray[np.float32]:
    """Of each pixel its brightness beside that of those round about, and its hues (rows, columns, 3)."""
    light = np.log((pixels.astype(np.float32) / 255) ** GAMMA + DARK)
    bright = light.mean(axis=2)
    counted = pixels_counted.astype(np.float32)
    weight = cv2.GaussianBlur(counted, (0, 0), ABOUT_PX) + 1e-3
    bright -= cv2.GaussianBlur(bright * counted, (0, 0), ABOUT_PX) / weight
    return cv2.GaussianBlur(np.dstack([bright, light[..., [0, 2]] - light[..., [1]]]), (0, 0), SOFT_PX)


@dataclass(frozen=True)
class _Likeness:
    """How alike the table is to itself moved by each lag (rows, columns), -1 to 1, and where among them no lag is."""

    of_lag: Array
    zero: Array

    @classmethod
    def of(cls, looks: NDArray[np.float32], table: Mask) -> _Likeness:
        shape = [scipy.fft.next_fast_len(2 * side, real=True) for side in table.shape]

        def spectrum(values: NDArray[np.float32]) -> NDArray[np.complexfloating]:
            return np.asarray(scipy.fft.rfft2(values, shape, workers=-1))

        def summed(one: NDArray[np.complexfloating], other: NDArray[np.complexfloating]) -> Array:
            return np.asarray(scipy.fft.irfft2(one * np.conj(other), shape, workers=-1))

        mask = spectrum(table.astype(np.float32))
        pairs = np.maximum(summed(mask, mask), 1)
        together, alone = np.zeros(shape), np.zeros(shape)
        for channel in np.moveaxis(looks, 2, 0):
            values = np.where(table, channel, 0)
            once, squared = spectrum(values), spectrum(values**2)
            # sums over the pixels that a lag brings together, of those that are moved and of those that aren't
            sums, squares = (_both_ways(summed(v, mask)) for v in (once, squared))
            spreads = [np.maximum(square - own**2 / pairs, 0) for square, own in zip(squares, sums, strict=True)]
            together += summed(once, once) - sums[0] * sums[1] / pairs
            alone += np.sqrt(spreads[0] * spreads[1])
        alike = np.where(pairs < OVERLAP * table.sum(), -1, together / np.maximum(alone, 1e-6))
        return cls(np.fft.fftshift(alike), np.array([shape[1] // 2, shape[0] // 2]))

    def lags(self) -> Array | None:
        """The two shortest lags (2, 2), px, x and y, after which the table comes again; None where there are none."""
        rows, columns = np.nonzero(
            (self.of_lag == scipy.ndimage.maximum_filter(self.of_lag, 5)) & (self.of_lag >= LEAST_ALIKE)
        )
        peaks = np.column_stack([columns, rows]) - self.zero
        alike, lengths = self.of_lag[rows, columns], np.hypot(*peaks.T)
        far = lengths >= LEAST_LAG
        if not far.any():
            return None
        likely = far & (alike >= OF_BEST * alike[far].max())
        peaks = peaks[likely][np.argsort(lengths[likely])].astype(float)
        sines = np.abs(peaks[0, 0] * peaks[:, 1] - peaks[0, 1] * peaks[:, 0])
        across = np.flatnonzero(sines > LEAST_SINE * np.hypot(*peaks[0]) * np.hypot(*peaks.T))
        if not len(across):
            return None
        return np.array([self._exactly(peaks[0]), self._exactly(peaks[across[0]])])

    def _exactly(self, lag: Array) -> Array:
        """A lag as its multiples show it: the farther off, the more exactly."""
        for times in MULTIPLES:
            peak, alike = self._peak_near(times * lag)
            if alike < STILL_ALIKE:
                break
            lag = peak / times
        return lag

    def _peak_near(self, lag: Array) -> tuple[Array, float]:
        """The peak beside a lag, to a part of a pixel (by a parabola along each axis), and how alike the table is there."""
        column, row = np.rint(lag + self.zero).astype(int)
        rows, columns = self.of_lag.shape
        if not (3 <= column < columns - 3 and 3 <= row < rows - 3):
            return lag, -1.0
        near = self.of_lag[row - 2 : row + 3, column - 2 : column + 3]
        down, right = np.unravel_index(near.argmax(), near.shape)
        row, column = row + int(down) - 2, column + int(right) - 2
        cross = self.of_lag[row - 1 : row + 2, column], self.of_lag[row, column - 1 : column + 2]
        beside = [(a - c) / min(2 * (a - 2 * b + c), -1e-9) for a, b, c in cross]
        part = np.clip([beside[1], beside[0]], -0.5, 0.5)
        return np.array([column, row]) - self.zero + part, float(cross[0][1])


def _both_ways(by_lag: Array) -> tuple[Array, Array]:
    """What is told of each lag (rows, columns), and the same told of its opposite."""
    return by_lag, np.roll(by_lag[::-1, ::-1], 1, axis=(0, 1))


def _folded(looks: NDArray[np.float32], table: Mask, lags: Array) -> NDArray[np.float32]:
    """What most of the table shows at the places that are alike by `lags` (2, 2), shaped as `looks`; NaN where it is seen at
    too few of them."""
    rows, columns = table.shape
    places = np.column_stack([np.tile(np.arange(columns), rows), np.repeat(np.arange(rows), columns)])
    within = places @ np.linalg.inv(lags)
    bins = np.maximum(3, np.rint(np.hypot(*lags.T) / BIN_PX)).astype(int)
    cells = np.minimum(((within - np.floor(within)) * bins).astype(int), bins - 1)
    bin_of = cells[:, 0] * bins[1] + cells[:, 1]
    counted = table.ravel()
    own, count = bin_of[counted], int(bins.prod())
    values = looks.reshape(-1, looks.shape[2])[counted]
    seen = np.column_stack([scipy.ndimage.median(channel, own, np.arange(count)) for channel in values.T])
    seen[np.bincount(own, minlength=count) < LEAST_IN_BIN] = np.nan
    return np.asarray(seen[bin_of].reshape(looks.shape), dtype=np.float32)

"""Telling a piece from the table by how both look in this very photograph.

What the network says of a picture is learnt from other pictures. Here each kind of place in this one
(its colours and texture) is asked where it mostly lies: a tile that is seen all over the table isn't
piece, though it lies beside it; a stripe that is seen nowhere else is.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from ypsicline.core.capture.at_once import at_once
from ypsicline.core.capture.detect import GAMMA
from ypsicline.core.capture.pieces import Mask, Share

__all__ = ["FINE", "WIDE", "Manner", "colour_kinds", "odds_by_colour", "shares_by_appearance"]

# blurs, px, at which colours are looked at, and at which texture is
COLOUR_BLURS, TEXTURE_BLURS = (0.0, 1.5, 4.0), (1.0, 3.0)
# texture counts this much against a step of colour
TEXTURE_WEIGHT = 2.0
# the same for hues, over how many px they vary, what logarithms of them count against steps of Lab, and how much light keeps
# the hues of the dark, which are noise, from counting
HUE_BLURS, HUE_VARIES, HUE_WEIGHT, DARK = (1.0, 4.0), 4.0, 40.0, 0.02
# what kinds by colour and texture count, kinds by hue, which light and shade leave alone, and kinds by what differs from the repeat
BY_LOOKS, BY_HUES, BY_REPEAT = 0.6, 0.6, 1.2
# differences from the repeat, logarithms of light, against levels of Lab; over so many px their own and those about
OFF_WEIGHT, OFF_BLURS = 40.0, (1.0, 4.0)
SAMPLES, MOST_ROUNDS, SMOOTHINGS = 6000, 6, 4
# kinds of colours alone
COLOURS = 24
# the network is never believed beyond these odds (logarithms), nor is what a place looks like
MOST_PRIOR_ODDS, MOST_KIND_ODDS = 3.5, 3.0
NEIGHBOURS_WEIGHT, NEIGHBOURS_PX = 2.0, 2.5
# between counting pixels (0) and shares of piece and of table (1): a look that is rare on both sides tells little
BY_SHARE = 0.3
_DOUBT, _RARE = 0.03, 2.0


@dataclass(frozen=True)
class Manner:
    """How many kinds of places are told apart, and how much they count against what was thought before."""

    kinds: int
    weight: float


WIDE, FINE = Manner(48, 2.0), Manner(48, 1.5)


def shares_by_appearance(
    pixels: NDArray[np.uint8],
    pixels_counted: Mask,
    prior: Share,
    manner: Manner,
    off_repeat: NDArray[np.float32] | None = None,
) -> Share:
    """Shares of piece (rows, columns), 0 to 1, from `prior`, what was thought before, and the picture's own kinds of places.

    The kinds are clusters of colour and texture, others of hue, and others of how a place differs from the table's repeat,
    where it has one (`off_repeat`, of `table_repeat`), over `pixels_counted`, those that are seen and no sheet. Each
    kind's odds are those of what is thought piece against table among its pixels; these, what was
    thought and the neighbours give new shares, which give new odds, until they settle (mean field of a
    Markov random field, as with Rother, Kolmogorov & Blake, SIGGRAPH 2004, but with counted kinds).
    """
    if int(pixels_counted.sum()) < manner.kinds:
        return prior
    ways: list[tuple[float, Callable[[], NDArray[np.float32]]]] = [
        (BY_LOOKS, lambda: _looks(pixels)), (BY_HUES, lambda: _hues(pixels)),
    ]  # fmt: skip
    if off_repeat is not None:
        ways.append((BY_REPEAT, lambda: _about(off_repeat)))

    def kinds_by(looks_of: Callable[[], NDArray[np.float32]]) -> NDArray[np.intp]:
        looks = looks_of()
        kinds = _kinds(looks.reshape(-1, looks.shape[2]), looks[pixels_counted], manner.kinds)
        return kinds.reshape(prior.shape)

    weights, looks_of = zip(*ways, strict=True)
    weighted_kinds = [
        (w, kinds, kinds[pixels_counted]) for w, kinds in zip(weights, at_once(kinds_by, looks_of), strict=True)
    ]
    before = np.clip(np.log((prior + _DOUBT) / (1 - prior + _DOUBT)), -MOST_PRIOR_ODDS, MOST_PRIOR_ODDS)
    share = prior
    for _ in range(MOST_ROUNDS):
        odds_around = np.zeros_like(prior)
        share_counted = share[pixels_counted]
        for weight, kinds, kinds_counted in weighted_kinds:
            odds_of = _odds(kinds_counted, share_counted, manner.kinds, BY_SHARE)
            odds_around += weight * cv2.blur(odds_of[kinds], (3, 3))
        for _ in range(SMOOTHINGS):
            beside = cv2.GaussianBlur(2 * share - 1, (0, 0), NEIGHBOURS_PX)
            odds = before + manner.weight * odds_around + NEIGHBOURS_WEIGHT * beside
            share = np.where(pixels_counted, 1 / (1 + np.exp(-odds)), prior).astype(np.float32)
    return share


def odds_by_colour(colours: NDArray[np.float32], share: Share) -> Share:
    """How much likelier each place is piece than table by its colour alone, logarithms of odds, shaped as `share`.

    `colours` (..., 3) are red, green and blue, 0 to 255; `share` (...) is how sure each place is of being piece. Both
    sides count alike, however large they are.
    """
    kinds, count = colour_kinds(colours)
    return np.asarray(_odds(kinds.ravel(), share.ravel(), count, by_share=1.0)[kinds])


def colour_kinds(colours: NDArray[np.float32]) -> tuple[NDArray[np.intp], int]:
    """The kind (...) of each of `colours` (..., 3), red, green and blue, 0 to 255, and how many kinds there may be."""
    lab = cv2.cvtColor(np.clip(colours.reshape(1, -1, 3) / 255, 0, 1).astype(np.float32), cv2.COLOR_RGB2LAB)[0]
    return _kinds(lab, lab, COLOURS).reshape(colours.shape[:-1]), COLOURS


def _odds(kinds: NDArray[np.intp], share: Share, count: int, by_share: float) -> Share:
    """Of each kind (`count`,) the logarithm of its odds of being piece, by the shares (n,) of the places of these kinds (n,)."""
    piece, table = (np.bincount(kinds, weights, count) + _RARE for weights in (share, 1 - share))
    odds = np.log(piece / table) - by_share * np.log(piece.sum() / table.sum())
    return np.clip(odds, -MOST_KIND_ODDS, MOST_KIND_ODDS).astype(np.float32)


def _kinds(looks: NDArray[np.float32], among: NDArray[np.float32], count: int) -> NDArray[np.intp]:
    """The kind (0 to `count` - 1) of each look (n, m), by clusters of a sample of those `among` (k, m) which they are."""
    sample = among[np.random.default_rng(1).choice(len(among), min(SAMPLES, len(among)), replace=False)]
    cv2.setRNGSeed(1)
    _, _, centres = cv2.kmeans(
        sample, min(count, len(sample)), np.empty(0, np.int32), (3, 12, 0.5), 1, cv2.KMEANS_PP_CENTERS
    )
    distances = looks @ (-2 * centres.T)
    distances += (centres**2).sum(axis=1)
    return np.asarray(distances.argmin(axis=1))


def _looks(pixels: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Of each pixel its colours, as such and blurred, and how much the brightness about it varies (rows, columns, 11)."""
    lab = cv2.cvtColor(pixels, cv2.COLOR_RGB2LAB).astype(np.float32)
    looks = [cv2.GaussianBlur(lab, (0, 0), blur) if blur else lab for blur in COLOUR_BLURS]
    grey = cv2.cvtColor(pixels, cv2.COLOR_RGB2GRAY).astype(np.float32)
    for blur in TEXTURE_BLURS:
        varies = cv2.GaussianBlur((grey - cv2.GaussianBlur(grey, (0, 0), blur)) ** 2, (0, 0), 1.5 * blur)
        looks.append(TEXTURE_WEIGHT * np.sqrt(varies)[..., None])
    return np.concatenate(looks, axis=2).astype(np.float32)


def _hues(pixels: NDArray[np.uint8]) -> NDArray[np.float32]:
    """Of each pixel its hues (how much red and blue it has beside green), blurred, and how much those about it vary
    (rows, columns, 6)."""
    light = (pixels.astype(np.float32) / 255) ** GAMMA + DARK
    hues = HUE_WEIGHT * np.log(light[..., [0, 2]] / light[..., [1]])
    mean, square = (cv2.GaussianBlur(v, (0, 0), HUE_VARIES) for v in (hues, hues**2))
    varies = np.sqrt(np.maximum(square - mean**2, 0))
    return np.concatenate([*(cv2.GaussianBlur(hues, (0, 0), b) for b in HUE_BLURS), varies], axis=2).astype(np.float32)


def _about(off_repeat: NDArray[np.float32]) -> NDArray[np.float32]:
    """Of each pixel how it differs from the table's repeat, and how much those about it do (rows, columns, 6)."""
    own, about = (
        cv2.GaussianBlur(v, (0, 0), b) for v, b in zip((off_repeat, np.abs(off_repeat)), OFF_BLURS, strict=True)
    )
    return np.asarray(OFF_WEIGHT * np.concatenate([own, about], axis=2), dtype=np.float32)

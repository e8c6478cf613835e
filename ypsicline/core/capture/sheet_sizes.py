"""Whether the sheets in a photo are of one size: one may have been printed at another scale, or lie on something.

Lens, tilt and bent paper can explain most of that away, so that the corners hardly miss. What tells it is how much they
would miss less if the sheet had another size (a score test: C. R. Rao, "Large sample tests of statistical hypotheses",
1948). It needs no further adjustment.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
import scipy

from ypsicline.core.capture.layout import Layout
from ypsicline.core.geometry.edges import Array

__all__ = ["SheetSize", "sheet_sizes"]

_STEP = 1e-3
# from how many standard deviations on, and from what share on, a sheet's size is another
_SURELY, _LEAST_EXCESS = 4.0, 0.004


@dataclass(frozen=True)
class SheetSize:
    """By what share a sheet seems larger than the adjustment took it for (negative: smaller), one standard deviation of
    that, and how the unknowns would change if it were so."""

    excess: float
    sigma: float
    change: Array

    @property
    def differs(self) -> bool:
        return abs(self.excess) > max(_LEAST_EXCESS, _SURELY * self.sigma)


def sheet_sizes(
    layout: Layout, fit: scipy.optimize.OptimizeResult, corner_sigma_px: float, variance: float
) -> Sequence[SheetSize]:
    """The size of each sheet beside the others'; of a single sheet, which nothing stands beside, an empty list.

    `fit` is an adjustment whose first residuals are the corners' misses over `corner_sigma_px`, and `variance` how many
    times as much they vary.
    """
    if layout.sheets < 2:
        return []
    flat = layout.project(fit.x)
    sizes = []
    for sheet in range(layout.sheets):
        larger = replace(layout, sights=tuple(s.enlarged(1 + _STEP) if s.sheet == sheet else s for s in layout.sights))
        slope = np.zeros(len(fit.fun))
        slope[: flat.size] = (larger.project(fit.x) - flat).ravel() / _STEP / corner_sigma_px
        taken_up = np.linalg.lstsq(fit.jac, slope, rcond=None)[0]
        left = slope - fit.jac @ taken_up
        excess = -float(left @ fit.fun) / float(left @ left)
        sizes.append(SheetSize(excess, math.sqrt(variance / float(left @ left)), -excess * taken_up))
    return sizes

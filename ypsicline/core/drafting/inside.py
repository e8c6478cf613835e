"""What lies inside a panel's seam line, where its fit puts it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.pattern.fitted import Fitted
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import runs_of

__all__ = ["as_set", "with_inside_fitted"]


def with_inside_fitted(panel: Panel, fitted: Fitted) -> Panel:
    """The panel with its holes and features where the fit puts them, as large as its cloth asks for.

    Raises `Refused` where a feature doesn't stand on its edge.
    """
    return replace(
        panel,
        holes=tuple(tuple(fitted.edge(e) for e in h) for h in panel.holes),
        features=tuple(f.fitted(fitted) for f in panel.features),
    )


def as_set(panel: Panel) -> tuple[float, float, float, float, float, float] | None:
    """The way back from a place on the drafted panel to where it is on the outline as it was set, (a, b, c, d, x, y):
    (p, q) ↦ (a·p + b·q + x, c·p + d·q + y). None where both are the same.

    Raises `Refused` where the panel can't be fitted.
    """
    if panel.fit is None:
        return None
    fitted = fit_ring(runs_of(panel.seam_line), panel.fit, panel.grain_deg)
    if np.array_equal(fitted.matrix, np.eye(2)):
        return None
    back = np.linalg.inv(fitted.matrix)
    (a, b), (c, d) = back.tolist()
    x, y = (np.asarray(fitted.about) - back @ np.asarray(fitted.about)).tolist()
    return a, b, c, d, x, y

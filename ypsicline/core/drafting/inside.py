"""What lies inside a panel's seam line, where its fit puts it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.pattern.fitted import FittedRing
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import runs_of

__all__ = ["as_set", "with_inside_fitted"]


def with_inside_fitted(panel: Panel, ring: FittedRing) -> Panel:
    """The panel with its holes and features where the fit puts them, as large as its cloth asks for.

    Raises `Refusal` where a feature doesn't stand on its edge.
    """
    return replace(
        panel,
        holes=tuple(tuple(ring.edge(e) for e in h) for h in panel.holes),
        features=tuple(f.fitted(ring) for f in panel.features),
    )


def as_set(panel: Panel) -> Transform | None:
    """The way back from a place on the drafted panel to where it is on the outline as it was set; None where both are the
    same.

    Raises `Refusal` where the panel can't be fitted.
    """
    if panel.fit is None:
        return None
    ring = fit_ring(runs_of(panel.seam_line), panel.fit, panel.grain_deg)
    return None if np.array_equal(ring.to.matrix, np.eye(2)) else ring.to.inverse()

"""Ease drawn into a panel's outline: the line that is sewn becomes the line that is set."""

from __future__ import annotations

from dataclasses import replace

from ypsicline.core.drafting.carried import carried
from ypsicline.core.drafting.edge_map import EdgeMap
from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.drafting.inside import with_inside_fitted
from ypsicline.core.drafting.panel import Panel
from ypsicline.core.drafting.run import Run, runs_of
from ypsicline.core.geometry.edges import edge_length

__all__ = ["ease_drawn_in"]


def ease_drawn_in(panel: Panel) -> tuple[Panel, list[Run]]:
    """The panel with its ease in its outline and only stretch and shrinkage left to fit; and its edges as runs of the
    edges before. It drafts to the same cutting line.

    Raises `Refused` where something stands on a part of an edge that the ease leaves nothing of.
    """
    runs = runs_of(panel.seam_line)
    if panel.fit is None or not panel.fit.has_ease:
        return panel, runs
    fitted = fit_ring(runs, panel.fit.of_ease, panel.grain_deg)
    runs = fitted.runs
    edges = EdgeMap.of_runs(runs, len(panel.seam_line), "move it first")
    # darts and pleats are given as they are to be on the finished line, notches on the one that was set
    notches = panel.notches and tuple(
        replace(n, along_mm=n.along_mm * edges.before[n.edge] / edge_length(panel.seam_line[n.edge]))
        for n in panel.notches
        if 0 <= n.edge < len(panel.seam_line)
    )
    inside = with_inside_fitted(panel, fitted)
    made = carried(replace(panel, notches=notches), tuple(r.edge for r in runs), edges)
    return replace(
        made, fit=panel.fit.of_cloth, apertures=inside.apertures, holes=inside.holes, placed=inside.placed
    ), runs

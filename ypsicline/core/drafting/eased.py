"""Ease drawn into a panel's outline: the line that is sewn becomes the line that is set."""

from __future__ import annotations

from dataclasses import replace

from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.drafting.inside import with_inside_fitted
from ypsicline.core.messages import message
from ypsicline.core.pattern.carried import carried
from ypsicline.core.pattern.edge_map import EdgeMap, lengths_of
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.ids import once_each
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import Run, runs_of

__all__ = ["ease_drawn_in"]


def ease_drawn_in(panel: Panel) -> tuple[Panel, list[Run]]:
    """The panel with its ease in its outline and only stretch and shrinkage left to fit; and its edges as runs of the
    edges before. It drafts to the same cutting line.

    Raises `Refusal` where something stands on a part of an edge that the ease leaves nothing of.
    """
    runs = runs_of(panel.seam_line)
    if panel.fit is None or not panel.fit.has_ease:
        return panel, runs
    ring = fit_ring(runs, panel.fit.of_ease, panel.grain_deg)
    seam_line = once_each("edge", [r.edge for r in ring.runs], (e.id for h in panel.holes for e in h))
    edges = EdgeMap.of_runs(ring.runs, seam_line, message("else_move_first"))
    inside = with_inside_fitted(panel, ring)
    before = lengths_of(panel.seam_line)

    def on_finished(feature: Feature) -> Feature:
        """Notches stand on the line that was set, all else on the finished one already."""
        if not isinstance(feature, Notch) or feature.edge not in edges.before:
            return feature
        return replace(feature, along=feature.along * edges.before[feature.edge] / before[feature.edge])

    inside = replace(inside, features=tuple(on_finished(f) for f in inside.features))
    return replace(carried(inside, seam_line, edges), fit=panel.fit.of_cloth), ring.runs

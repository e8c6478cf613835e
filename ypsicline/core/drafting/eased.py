"""Ease drawn into a panel's outline: the line that is sewn becomes the line that is set."""

from __future__ import annotations

from dataclasses import replace

from ypsicline.core.drafting.features import Dart, Pleats
from ypsicline.core.drafting.fit import fit_ring
from ypsicline.core.drafting.inside import with_inside_fitted
from ypsicline.core.drafting.panel import Notch, Panel
from ypsicline.core.drafting.run import Run, by_source, cut_run, last_of, placed_on, runs_of
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
    made = replace(
        with_inside_fitted(panel, fitted),
        seam_line=tuple(r.edge for r in runs),
        fit=panel.fit.of_cloth,
        darts=tuple(_dart(d, runs) for d in panel.darts),
        pleats=tuple(_pleats(p, runs) for p in panel.pleats),
        gathers=tuple(replace(g, edge=k) for g in panel.gathers for k in by_source(runs).get(g.edge, [])),
        tapers=tuple(replace(t, edge=last_of(runs, t.edge, "taper")) for t in panel.tapers),
        notches=panel.notches and tuple(n for old in panel.notches for n in _notch(old, panel, runs)),
    )
    return made, runs


def _dart(dart: Dart, runs: list[Run]) -> Dart:
    if dart.corner:
        return replace(dart, edge=last_of(runs, dart.edge, "dart"))
    half = dart.intake / 2
    k, low, _ = cut_run(runs, dart.edge, dart.along - half, dart.along + half, "dart")
    return replace(dart, edge=k, along=low + half)


def _pleats(pleats: Pleats, runs: list[Run]) -> Pleats:
    k, low, _ = cut_run(runs, pleats.edge, pleats.along, pleats.along, "pleat")
    return replace(pleats, edge=k, along=low)


def _notch(notch: Notch, panel: Panel, runs: list[Run]) -> list[Notch]:
    """The notch at the same share of its edge; none where that is gone."""
    if not 0 <= notch.edge < len(panel.seam_line):
        return []
    share = notch.along_mm / edge_length(panel.seam_line[notch.edge])
    place = placed_on(runs, by_source(runs).get(notch.edge, []), share)
    return [] if place is None else [replace(notch, edge=place[0], along_mm=place[1])]

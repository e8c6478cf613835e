"""How long the edges of a panel are along the line on which they are sewn, and where on them a place is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from ypsicline.core.drafting.draft import intakes_of, seam_runs
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.run import by_source

__all__ = ["SewnEdge", "sewn_edges"]


@dataclass(frozen=True)
class SewnEdge:
    """An edge on the finished cover: how long it is `drawn_mm` as the maker drew it, mm; its `stretches` as they are drafted, each
    with its length and the shares of the edge where it begins and ends; and what is `intakes` out of it, from and by how
    much, mm along it."""

    drawn_mm: float
    stretches: tuple[tuple[float, float, float], ...]
    intakes: tuple[tuple[float, float], ...] = ()

    @property
    def length(self) -> float:
        """Its length, darts and pleats open, mm."""
        return sum(length for length, _, _ in self.stretches)

    @property
    def sewn(self) -> float:
        """Its length once they are closed, mm."""
        return self.length - sum(mm for _, mm in self.intakes)

    def place(self, along_mm: float) -> float:
        """Where a place of the sewn edge stands on the edge as it was set, both in mm from its start."""
        at = along_mm
        for start, mm in self.intakes:
            if at > start:
                at += mm
        for length, low, high in self.stretches:
            if at <= length + 1e-9 and length > 0:
                return (low + (high - low) * min(max(at / length, 0.0), 1.0)) * self.drawn_mm
            at -= length
        return self.drawn_mm

    def along(self, set_mm: float) -> float | None:
        """The place of the sewn edge that stands so far along the edge as it was set, both in mm from its start; None where
        nothing of it is left there."""
        share, at = set_mm / self.drawn_mm, 0.0
        for length, low, high in self.stretches:
            if low - 1e-9 <= share <= high + 1e-9:
                at += length * (share - low) / max(high - low, 1e-12)
                return at - sum(min(mm, max(at - start, 0.0)) for start, mm in self.intakes)
            at += length
        return None


@lru_cache(maxsize=512)
def sewn_edges(panel: Panel) -> Mapping[str, SewnEdge]:
    """Every edge of the outline, by its id, on the cover as it will be: cloth still to shrink or stretch doesn't count.

    Raises `Refusal` where the panel can't be drafted.
    """
    finished_panel = replace(panel, fit=panel.fit and panel.fit.of_ease)
    intakes: dict[str, list[tuple[float, float]]] = {}
    for intake in intakes_of(finished_panel):
        for (edge, low, _), mm in zip(intake.spans, intake.mm, strict=True):
            intakes.setdefault(edge, []).append((low, mm))
    runs = seam_runs(replace(finished_panel, features=tuple(f for f in finished_panel.features if not f.takes_in)))
    set_lengths = {e.id: edge_length(e) for e in panel.seam_line}
    edges = {}
    for source, own in by_source(runs).items():
        in_order = sorted((runs[k] for k in own), key=lambda r: r.s0)
        stretches = tuple((edge_length(r.edge), r.s0, r.s1) for r in in_order)
        edges[source] = SewnEdge(set_lengths[source], stretches, tuple(sorted(intakes.get(source, []))))
    return edges

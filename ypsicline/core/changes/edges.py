"""Changes of a panel's edges and its notches. An edge is chosen by its ring, 0 the outline and 1.. the holes, and its place there."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.changes.panels import panel_at, panel_changed, with_panels
from ypsicline.core.drafting.edge_changes import merge_edges, quarter_notches, split_panel_edge
from ypsicline.core.drafting.from_shape import add_notch, remove_notch, set_edges
from ypsicline.core.drafting.panel import CornerKind, Finish, Panel
from ypsicline.core.job import JobDocument
from ypsicline.core.typed import Length, LengthOrNone

__all__ = ["AddNotch", "DivideByNotches", "MergeEdges", "RemoveNotch", "SetEdges", "SplitEdge"]


@dataclass(frozen=True)
class SetEdges:
    """What is to change on edges chosen as (panel, ring, edge); None leaves it. `by_rule` goes back to the house's
    allowance."""

    chosen: tuple[tuple[int, int, int], ...]
    allowance: Length | None = None
    turn_under: LengthOrNone | None = None
    cord: LengthOrNone | None = None
    elastic: LengthOrNone | None = None
    by_rule: bool | None = None
    finish: Finish | None = None
    corner: CornerKind | None = None
    name: str | None = None
    kind: Literal["set_edges"] = "set_edges"

    def on(self, job: JobDocument) -> JobDocument:
        panels = list(job.panels)
        for index in sorted({p for p, _, _ in self.chosen}):
            panels[index] = set_edges(
                panel_at(job, index), [(r, k) for p, r, k in self.chosen if p == index],
                allowance_mm=self.allowance, turn_under_mm=self.turn_under, cord_mm=self.cord, elastic_mm=self.elastic,
                by_rule=self.by_rule, finish=self.finish, corner=self.corner, name=self.name, house=job.house,
            )  # fmt: skip
        return with_panels(job, panels)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        values = {
            "allowance": self.allowance, "turn under": self.turn_under, "cord": self.cord, "elastic": self.elastic,
            "by rule": self.by_rule, "finish": self.finish, "corner": self.corner, "name": self.name,
        }  # fmt: skip
        return f"Edge {', '.join(w for w, v in values.items() if v is not None) or 'left as it was'} set"


@dataclass(frozen=True)
class SplitEdge:
    """An edge split `along` it from its start."""

    panel: int
    ring: int
    edge: int
    along: Length
    kind: Literal["split_edge"] = "split_edge"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: split_panel_edge(p, self.ring, self.edge, self.along))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Edge split"


@dataclass(frozen=True)
class MergeEdges:
    """An edge made one with the next."""

    panel: int
    ring: int
    edge: int
    kind: Literal["merge_edges"] = "merge_edges"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: merge_edges(p, self.ring, self.edge))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Edges merged"


@dataclass(frozen=True)
class AddNotch:
    """A notch `along` an edge of the outline from its start."""

    panel: int
    edge: int
    along: Length
    double: bool = False
    kind: Literal["add_notch"] = "add_notch"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: add_notch(p, self.edge, self.along, double=self.double))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Notch added"


@dataclass(frozen=True)
class DivideByNotches:
    """The whole seam line notched in so many `parts`, from the start of an edge; 0 parts: by the rule again."""

    panel: int
    parts: int
    from_edge: int = 0
    kind: Literal["divide_by_notches"] = "divide_by_notches"

    def on(self, job: JobDocument) -> JobDocument:
        def how(panel: Panel) -> Panel:
            if not self.parts:
                return replace(panel, notches=None)
            return quarter_notches(panel, self.parts, from_edge=self.from_edge)

        return panel_changed(job, self.panel, how)

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return f"Notched in {self.parts} parts" if self.parts else "Notches by the rule again"


@dataclass(frozen=True)
class RemoveNotch:
    """The notch of this place in the order in which they are drafted taken away."""

    panel: int
    notch: int
    kind: Literal["remove_notch"] = "remove_notch"

    def on(self, job: JobDocument) -> JobDocument:
        return panel_changed(job, self.panel, lambda p: remove_notch(p, self.notch))

    def words(self, before: JobDocument, after: JobDocument) -> str:
        return "Notch removed"

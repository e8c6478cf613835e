"""Changes of a panel's edges and its notches, told by their ids."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from ypsicline.core.changes.panels import panel_of, panel_with, with_outline, with_panel, with_panels
from ypsicline.core.drafting.from_shape import remove_notch, set_edges
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_changes import merge_edges, quarter_notches, split_panel_edge, with_edge_length
from ypsicline.core.pattern.features.notch import Notch
from ypsicline.core.pattern.finish import FinishName
from ypsicline.core.pattern.seam_edge import CornerKind
from ypsicline.core.typed import Length, LengthOrNone

__all__ = ["DivideByNotches", "MergeEdges", "RemoveNotch", "SetEdgeLength", "SetEdges", "SplitEdge"]


@dataclass(frozen=True)
class SetEdges:
    """What is to change on these edges; None leaves it. `by_rule` goes back to the house's allowance."""

    edges: tuple[str, ...]
    allowance: Length | None = None
    turn_under: LengthOrNone | None = None
    cord: LengthOrNone | None = None
    elastic: LengthOrNone | None = None
    by_rule: bool | None = None
    finish: FinishName | None = None
    corner: CornerKind | None = None
    name: str | None = None
    kind: Literal["set_edges"] = "set_edges"

    def on(self, job: JobDocument) -> JobDocument:
        panels = {p.id: p for p in job.panels}
        of = {edge: panel_with(job, edge).id for edge in self.edges}
        for panel in dict.fromkeys(of.values()):
            panels[panel] = set_edges(
                panels[panel], [edge for edge in self.edges if of[edge] == panel],
                allowance_mm=self.allowance, turn_under_mm=self.turn_under, cord_mm=self.cord, elastic_mm=self.elastic,
                by_rule=self.by_rule, finish=self.finish, corner=self.corner, name=self.name, house=job.house,
            )  # fmt: skip
        return with_panels(job, list(panels.values()))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        values = (
            (self.allowance, message("edges_allowance")), (self.turn_under, message("edges_turn_under")),
            (self.cord, message("edges_cord")), (self.elastic, message("edges_elastic")),
            (self.by_rule, message("edges_by_rule")), (self.finish, message("edges_finish")),
            (self.corner, message("edges_corner")), (self.name, message("edges_name")),
        )  # fmt: skip
        settings = [what for value, what in values if value is not None]
        return settings[0] if len(settings) == 1 else message("edges_changed")


@dataclass(frozen=True)
class SetEdgeLength:
    """A straight edge of a squared panel made longer or shorter, and the panel with it."""

    edge: str
    length: Length
    kind: Literal["set_edge_length"] = "set_edge_length"

    def on(self, job: JobDocument) -> JobDocument:
        return with_outline(job, with_edge_length(panel_with(job, self.edge), self.edge, self.length))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        panel = panel_with(after, self.edge)
        name = next(e.name for e in panel.seam_line if e.id == self.edge)
        return message("edge_length_changed", edge=name, panel=panel.name, length_mm=self.length)


@dataclass(frozen=True)
class SplitEdge:
    """An edge split `along` it from its start; the first part keeps its id."""

    edge: str
    along: Length
    kind: Literal["split_edge"] = "split_edge"

    def on(self, job: JobDocument) -> JobDocument:
        return with_outline(job, split_panel_edge(panel_with(job, self.edge), self.edge, self.along))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("edge_split")


@dataclass(frozen=True)
class MergeEdges:
    """An edge made one with the next."""

    edge: str
    kind: Literal["merge_edges"] = "merge_edges"

    def on(self, job: JobDocument) -> JobDocument:
        return with_outline(job, merge_edges(panel_with(job, self.edge), self.edge))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("edges_merged")


@dataclass(frozen=True)
class DivideByNotches:
    """The whole seam line notched in so many `parts`, from the start of an edge (the first, where none is named); 0 parts:
    by the rule again."""

    panel: str
    parts: int
    from_edge: str = ""
    kind: Literal["divide_by_notches"] = "divide_by_notches"

    def on(self, job: JobDocument) -> JobDocument:
        panel = panel_of(job, self.panel)
        if self.parts:
            return with_panel(job, quarter_notches(panel, self.parts, from_edge=self.from_edge))
        return with_panel(job, replace(panel, middle_notches=True, features=panel.without(Notch)))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("notched_in_parts", parts=self.parts) if self.parts else message("notches_by_the_rule")


@dataclass(frozen=True)
class RemoveNotch:
    """A notch taken away: one that was placed, or an edge's own in its middle."""

    panel: str
    notch: str
    kind: Literal["remove_notch"] = "remove_notch"

    def on(self, job: JobDocument) -> JobDocument:
        return with_panel(job, remove_notch(panel_of(job, self.panel), self.notch))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("notch_removed")

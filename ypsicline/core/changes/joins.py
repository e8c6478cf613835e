"""Changes of joins: edges sewn together, otherwise, no longer."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Annotated, Literal

from ypsicline.core.changes.panels import with_panels
from ypsicline.core.drafting.from_shape import set_edges
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.paired_notches import parted, with_paired_notches
from ypsicline.core.joins.walk import walk
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import SEAM_FINISHES, Along, Join, Meant, SeamType, free_letter
from ypsicline.core.typed import Number, WholeChoice

Parts = Annotated[Literal[2, 3, 4, 8], WholeChoice]
"""How many parts of equal length a join is notched in."""

__all__ = ["JoinEdges", "RemoveJoin", "SetJoin", "SewJoin", "join_in"]


@dataclass(frozen=True)
class JoinEdges:
    """Edges on two sides sewn together, each side in the order in which it is walked; a seam brings their finishes, and with
    them the allowances of the house. In `parts` of equal length both sides are notched."""

    first: tuple[Along, ...]
    second: tuple[Along, ...]
    seam: SeamType = "any"
    meant: Meant = "equal"
    fullness: Number = 1.0
    parts: Parts | None = None
    kind: Literal["join_edges"] = "join_edges"

    def on(self, job: JobDocument) -> JobDocument:
        first, second = (tuple(_free_piece(job, a) for a in run) for run in (self.first, self.second))
        join = Join(first, second, self.seam, self.meant, self.fullness, free_letter({j.letter for j in job.joins}))
        walk(join, {p.id: p for p in job.panels})
        after = _finish_edges(replace(job, joins=(*job.joins, join)), join)
        return _notched(after, join, self.parts) if self.parts else after

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("edges_joined", letter=after.joins[-1].letter)


@dataclass(frozen=True)
class SetJoin:
    """What is to change of a join; None leaves it. A seam brings its finishes, the one that it has already too; `parts` are
    notched on both sides, so many of equal length on each."""

    join: str
    seam: SeamType | None = None
    meant: Meant | None = None
    fullness: Number | None = None
    parts: Parts | None = None
    kind: Literal["set_join"] = "set_join"

    def on(self, job: JobDocument) -> JobDocument:
        before = join_in(job, self.join)
        fields = {"seam": self.seam, "meant": self.meant, "fullness": self.fullness}
        join = replace(before, **{k: v for k, v in fields.items() if v is not None})  # type: ignore[arg-type]
        after = replace(job, joins=tuple(join if j is before else j for j in job.joins))
        after = _finish_edges(after, join) if self.seam else after
        return _notched(after, join, self.parts) if self.parts else after

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        letter = join_in(after, self.join).letter
        only_notched = self.parts and not (self.seam or self.meant or self.fullness)
        return message("join_notched" if only_notched else "join_changed", letter=letter)


@dataclass(frozen=True)
class SewJoin:
    """A join sewn as the one of this `place`, counted from 1; the others keep their order. Raises `Refusal` for a place that
    isn't one."""

    join: str
    place: Annotated[int, WholeChoice]
    kind: Literal["sew_join"] = "sew_join"

    def on(self, job: JobDocument) -> JobDocument:
        join = join_in(job, self.join)
        if not 1 <= self.place <= len(job.joins):
            raise Refusal(message("join_place_out_of_range", count=len(job.joins)), "join")
        others = [j for j in job.joins if j is not join]
        return replace(job, joins=(*others[: self.place - 1], join, *others[self.place - 1 :]))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("join_sewn_as", letter=join_in(after, self.join).letter, place=self.place)


@dataclass(frozen=True)
class RemoveJoin:
    join: str
    kind: Literal["remove_join"] = "remove_join"

    def on(self, job: JobDocument) -> JobDocument:
        join = join_in(job, self.join)
        return replace(job, joins=tuple(j for j in job.joins if j is not join))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("join_removed")


def join_in(job: JobDocument, join: str) -> Join:
    """The join of this id; raises `Refusal` where there is none."""
    of_job = next((j for j in job.joins if j.id == join), None)
    if of_job is None:
        raise Refusal(message("join_gone"), "join")
    return of_job


def _notched(job: JobDocument, join: Join, parts: int) -> JobDocument:
    """The job with both sides of a join notched at the same shares of their length."""
    panels = with_paired_notches({p.id: p for p in job.panels}, join, *parted(parts))
    return with_panels(job, list(panels.values()))


def _free_piece(job: JobDocument, along: Along) -> Along:
    """The edge of the first piece that isn't sewn along it yet, where a panel is cut several times; else the edge as it is."""
    panel = next((p for p in job.panels if p.id == along.panel), None)
    pieces_sewn = {
        a.piece for j in job.joins for a in (*j.first, *j.second) if (a.panel, a.edge) == (along.panel, along.edge)
    }
    if panel is None or along.piece not in pieces_sewn:
        return along
    return replace(along, piece=next((k for k in range(1, panel.pieces + 1) if k not in pieces_sewn), along.piece))


def _finish_edges(job: JobDocument, join: Join) -> JobDocument:
    """The job with the edges of a join finished as its seam asks."""
    if join.seam == "any":
        return job
    panels = {p.id: p for p in job.panels}
    for run, finish in zip((join.first, join.second), SEAM_FINISHES[join.seam], strict=True):
        for panel in dict.fromkeys(a.panel for a in run):
            edges = [a.edge for a in run if a.panel == panel]
            panels[panel] = set_edges(panels[panel], edges, finish=finish, house=job.house)
    return with_panels(job, list(panels.values()))

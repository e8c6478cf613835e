"""Changes of covers: drafted by a family from measures, again from others, let go of."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any, Literal

from ypsicline.core.changes.panels import free_name, with_panels
from ypsicline.core.covers.backwards import with_lengths
from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.family import AnyFamily, Family
from ypsicline.core.covers.of_job import FamilyCover, drafted_again
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.join import Along, Join, free_letter, without_panels
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.shape import true_edges
from ypsicline.core.typed import SignedLength

__all__ = ["ChangeMeasures", "DraftCover", "LengthInstead", "LetGoOfCover", "TracedPiece", "cover_in"]


@dataclass(frozen=True)
class TracedPiece:
    """A captured piece, by its id, whose outline stands for one of a family's shapes: by its name, or within rows
    (`pieces.0.outline`)."""

    shape: str
    piece: str


@dataclass(frozen=True)
class DraftCover:
    """The panels, joins and sums of a family; again, from other measures, where `of` is the id of a cover of this job, with
    what was changed by hand kept wherever it still makes sense; outlines that aren't given anew are those it had."""

    cover: AnyFamily
    of: str = ""
    traces: tuple[TracedPiece, ...] = ()
    kind: Literal["draft_cover"] = "draft_cover"

    def on(self, job: JobDocument) -> JobDocument:
        family = self._with_traced(job)
        cover = family.cover(job.house)
        if not self.of:
            return _put_in(job, family, cover)
        return _drafted_again(job, cover_in(job, self.of), family, cover)[0]

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        if not self.of:
            return message("cover_drafted", count=len(after.panels) - len(before.panels))
        old = cover_in(before, self.of)
        family = cover_in(after, self.of).family
        losses = _drafted_again(before, old, family, family.cover(before.house))[1]
        return message("cover_drafted_again_without", lost=tuple(losses)) if losses else message("cover_drafted_again")

    def _with_traced(self, job: JobDocument) -> Family:
        """The family with the outlines of captured pieces as its shapes. Raises `Refusal` where one isn't there."""
        family: Any = self.cover
        if self.of:
            family = replace(family, shapes=_kept_outlines(cover_in(job, self.of).family.shapes, family.shapes))
        for trace in self.traces:
            shape = job.piece_of(trace.piece).shape
            edges = tuple(Edge(e.kind, e.points) for e in true_edges(shape.outline, shape.tolerance_mm))
            family = replace(family, shapes=_with_outline(family.shapes, trace.shape.split("."), edges))
        with_outlines: Family = family
        return with_outlines


def _kept_outlines(had: Any, have: Any) -> Any:
    """Shapes with the outlines that they had before wherever none is given anew; rows are told by their names."""
    if type(had) is not type(have):
        return have
    outlines_kept: dict[str, Any] = {}
    for f in fields(have):
        before, now = getattr(had, f.name), getattr(have, f.name)
        if now and is_dataclass(now[0]) and hasattr(now[0], "outline"):
            outlines = {row.name: row.outline for row in before}
            outlines_kept[f.name] = tuple(
                row if row.outline else replace(row, outline=outlines.get(row.name, ())) for row in now
            )
        elif not now and before and not hasattr(before[0], "name"):
            outlines_kept[f.name] = before
    return replace(have, **outlines_kept)


def _with_outline(owner: Any, path: Sequence[str], edges: tuple[Edge, ...]) -> Any:
    """A value with an outline put in at `path`, by the names of fields and the numbers of rows."""
    first, *rest = path
    if isinstance(owner, tuple):
        k = int(first) if first.isdigit() else len(owner)
        if k >= len(owner):
            raise Refusal(message("no_such_shape", shape=first[:40]), "shape")
        return (*owner[:k], _with_outline(owner[k], rest, edges), *owner[k + 1 :])
    if first not in {f.name for f in fields(owner)}:
        raise Refusal(message("no_such_shape", shape=first[:40]), "shape")
    return replace(owner, **{first: _with_outline(getattr(owner, first), rest, edges) if rest else edges})


@dataclass(frozen=True)
class LetGoOfCover:
    """A cover's panels and joins live on by themselves, without its family."""

    cover: str
    kind: Literal["let_go_of_cover"] = "let_go_of_cover"

    def on(self, job: JobDocument) -> JobDocument:
        cover = cover_in(job, self.cover)
        return replace(job, covers=tuple(c for c in job.covers if c is not cover))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("cover_let_go")


@dataclass(frozen=True)
class LengthInstead:
    """A length of a family by its part and name (`measures.girth`), and what it is to be."""

    measure: str
    length: SignedLength


@dataclass(frozen=True)
class ChangeMeasures:
    """Some lengths of a cover's family changed together, and the cover drafted again."""

    cover: str
    lengths: tuple[LengthInstead, ...]
    kind: Literal["change_measures"] = "change_measures"

    def on(self, job: JobDocument) -> JobDocument:
        return self._fresh_draft(job).on(job)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return self._fresh_draft(before).words(before, after)

    def _fresh_draft(self, job: JobDocument) -> DraftCover:
        lengths = {entry.measure: entry.length for entry in self.lengths}
        return DraftCover(with_lengths(cover_in(job, self.cover).family, lengths), of=self.cover)


def cover_in(job: JobDocument, cover: str) -> FamilyCover:
    """The cover of this id; raises `Refusal` where there is none."""
    of_job = next((c for c in job.covers if c.id == cover), None)
    if of_job is None:
        raise Refusal(message("cover_gone"), "cover")
    return of_job


def _put_in(job: JobDocument, family: Family, draft: Cover) -> JobDocument:
    """The job with a cover's panels and joins beside what it has."""
    ids = {p.id: f"new.{p.id}"[:16] for p in draft.panels}
    panels = list(job.panels)
    for fresh in draft.panels:
        panels.append(replace(fresh, id=ids[fresh.id], name=free_name(fresh.name, panels, is_numbered=False)))
    joins = _lettered(job, [_renamed(j, ids, {}) for j in draft.joins])
    cover = FamilyCover(family, tuple(ids.items()), tuple(j.id for j in joins))
    return replace(with_panels(job, panels), joins=(*job.joins, *joins), covers=(*job.covers, cover))


def _drafted_again(
    job: JobDocument, cover: FamilyCover, family: Family, draft: Cover
) -> tuple[JobDocument, list[Message]]:
    """The job with a cover drafted from other measures, and what of the maker's couldn't be kept."""
    have, before = dict(cover.panels), {p.id: p for p in cover.family.cover(job.house).panels}
    now = {p.id: p for p in job.panels}
    ids: dict[str, str] = {}
    edges: dict[tuple[str, str], str] = {}
    losses: list[Message] = []
    fresh_panels: dict[str, Panel] = {}
    for fresh in draft.panels:
        panel = now.get(have.get(fresh.id, ""))
        if panel is None or fresh.id not in before:
            ids[fresh.id] = f"new.{fresh.id}"[:16]
            others = [p for p in (*job.panels, *fresh_panels.values()) if p.id not in have.values()]
            fresh_panels[ids[fresh.id]] = replace(
                fresh, id=ids[fresh.id], name=free_name(fresh.name, others, is_numbered=False)
            )
            continue
        ids[fresh.id] = panel.id
        # a name that had a number put to it when the cover was drafted isn't the maker's
        own = replace(before[fresh.id], name=panel.name)
        redrafted, own_ids, more_losses = drafted_again(own, panel, replace(fresh, name=panel.name))
        fresh_panels[panel.id] = redrafted
        losses += more_losses
        edges |= {(fresh.id, f.id): own_ids.get(f.id, f"new.{f.id}"[:16]) for f in fresh.seam_line}
    removed_panels = set(have.values()) - set(fresh_panels)
    losses += [message("panel_no_longer_made", panel=now[p].name) for p in removed_panels if p in now]
    panels = [fresh_panels.pop(p.id, p) for p in job.panels if p.id not in removed_panels]
    panels += fresh_panels.values()
    by_hand = [j for j in without_panels(job.joins, removed_panels) if j.id not in cover.joins]
    joins = _lettered(replace(job, joins=tuple(by_hand)), [_renamed(j, ids, edges) for j in draft.joins])
    again = replace(cover, family=family, panels=tuple(ids.items()), joins=tuple(j.id for j in joins))
    result = replace(
        with_panels(replace(job, joins=()), panels),
        joins=(*_still_there(by_hand, panels), *joins),
        covers=tuple(again if c is cover else c for c in job.covers),
    )
    return result, losses


def _renamed(join: Join, ids: Mapping[str, str], edges: Mapping[tuple[str, str], str]) -> Join:
    def run(side: Sequence[Along]) -> tuple[Along, ...]:
        return tuple(replace(a, panel=ids[a.panel], edge=edges.get((a.panel, a.edge), a.edge)) for a in side)

    return replace(join, first=run(join.first), second=run(join.second), id=f"new.{join.id}"[:16])


def _still_there(joins: Sequence[Join], panels: Sequence[Panel]) -> list[Join]:
    """The joins all of whose edges are still there."""
    there = {(p.id, e.id) for p in panels for e in p.seam_line}
    return [j for j in joins if all((a.panel, a.edge) in there for a in (*j.first, *j.second))]


def _lettered(job: JobDocument, joins: Sequence[Join]) -> list[Join]:
    """The joins with the next letters that are free in the job."""
    lettered: list[Join] = []
    for join in joins:
        letter = free_letter({j.letter for j in (*job.joins, *lettered)})
        lettered.append(replace(join, letter=letter))
    return lettered

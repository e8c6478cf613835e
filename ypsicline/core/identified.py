"""The ids of a job: every panel, edge, feature, join, cover, piece and tape measure has one that nothing else in it has
or had.

A change makes and copies things; what it made is given ids here, counted through the job, and what was there keeps its own.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TypeVar

from ypsicline.core.covers.of_job import FamilyCover
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.pattern.ids import Identified
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.trueing.tape import TapeMeasure

__all__ = ["identified", "ids_of", "taken_in"]

T = TypeVar("T", bound=Identified)
_GIVEN = re.compile(r"[a-z]([0-9]{1,9})")


class _IdCounter:
    """Ids as they are given out: a letter and the next number."""

    def __init__(self, count: int) -> None:
        self.count = count

    def next(self, letter: str) -> str:
        self.count += 1
        return f"{letter}{self.count}"


def identified(job: JobDocument, before: JobDocument | None = None) -> JobDocument:
    """The job with an id for whatever has none that is its own; `before` is the job that it was made from.

    What was there keeps its id. All else gets a new one, also where it is a copy or was taken from elsewhere and has
    somebody else's; joins and covers follow what is new.
    """
    ids = _IdCounter(max(job.ids, before.ids if before else 0))
    earlier = {p.id: p for p in before.panels} if before else {}
    panels_with_ids = list(_own(job.panels, earlier, "p", ids))
    panels = tuple(_panel(p, earlier.get(p.id), ids) for p in panels_with_ids)
    new = _renamed(job.panels, panels, earlier)
    joins_before = {j.id: j for j in before.joins} if before else {}
    joins = tuple(_own([_join(j, new) for j in job.joins], joins_before, "j", ids))
    new_ids = {old.id: j.id for old, j in zip(job.joins, joins, strict=True) if old.id not in joins_before}
    covers_before = {c.id: c for c in before.covers} if before else {}
    covers = tuple(_own([_cover(c, new.panels, new_ids) for c in job.covers], covers_before, "k", ids))
    pieces_before = {p.id: p for p in before.pieces} if before else {}
    pieces = tuple(_piece(p, pieces_before.get(p.id), ids) for p in _own(job.pieces, pieces_before, "c", ids))
    if ids.count == job.ids:
        return job
    open_at = next((new.id for old, new in zip(job.pieces, pieces, strict=True) if old.id == job.open), "")
    return replace(job, panels=panels, pieces=pieces, joins=joins, covers=covers, open=open_at, ids=ids.count)


@dataclass(frozen=True)
class _New:
    """The ids that new `panels` were given, and those of new `edges` by (panel, edge), by those that they had."""

    panels: Mapping[str, str]
    edges: Mapping[tuple[str, str], str]


def _renamed(had: Sequence[Panel], have: Sequence[Panel], earlier: Mapping[str, Panel]) -> _New:
    panels: dict[str, str] = {}
    edges: dict[tuple[str, str], str] = {}
    for old, after in zip(had, have, strict=True):
        if after is old or (old.id in earlier and after.id != old.id):
            continue  # nothing is new, or it is a copy, which has no joins
        panels.setdefault(old.id, after.id)
        for e, f in zip(old.seam_line, after.seam_line, strict=True):
            edges.setdefault((old.id, e.id), f.id)
    return _New(panels, edges)


def _join(join: Join, new: _New) -> Join:
    def run(side: tuple[Along, ...]) -> tuple[Along, ...]:
        return tuple(
            replace(a, panel=new.panels.get(a.panel, a.panel), edge=new.edges.get((a.panel, a.edge), a.edge))
            for a in side
        )

    first, second = run(join.first), run(join.second)
    return join if (first, second) == (join.first, join.second) else replace(join, first=first, second=second)


def _cover(cover: FamilyCover, panels: Mapping[str, str], joins: Mapping[str, str]) -> FamilyCover:
    renamed = replace(
        cover,
        panels=tuple((role, panels.get(p, p)) for role, p in cover.panels),
        joins=tuple(joins.get(j, j) for j in cover.joins),
    )
    return cover if renamed == cover else renamed


def taken_in(job: JobDocument) -> JobDocument:
    """A job from elsewhere: with the ids that it has, where they are as jobs give them out, or with new ones."""
    ids = list(ids_of(job))
    numbers = [_GIVEN.fullmatch(name) for name in ids]
    as_given = len(set(ids)) == len(ids) and all(g and int(g[1]) <= job.ids for g in numbers)
    return job if as_given else identified(job)


def ids_of(job: JobDocument) -> Iterator[str]:
    """Every id in a job."""
    for panel in job.panels:
        yield from (panel.id, *(e.id for ring in panel.rings() for e in ring), *(f.id for f in panel.features))
    yield from (j.id for j in job.joins)
    yield from (c.id for c in job.covers)
    for piece in job.pieces:
        yield from (piece.id, *(m.id for m in piece.tape))


def _own(things: Sequence[T], earlier: Iterable[str], letter: str, ids: _IdCounter) -> Iterator[T]:
    """The things, each with an id of its own: the first that has one that is known keeps it."""
    earlier, used_ids = set(earlier), set()
    for thing in things:
        is_own = thing.id in earlier and thing.id not in used_ids
        used_ids.add(thing.id)
        yield thing if is_own else replace(thing, id=ids.next(letter))  # type: ignore[type-var]


def _panel(panel: Panel, before: Panel | None, ids: _IdCounter) -> Panel:
    if panel is before:
        return panel
    earlier = {t.id for ring in before.rings() for t in ring} | {f.id for f in before.features} if before else set()
    edges = {e.id: ids.next("e") for ring in panel.rings() for e in ring if e.id not in earlier}
    features = {f.id: ids.next("f") for f in panel.features if f.id not in earlier}
    if not edges and not features:
        return panel
    rings = [tuple(replace(e, id=edges.get(e.id, e.id)) for e in ring) for ring in panel.rings()]
    return replace(
        panel,
        seam_line=rings[0],
        holes=tuple(rings[1:]),
        features=tuple(f.renamed(edges | features) for f in panel.features),
    )


def _piece(piece: Piece, before: Piece | None, ids: _IdCounter) -> Piece:
    if piece is before:
        return piece
    earlier = {m.id for m in before.tape} if before else set()
    tape: tuple[TapeMeasure, ...] = tuple(_own(piece.tape, earlier, "t", ids))
    return piece if all(a is b for a, b in zip(tape, piece.tape, strict=True)) else replace(piece, tape=tape)

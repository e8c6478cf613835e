"""Joins with their walks, and bought goods, as files have them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, fields, replace

from ypsicline.core.covers.notion import Notion, NotionKind
from ypsicline.core.joins.walk import Verdict, Walk, walks
from ypsicline.core.pattern.ids import with_ids
from ypsicline.core.pattern.join import Along, Join
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.wording import render

__all__ = ["WrittenJoin", "WrittenNotion", "joined_by_ids", "written_joins", "written_notions"]


@dataclass(frozen=True)
class WrittenWalk:
    """A join walked: both sides along the seam line, mm, what is over on the second, and what it says."""

    first_mm: float
    second_mm: float
    difference_mm: float
    ratio: float
    verdict: Verdict
    sentence: str


@dataclass(frozen=True)
class WrittenJoin(Join):
    """A join as a file has it, walked."""

    walk: WrittenWalk | None = None


@dataclass(frozen=True)
class WrittenNotion:
    """Bought goods as a file has them; how they were reckoned in words."""

    kind: NotionKind
    count: int
    length_mm: float
    size_mm: float
    litres: float
    worked: str


def _walk(w: Walk) -> WrittenWalk:
    return WrittenWalk(w.first.length, w.second.length, w.difference_mm, w.ratio, w.verdict, render(w.words))


def written_joins(joins: Sequence[Join], panels: Sequence[Panel]) -> tuple[WrittenJoin, ...]:
    """Joins of these panels, walked. Raises `Refusal` where a panel or an edge of one isn't there."""
    own = [f.name for f in fields(Join)]
    return tuple(WrittenJoin(**{n: getattr(w.join, n) for n in own}, walk=_walk(w)) for w in walks(joins, panels))


def written_notions(notions: Sequence[Notion]) -> tuple[WrittenNotion, ...]:
    """Notions with their sums in words."""
    return tuple(WrittenNotion(n.kind, n.count, n.length_mm, n.size_mm, n.litres, render(n.working)) for n in notions)


def joined_by_ids(joins: Sequence[Join], panels: Sequence[Panel]) -> tuple[tuple[Join, ...], tuple[Panel, ...]]:
    """Joins and panels of a file, in which joins may tell panels by their names: all by ids."""
    panels_with_ids = with_ids("panel", panels)
    ids = {p.id for p in panels_with_ids}
    by_name = {p.name: p.id for p in panels_with_ids}

    def run(side: Sequence[Along]) -> tuple[Along, ...]:
        return tuple(a if a.panel in ids else replace(a, panel=by_name.get(a.panel, a.panel)) for a in side)

    return tuple(replace(j, first=run(j.first), second=run(j.second)) for j in joins), panels_with_ids

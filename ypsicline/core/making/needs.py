"""What a job takes to make, so that one set of choices can be held against another."""

from __future__ import annotations

from dataclasses import dataclass

from ypsicline.core.checks.checked import checked
from ypsicline.core.covers.of_job import drafted_cover
from ypsicline.core.drafting.draft import draft_panels
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.walk import walks
from ypsicline.core.making.rough_cloth import rough_cloth
from ypsicline.core.messages import Message

__all__ = ["Needs", "needs_of"]


@dataclass(frozen=True)
class Needs:
    """Pieces to cut, joins to sew and how long they are together, mm; the cloth, what to buy beside it, and how much is still
    to be settled."""

    pieces: int
    joins: int
    sewn_mm: float
    cloth: tuple[Message, ...]
    notions: tuple[Message, ...]
    findings: int


def needs_of(job: JobDocument) -> Needs:
    """What a job takes. Raises `Refusal` where a panel or a cover of it can't be drafted, or a join's edges are gone."""
    drafts = draft_panels(job.panels, job.house)
    join_walks = walks(job.joins, job.panels)
    return Needs(
        sum(p.pieces for p in drafts),
        len(join_walks),
        sum(min(w.first.length, w.second.length) for w in join_walks),
        rough_cloth(job, drafts),
        tuple(n.working for c in job.covers for n in drafted_cover(c.family, job.house).notions),
        sum(c.is_open for c in checked(job, drafts)),
    )

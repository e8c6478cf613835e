"""Joins that others, which are sewn sooner, close off (rule 10)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.joins.order import closed_off
from ypsicline.core.joins.walk import join_name
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look for each join that is sewn too late."""
    panels = {p.id: p for p in job.panels}
    for shut in closed_off(job.joins, job.panels):
        join, (first, *more) = join_name(shut.join, panels), [join_name(j, panels) for j in shut.by]
        by = (first, *(message("and_after_join", join=name) for name in more))
        text = message("join_closed_in" if shut.both_ends else "join_closed_off", join=join, by=by)
        yield Finding("look", text, join=shut.join.id)

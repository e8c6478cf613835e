"""What a job takes to make as it is and after a change, side by side."""

from __future__ import annotations

from dataclasses import dataclass

from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import show_length
from ypsicline.core.making.needs import needs_of
from ypsicline.core.wording import render_all

__all__ = ["NeedView", "need_views"]


@dataclass(frozen=True)
class NeedView:
    """One thing that a job needs, as it is `now` and as it would be `then`, a line each."""

    what: str
    now: list[str]
    then: list[str]


def need_views(now: JobDocument, then: JobDocument) -> list[NeedView]:
    """Each thing that either needs. Raises `Refusal` where one can't be drafted."""
    return [
        NeedView(what, list(a), list(b))
        for (what, a), (_, b) in zip(_lines(now).items(), _lines(then).items(), strict=True)
        if a or b
    ]


def _lines(job: JobDocument) -> dict[str, tuple[str, ...]]:
    needs = needs_of(job)
    return {
        "pieces to cut": (str(needs.pieces),),
        "joins": (str(needs.joins),),
        "seams to sew": (show_length(needs.sewn_mm, job.unit, with_unit=True),),
        "cloth": render_all(needs.cloth, job.unit),
        "to buy": render_all(needs.notions, job.unit),
        "to settle": (str(needs.findings),),
    }

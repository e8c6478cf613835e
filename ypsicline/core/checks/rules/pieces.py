"""Whether as many pieces are cut of each panel as its joins sew, and each of the hand that it needs."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from statistics import multimode

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A stop where a join sews a piece that isn't cut, a look where pieces are left over."""
    pieces_sewn = _sewn_pieces(job)
    # a whole cover cut several times has that many of nearly everything
    sets = min(multimode([p.pieces // pieces_sewn[p.id] for p in job.panels if p.id in pieces_sewn] or [1]))
    for panel in job.panels:
        if panel.id not in pieces_sewn:
            continue
        needed = pieces_sewn[panel.id] * max(sets, 1)
        if panel.pieces < needed:
            text = message("pieces_too_few", panel=panel.name, cut=panel.pieces, sewn=needed)
            yield Finding("stop", text, Place(panel.name))
        elif panel.pieces > needed:
            text = message("pieces_left_over", panel=panel.name, cut=panel.pieces, sewn=needed)
            yield Finding("look", text, Place(panel.name))


def _sewn_pieces(job: JobDocument) -> dict[str, int]:
    """How many pieces of each panel, by its id, the joins sew: the highest number of a piece that is spoken of."""
    most: dict[str, int] = defaultdict(int)
    for join in job.joins:
        for along in (*join.first, *join.second):
            most[along.panel] = max(most[along.panel], along.piece)
    return dict(most)

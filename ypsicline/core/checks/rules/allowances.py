"""Edges that are to be sewn or hemmed but have nothing to do it with."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A stop for each panel that has such edges."""
    for panel in job.panels:
        bare = [e for ring in panel.rings() for e in ring if e.is_bare]
        if bare:
            names = ", ".join(e.name for e in bare[:6])
            text = message("edges_without_allowance", count=len(bare), edges=names)
            yield Finding("stop", text, Place(panel.name, bare[0].name))

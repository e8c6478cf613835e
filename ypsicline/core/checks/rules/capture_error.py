"""Whether a captured outline is known well enough for the ease that is to be given to it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]

# an outline that may be off by more than this share of the least clearance isn't known well enough for it
MOST_SHARE = 0.5


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """A look where the error of a captured piece is more than half of the clearance that panels have."""
    clearances = [p.fit.outward_mm for p in job.panels if p.fit and p.fit.outward_mm > 0]
    if not clearances:
        return
    least = min(clearances)
    for piece in job.pieces:
        error = piece.shape.error_mm
        if error is not None and error > MOST_SHARE * least:
            text = message("capture_coarse_for_ease", piece=piece.name, error_mm=error, clearance_mm=least)
            yield Finding("look", text)

"""Where allowances are snipped so that they lie flat (rule 9)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from ypsicline.core.drafting.relief import SHORT_OF_SEAM_MM
from ypsicline.core.errors import Place
from ypsicline.core.findings import Finding
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import DraftedPanel

__all__ = ["check"]


def check(job: JobDocument, drafts: Sequence[DraftedPanel]) -> Iterable[Finding]:
    """How many cuts are drawn on each panel that needs some."""
    for panel in drafts:
        cuts = [m for m in panel.marks if m.kind == "relief"]
        if cuts:
            wedges = _wedges(sum(len(m.points) == 3 for m in cuts), len(cuts))
            figures = {"count": len(cuts), "short_mm": SHORT_OF_SEAM_MM}
            yield Finding(
                "fine", message("relief_cuts_drawn", panel=panel.name, wedges=wedges, **figures), Place(panel.name)
            )


def _wedges(wedges: int, cuts: int) -> Message:
    if wedges == cuts:
        return message("all_cuts_wedges")
    return message("wedges_among_cuts", wedges=wedges) if wedges else message("nothing")

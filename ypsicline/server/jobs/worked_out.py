"""What follows from a job's document: a traced ring's edges, worked out once for as long as it stays the same, and its drafts."""

from __future__ import annotations

from functools import lru_cache

from ypsicline.core.drafting.draft import cached_draft
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.pattern.panel import DraftedPanel, Panel
from ypsicline.core.trueing.shape import true_edges

__all__ = ["KEPT", "draft_of", "drafts_of", "edges_of_ring"]

KEPT = 256

edges_of_ring = lru_cache(maxsize=KEPT)(true_edges)


def draft_of(panel: Panel) -> tuple[DraftedPanel | None, Refusal | None]:
    """The drafted panel, or why it can't be drafted."""
    try:
        return cached_draft(panel), None
    except Refusal as e:
        return None, e


def drafts_of(document: JobDocument) -> list[DraftedPanel]:
    """The panels that can be drafted, drafted, in their order."""
    return [draft for panel in document.panels if (draft := draft_of(panel)[0])]

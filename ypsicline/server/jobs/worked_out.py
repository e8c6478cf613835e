"""What follows from a panel or a traced ring, worked out once for as long as it stays the same."""

from __future__ import annotations

from functools import lru_cache

from ypsicline.core.drafting.draft import draft_panel
from ypsicline.core.trueing.shape import true_edges

__all__ = ["KEPT", "drafted", "fitted"]

KEPT = 256

drafted = lru_cache(maxsize=KEPT)(draft_panel)
fitted = lru_cache(maxsize=KEPT)(true_edges)

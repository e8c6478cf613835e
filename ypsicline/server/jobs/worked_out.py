"""What follows from a traced ring, worked out once for as long as it stays the same."""

from __future__ import annotations

from functools import lru_cache

from ypsicline.core.trueing.shape import true_edges

__all__ = ["KEPT", "fitted"]

KEPT = 256

fitted = lru_cache(maxsize=KEPT)(true_edges)

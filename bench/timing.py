"""Timing one piece of work."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

__all__ = ["timed"]


def timed(work: Callable[[], object], runs: int = 25) -> float:
    """Median milliseconds of `runs` runs after a warm-up."""
    work()
    times = []
    for _ in range(runs):
        t = time.perf_counter()
        work()
        times.append(1000 * (time.perf_counter() - t))
    return statistics.median(times)

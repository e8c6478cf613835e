"""Timing one piece of work."""

from __future__ import annotations

import statistics
import sys
import time
from collections.abc import Callable
from functools import cache

__all__ = ["forget", "paired", "timed"]


def forget() -> None:
    """Clear what the core remembers of edges and panels that it has seen: each run works as if for the first time."""
    for clear in _clearing():
        clear()


@cache
def _clearing() -> tuple[Callable[[], None], ...]:
    """How each memory of the core is cleared; found once, for looking through all modules would cool the machine's own."""
    core = [vars(m) for name, m in sys.modules.items() if name.startswith("ypsicline.core")]
    result = [getattr(value, "cache_clear", None) for names in core for value in names.values()]
    return tuple({id(clear.__self__): clear for clear in result if callable(clear)}.values())


def timed(work: Callable[[], object], runs: int = 25, *, before: Callable[[], None] | None = None) -> float:
    """Median milliseconds of `runs` runs after a warm-up; `before` each something that isn't timed."""
    work()
    times = []
    for _ in range(runs):
        if before:
            before()
        times.append(_once(work))
    return statistics.median(times)


def paired(work: Callable[[], object], bare: Callable[[], object], runs: int = 60) -> tuple[float, float, float]:
    """Median milliseconds of both, run in turn on a machine whose speed may change, and the median ratio; the first
    forgets before each run."""
    work()
    bare()
    pairs = []
    for _ in range(runs):
        forget()
        pairs.append((_once(work), _once(bare)))
    own, other = (statistics.median(times) for times in zip(*pairs, strict=True))
    return own, other, statistics.median(a / b for a, b in pairs)


def _once(work: Callable[[], object]) -> float:
    t = time.perf_counter()
    work()
    return 1000 * (time.perf_counter() - t)

"""Independent parts of the work at the same time: OpenCV and NumPy let other threads run while they compute."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

__all__ = ["at_once"]

T = TypeVar("T")
R = TypeVar("R")


def at_once(work: Callable[[T], R], items: Iterable[T]) -> list[R]:
    """What `work` gives for each of `items`, in their order. Raises what the first that fails raises."""
    with ThreadPoolExecutor(os.cpu_count()) as threads:
        return list(threads.map(work, items))

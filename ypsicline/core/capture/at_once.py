"""Independent parts of the work at the same time, as many as OpenCV has threads: it and NumPy let others run meanwhile."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

import cv2

__all__ = ["at_once"]

T = TypeVar("T")
R = TypeVar("R")


def at_once(work: Callable[[T], R], items: Iterable[T]) -> list[R]:
    """What `work` gives for each of `items`, in their order. Raises what the first that fails raises."""
    with ThreadPoolExecutor(cv2.getNumThreads()) as threads:
        return list(threads.map(work, items))

"""A bound edge: a strip is folded over its raw edge."""

from __future__ import annotations

from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.finish import CutOnSeam

__all__ = ["Bound"]


class Bound(CutOnSeam):
    name = "bound"
    is_bound = True

    def stray_allowance(self, edge: str, allowance_mm: float) -> Message:
        return message("bound_with_allowance", edge=edge, allowance_mm=allowance_mm)

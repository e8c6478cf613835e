"""An edge that is cut and left raw."""

from __future__ import annotations

from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.finish import CutOnSeam

__all__ = ["Raw"]


class Raw(CutOnSeam):
    name = "raw"

    def stray_allowance(self, edge: str, allowance_mm: float) -> Message:
        return message("raw_with_allowance", edge=edge, allowance_mm=allowance_mm)

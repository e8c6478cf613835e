"""An edge that lies on a fold of the cloth: the panel is half of what is cut."""

from __future__ import annotations

from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.finish import CutOnSeam

__all__ = ["Fold"]


class Fold(CutOnSeam):
    name = "fold"
    is_on_fold = True

    def stray_allowance(self, edge: str, allowance_mm: float) -> Message:
        return message("fold_with_allowance", edge=edge, allowance_mm=allowance_mm)

"""What drafting says of a panel, in words."""

from __future__ import annotations

from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.wording import render

__all__ = ["sums_of"]


def sums_of(panel: DraftedPanel) -> list[str]:
    return [render(line) for line in panel.workings]

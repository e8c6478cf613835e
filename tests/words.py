"""What drafting says of a panel, in words."""

from __future__ import annotations

from ypsicline.core.pattern.panel import DraftedPanel
from ypsicline.core.wording import said

__all__ = ["sums_of"]


def sums_of(panel: DraftedPanel) -> list[str]:
    return [said(line) for line in panel.worked]

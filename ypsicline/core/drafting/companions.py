"""The pieces that go with a panel: its layers, and the facings of its apertures and edges."""

from __future__ import annotations

from ypsicline.core.drafting.edge_facings import edge_facings
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.pattern.panel import DraftedPanel, Panel

__all__ = ["companions"]


def companions(panel: Panel, draft: DraftedPanel, house: House | None = None) -> tuple[Panel, ...]:
    """Every piece that follows from a panel's features, and from its edges as they are `draft`; one of another cloth as that
    is in the `house`."""
    following = (*(c for f in panel.features for c in f.companions(panel)), *edge_facings(draft))
    return tuple(in_house(c, house) if house and c.cloth != panel.cloth else c for c in following)

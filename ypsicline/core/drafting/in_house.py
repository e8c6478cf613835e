"""A panel by the rules of its house and in its cloth."""

from __future__ import annotations

from dataclasses import replace

from ypsicline.core.drafting.fit import in_cloth
from ypsicline.core.drafting.house import House, by_house_rules
from ypsicline.core.pattern.panel import Panel

__all__ = ["in_house"]


def in_house(panel: Panel, house: House) -> Panel:
    """Allowances that follow from a rule as the house has them, and the shrinkage of the panel's cloth in its fit."""
    ruled = by_house_rules(panel, house)
    housed = replace(ruled, fit=in_cloth(ruled.fit, house.cloth(panel.cloth)))
    # the very same where nothing changes: what follows from a panel is remembered by it
    return panel if housed == panel else housed

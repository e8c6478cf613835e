"""The two sides of a lapped seam: one edge lies over the other."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["LappedOver", "LappedUnder"]


class LappedOver(Finish):
    name = "lapped_over"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.seam, 0.0, message("rule_lapped_over", seam_mm=rules.seam, lap_mm=rules.lap))


class LappedUnder(Finish):
    name = "lapped_under"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.lap, 0.0, message("rule_lapped_under", lap_mm=rules.lap))

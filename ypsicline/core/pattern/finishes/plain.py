"""A plain seam: sewn right sides together and pressed open or to one side."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Plain"]


class Plain(Finish):
    name = "plain"
    right_angles = 1
    is_trimmed_at_points = True

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.seam, 0.0, message("rule_plain", allowance_mm=rules.seam))

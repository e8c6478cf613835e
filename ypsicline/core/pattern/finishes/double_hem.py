"""A hem folded twice: its raw edge is turned under."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["DoubleHem"]


class DoubleHem(Finish):
    name = "double_hem"
    is_folded_back = True
    right_angles = 2

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        under = min(rules.turn_under, rules.double_hem)
        total = rules.double_hem + under
        working = message("rule_double_hem", hem_mm=rules.double_hem, under_mm=under, total_mm=total)
        return RuledAllowance(total, under, working)

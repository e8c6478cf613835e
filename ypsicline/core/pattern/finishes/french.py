"""A French seam: sewn wrong sides together first, then with its raw edges shut in."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["French"]


class French(Finish):
    name = "french"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        first, second = rules.french_first, rules.french_second
        working = message("rule_french", first_mm=first, second_mm=second, total_mm=first + second)
        return RuledAllowance(first + second, 0.0, working)

"""A hem folded back once, its raw edge neatened."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Hem"]


class Hem(Finish):
    name = "hem"
    is_folded_back = True
    right_angles = 2

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.hem, 0.0, message("rule_hem", hem_mm=rules.hem))

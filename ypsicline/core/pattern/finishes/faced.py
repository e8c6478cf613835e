"""A faced edge: a strip of its own shape is sewn along it and turned to the wrong side."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Faced"]


class Faced(Finish):
    name = "faced"
    has_facing = True
    right_angles = 2

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.faced, 0.0, message("rule_plain", allowance_mm=rules.faced))

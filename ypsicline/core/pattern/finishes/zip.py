"""An edge with one tape of a zip under it."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Zip"]


class Zip(Finish):
    name = "zip"
    right_angles = 1
    strengthened_by = "bar"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.zip, 0.0, message("rule_plain", allowance_mm=rules.zip))

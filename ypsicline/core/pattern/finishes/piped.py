"""A piped seam: a covered cord is sewn between its two edges."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Piped"]


class Piped(Finish):
    name = "piped"
    right_angles = 1

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        return RuledAllowance(rules.piped, 0.0, message("rule_plain", allowance_mm=rules.piped))

"""A pinked edge: a plain seam's allowance and the depth of the teeth that keep it from fraying."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

TEETH_MM = 3.0


class Pinked(Finish):
    name = "pinked"
    right_angles = 1

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        total = rules.seam + TEETH_MM
        working = message("rule_pinked", seam_mm=rules.seam, teeth_mm=TEETH_MM, total_mm=total)
        return RuledAllowance(total, 0.0, working)

"""The two sides of a flat-felled seam: the wide one is folded round the narrow one, and both are stitched down."""

from __future__ import annotations

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["FelledNarrow", "FelledWide"]

INSIDE_FOLD_MM = 2.0


class FelledNarrow(Finish):
    """The side that lies inside the fold, with 2 mm to spare."""

    name = "felled_narrow"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        narrow = rules.felled - INSIDE_FOLD_MM
        working = message("rule_felled_narrow", felled_mm=rules.felled, inside_mm=INSIDE_FOLD_MM, total_mm=narrow)
        return RuledAllowance(narrow, 0.0, working)


class FelledWide(Finish):
    """The side that wraps the narrow one."""

    name = "felled_wide"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        narrow = rules.felled - INSIDE_FOLD_MM
        wide = 2 * rules.felled - INSIDE_FOLD_MM
        working = message("rule_felled_wide", felled_mm=rules.felled, under_mm=narrow, total_mm=wide)
        return RuledAllowance(wide, 0.0, working)

"""A casing: folded back twice, with a cord or elastic running in it."""

from __future__ import annotations

import math

from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, RuledAllowance
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Casing"]

_USUAL_CORD_MM = 5.0
_MORE_THAN_CORD_MM, _MORE_THAN_ELASTIC_MM = 3.0, 4.0


class Casing(Finish):
    """For a cord of diameter q at least πq/2 + 3 deep, for elastic of width w at least w + 4."""

    name = "casing"
    is_folded_back = True
    right_angles = 2
    strengthened_by = "lock"

    def allowance_by_rule(self, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0) -> RuledAllowance:
        if elastic_mm > 0:
            room = elastic_mm + _MORE_THAN_ELASTIC_MM
            how = message("rule_elastic", elastic_mm=elastic_mm, more_mm=_MORE_THAN_ELASTIC_MM, room_mm=room)
        else:
            cord = cord_mm or _USUAL_CORD_MM
            room = math.pi * cord / 2 + _MORE_THAN_CORD_MM
            how = message("rule_cord", cord_mm=cord, more_mm=_MORE_THAN_CORD_MM, room_mm=room)
        depth = math.ceil(max(room + rules.stitched_from_fold, rules.turn_under) - 1e-9)
        total = depth + rules.turn_under
        working = message(
            "rule_casing",
            room=how, stitched_mm=rules.stitched_from_fold, depth_mm=depth, under_mm=rules.turn_under, total_mm=total,
        )  # fmt: skip
        return RuledAllowance(total, rules.turn_under, working)

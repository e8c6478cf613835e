"""House rules: how much a workshop usually takes for each finish."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["HouseRules"]

_LARGEST_MM = 200.0
_NARROWEST_FELL_MM = 4.0


@dataclass(frozen=True)
class HouseRules:
    """What a workshop usually takes, mm.

    `french_first` and `french_second` are the two passes of a French seam; `felled` is how wide a
    flat-felled seam shows; `lap` how far one edge lies under the other; `stitched_from_fold` how far
    a casing's row of stitching lies from its inner fold. Raises `Refusal` for what no workshop takes.
    """

    seam: float = 12.0
    piped: float = 12.0
    faced: float = 10.0
    hem: float = 25.0
    double_hem: float = 20.0
    turn_under: float = 10.0
    stitched_from_fold: float = 2.0
    felled: float = 10.0
    french_first: float = 6.0
    french_second: float = 9.0
    lap: float = 15.0
    zip: float = 15.0

    def __post_init__(self) -> None:
        for f in fields(self):
            value = getattr(self, f.name)
            if not (math.isfinite(value) and 0 <= value <= _LARGEST_MM):
                figures = {"value_mm": value, "most_mm": _LARGEST_MM}
                raise Refusal(message("house_rule_out_of_range", rule=f.name.replace("_", " "), **figures), "house")
        if self.felled < _NARROWEST_FELL_MM:
            raise Refusal(message("fell_too_narrow", least_mm=_NARROWEST_FELL_MM), "house")

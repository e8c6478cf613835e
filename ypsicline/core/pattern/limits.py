"""Figures held to what they can be."""

from __future__ import annotations

import math

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message

__all__ = ["LARGEST_MM", "within"]

LARGEST_MM = 20_000.0


def within(what: Message, value: float, low: float, high: float, unit: str = "mm") -> None:
    """Raise `Refusal` where a figure lies outside `low` to `high`, or is none."""
    if not (math.isfinite(value) and low <= value <= high):
        if unit == "mm":
            raise Refusal(
                message("length_out_of_range", what=what, value_mm=value, low_mm=low, high_mm=high), "measure"
            )
        raise Refusal(message("value_out_of_range", what=what, value=value, unit=unit, low=low, high=high), "measure")

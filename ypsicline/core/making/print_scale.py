"""What a printer does to size, from what its test marks measure."""

from __future__ import annotations

from ypsicline.core.errors import Refused
from ypsicline.core.messages import message

__all__ = ["compensation", "measured_scale"]

MARK_MM = 100.0


def measured_scale(across_mm: float, up_mm: float) -> tuple[float, float]:
    """How large things came out, per axis, from the measured lengths of the two 100 mm marks.

    Raises `Refused` beyond 10 %, which no printer does unless told to.
    """
    for where, measured in (("across", across_mm), ("up the page", up_mm)):
        if not 90 <= measured <= 110:
            raise Refused(
                message("test_mark_unlikely", where=where, measured_mm=measured),
                "print_scale", numbers={"measured_mm": measured},
            )  # fmt: skip
    return across_mm / MARK_MM, up_mm / MARK_MM


def compensation(across_mm: float, up_mm: float) -> tuple[float, float]:
    """By how much later prints are enlarged, per axis: wanted ÷ measured."""
    x, y = measured_scale(across_mm, up_mm)
    return 1 / x, 1 / y

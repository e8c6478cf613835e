"""What a printer does to size, from what its test marks measure."""

from __future__ import annotations

from ypsicline.core.errors import Refusal
from ypsicline.core.lengths import Unit
from ypsicline.core.messages import message

__all__ = ["TEST_MARKS", "compensation", "measured_scale"]

TEST_MARKS: dict[Unit, tuple[str, float]] = {"mm": ("100 mm", 100.0), "cm": ("100 mm", 100.0), "in": ("4 in", 101.6)}
"""The test mark that is measured by a rule in this unit: its label on the print, and how long it is, mm."""


def measured_scale(across_mm: float, up_mm: float, unit: Unit = "mm") -> tuple[float, float]:
    """How large things came out, per axis, from the measured lengths of the two test marks of a unit.

    Raises `Refusal` beyond 10 %, which no printer does unless told to.
    """
    label, nominal = TEST_MARKS[unit]
    for where, measure in ((message("mark_across"), across_mm), (message("mark_up_the_page"), up_mm)):
        if not 0.9 <= measure / nominal <= 1.1:
            raise Refusal(
                message("test_mark_unlikely", mark=label, where=where, measured_mm=measure),
                "print_scale", numbers={"measured_mm": measure},
            )  # fmt: skip
    return across_mm / nominal, up_mm / nominal


def compensation(across_mm: float, up_mm: float, unit: Unit = "mm") -> tuple[float, float]:
    """By how much later prints are enlarged, per axis: wanted ÷ measured."""
    x, y = measured_scale(across_mm, up_mm, unit)
    return 1 / x, 1 / y

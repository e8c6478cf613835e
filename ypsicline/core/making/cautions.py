"""The usual cautions that follow from a job's brief: one sentence each, where the risk arises."""

from __future__ import annotations

from ypsicline.core.job import Brief
from ypsicline.core.messages import Message, message

__all__ = ["CAUTIONS", "cautions"]

CAUTIONS: dict[str, Message] = {
    "heat": message("caution_heat"),
    "motor": message("caution_motor"),
    "seating": message("caution_seating"),
    "filling": message("caution_filling"),
    "cord": message("caution_cord"),
    "vehicle": message("caution_vehicle"),
    "weight": message("caution_weight"),
    "dust": message("caution_dust"),
}


def cautions(brief: Brief) -> tuple[Message, ...]:
    """The cautions for what the covered thing is near to or made with, in a fixed order."""
    return tuple(text for key, text in CAUTIONS.items() if key in brief.near)

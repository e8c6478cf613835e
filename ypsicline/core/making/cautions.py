"""The usual cautions that follow from a job's brief: one sentence each, where the risk arises."""

from __future__ import annotations

from ypsicline.core.job import Brief

__all__ = ["CAUTIONS", "cautions"]

CAUTIONS: dict[str, str] = {
    "heat": "Never cover anything hot or running: let it cool and unplug it first, and keep cloth away from kilns and lamps.",
    "motor": "No cover while the machine runs; switch it off and unplug it, and leave its vents free.",
    "seating": "Flammability rules for seating differ by country: follow your local code and the cloth's certificate.",
    "filling": "Loose filling chokes and smothers: put it in an inner bag with a closed-off zip, away from small children.",
    "cord": "A cord or tie can strangle: keep ends short, use a breakaway lock, and don't use it within children's reach.",
    "vehicle": "Never leave the cover on while a vehicle or boat moves, nor over vents, controls or lights.",
    "weight": "What carries a person is to be tested by somebody competent before it is used.",
    "dust": "Clay and glaze dust harms lungs: shake the old cover out wet or outdoors, and wear a mask.",
}


def cautions(brief: Brief) -> tuple[str, ...]:
    """The cautions for what the covered thing is near to or made with, in a fixed order."""
    return tuple(text for key, text in CAUTIONS.items() if key in brief.near)

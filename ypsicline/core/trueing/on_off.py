"""Worn covers measured on the frame (stretched) and off it (relaxed): rule 12 of drafting."""

from __future__ import annotations

from dataclasses import dataclass

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message

__all__ = ["OnOff", "on_off"]

MOST_STRETCH = 0.6


@dataclass(frozen=True)
class OnOff:
    """`stretch` is what the old cover stretches in use, as a share of its relaxed length; `cut_mm` the new finished
    length that lies as tight when its cloth stretches by as much as was said; and the working in words."""

    stretch: float
    cut_mm: float
    workings: tuple[Message, ...]


def on_off(name: str, on_mm: float, off_mm: float | None, new_stretch: float | None = None) -> OnOff:
    """One direction of a cover measured `on_mm` on its frame and, if it could be, `off_mm` off it.

    Stretch in use = (on − off) / off; a new cloth that stretches by `new_stretch` at the same
    tension (the old cover's where not given) is made on / (1 + stretch) long. Raises `Refusal`
    where off is longer than on, and for a stretch that no cover has.
    """
    if on_mm <= 0 or (off_mm is not None and off_mm <= 0):
        raise Refusal(message("must_be_longer_than_nothing", name=name), "measure")
    if off_mm is not None and off_mm > on_mm:
        raise Refusal(message("off_longer_than_on", name=name, off_mm=off_mm, on_mm=on_mm), "measure")
    stretch = 0.0 if off_mm is None else (on_mm - off_mm) / off_mm
    share = stretch if new_stretch is None else new_stretch
    for what, value in ((message("stretch_of_old_cover"), stretch), (message("stretch_of_new_cloth"), share)):
        if not 0 <= value <= MOST_STRETCH:
            raise Refusal(
                message("stretch_of_measure_out_of_range", what=what, percent=100 * value, name=name, most=100 * MOST_STRETCH),
                "measure", numbers={"stretch": value},
            )  # fmt: skip
    cut = on_mm / (1 + share)
    workings: list[Message] = []
    if off_mm is not None:
        workings.append(message("stretch_in_use", name=name, on_mm=on_mm, off_mm=off_mm, percent=100 * stretch))
    workings.append(message("cut_for_stretch", name=name, on_mm=on_mm, stretched=1 + share, cut_mm=cut))
    return OnOff(stretch, cut, tuple(workings))

"""A job as a whole: the document that is stored, undone, redone, exported and read back."""

from __future__ import annotations

import datetime
from dataclasses import dataclass, field

from ypsicline.core.drafting.panel import Panel
from ypsicline.core.errors import Refused
from ypsicline.core.lengths import Unit
from ypsicline.core.trueing.shape import Shape
from ypsicline.core.trueing.tape import TapeMeasure

__all__ = ["Brief", "JobDocument", "check_text"]

LONGEST_NAME = 80
LONGEST_TEXT = 2000


@dataclass(frozen=True)
class Brief:
    """What is covered and how: answers in the maker's words, and a few choices that cautions follow from."""

    covers: str = ""
    against: tuple[str, ...] = ()
    goes_on: str = ""
    looseness: str = ""
    sticks_out: str = ""
    cloth: str = ""
    near: tuple[str, ...] = ()
    notes: str = ""

    def __post_init__(self) -> None:
        for text in (self.covers, self.goes_on, self.looseness, self.sticks_out, self.cloth, self.notes):
            if len(text) > LONGEST_TEXT:
                raise Refused(f"A note in the brief is over {LONGEST_TEXT} letters long; shorten it.", "brief")


@dataclass(frozen=True)
class JobDocument:
    """Everything a maker decided about a job. Lengths in mm; `unit` is only what is shown and typed.

    `print_scale` is what the last test marks asked for: later prints are drawn larger by it, per axis
    (wanted ÷ measured). `sheet_scale` is how large the reference sheets in the photos were printed
    (measured ÷ wanted).
    """

    name: str
    for_whom: str = ""
    due: datetime.date | None = None
    unit: Unit = "mm"
    brief: Brief = field(default_factory=Brief)
    shape: Shape | None = None
    tape: tuple[TapeMeasure, ...] = ()
    panels: tuple[Panel, ...] = ()
    print_scale: tuple[float, float] = (1.0, 1.0)
    sheet_scale: tuple[float, float] = (1.0, 1.0)

    def __post_init__(self) -> None:
        check_text("job's name", self.name, required=True)
        check_text("name of whom it is for", self.for_whom)
        for scale in (*self.print_scale, *self.sheet_scale):
            if not 0.8 <= scale <= 1.25:
                raise Refused(
                    f"That would make the print out by a factor of {scale:.3f}; a printer is never that far off. "
                    "Check what the test mark measures and its unit.",
                    "print_scale", numbers={"scale": scale},
                )  # fmt: skip


def check_text(what: str, text: str, *, required: bool = False, most: int = LONGEST_NAME) -> None:
    """Raise `Refused` where a one-line text is missing, too long or not one line."""
    if required and not text.strip():
        raise Refused(f"The {what} is missing; type it in.", "name")
    if len(text) > most or any(ord(c) < 32 for c in text):
        raise Refused(f"The {what} is one line of {most} letters at most.", "name")

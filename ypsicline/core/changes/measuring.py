"""Changes that put a measured outline on the table: by tape, and by the pen of a digitising tablet."""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import Literal

from ypsicline.core.capture.tablet import aligned
from ypsicline.core.geometry.edges import Point
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.trueing.measured import (
    MeasuredOutline,
    four_sided,
    from_edges,
    from_stations,
    rectangle,
    round_of_girth,
)
from ypsicline.core.trueing.on_off import on_off
from ypsicline.core.trueing.shape import true_up
from ypsicline.core.typed import Length, LengthIfTyped, LengthOrNone, ShareIfTyped, SignedLength

__all__ = [
    "MeasureFourSided", "MeasureOnOff", "MeasureRectangle", "MeasureRound", "MeasureStations", "MeasureTouches", "Offsets",
]  # fmt: skip

# how well a hand touches a line with the tablet's pen
_TOUCH_ERROR_MM = 0.5


class _MeasuredIn(ABC):
    """A change whose outline follows from its measures alone."""

    @abstractmethod
    def measure(self) -> MeasuredOutline:
        """What the measures make. Raises `Refusal` where they make nothing."""

    def on(self, job: JobDocument) -> JobDocument:
        return job.with_outline(from_edges(self.measure().edges))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message(
            "measured_in", worked=tuple(message("measured_line", line=line) for line in self.measure().workings)
        )


@dataclass(frozen=True)
class MeasureFourSided(_MeasuredIn):
    """Sides and diagonals; a diagonal may be left out."""

    ab: Length
    bc: Length
    cd: Length
    da: Length
    ac: LengthIfTyped = None
    bd: LengthIfTyped = None
    symmetric: bool = False
    kind: Literal["measure_four_sided"] = "measure_four_sided"

    def measure(self) -> MeasuredOutline:
        return four_sided(self.ab, self.bc, self.cd, self.da, self.ac, self.bd, symmetric=self.symmetric)


@dataclass(frozen=True)
class MeasureRectangle(_MeasuredIn):
    """Width and length, and what is known of the corners: their radius, or the diagonal through them."""

    width: Length
    length: Length
    radius: LengthIfTyped = None
    diagonal: LengthIfTyped = None
    kind: Literal["measure_rectangle"] = "measure_rectangle"

    def measure(self) -> MeasuredOutline:
        return rectangle(self.width, self.length, radius=self.radius, diagonal=self.diagonal)


@dataclass(frozen=True)
class MeasureRound(_MeasuredIn):
    """A girth, and how far the pencil stood off, if it was drawn round."""

    girth: Length
    pencil: LengthOrNone = 0.0
    kind: Literal["measure_round"] = "measure_round"

    def measure(self) -> MeasuredOutline:
        return round_of_girth(self.girth, pencil=self.pencil)


@dataclass(frozen=True)
class Offsets:
    """Offsets from a base line `at` so far along it."""

    at: SignedLength
    upper: SignedLength
    lower: SignedLength = 0.0


@dataclass(frozen=True)
class MeasureStations(_MeasuredIn):
    stations: tuple[Offsets, ...]
    smooth: bool = True
    kind: Literal["measure_stations"] = "measure_stations"

    def measure(self) -> MeasuredOutline:
        return from_stations([(s.at, s.lower, s.upper) for s in self.stations], smooth=self.smooth)


@dataclass(frozen=True)
class MeasureOnOff(_MeasuredIn):
    """A worn cover on and off its frame; an off measure may be left out. The new cloth's stretch in use is the old
    one's where none is given."""

    width_on: Length
    length_on: Length
    width_off: LengthIfTyped = None
    length_off: LengthIfTyped = None
    stretch_across: ShareIfTyped = None
    stretch_along: ShareIfTyped = None
    kind: Literal["measure_on_off"] = "measure_on_off"

    def measure(self) -> MeasuredOutline:
        width = on_off("width", self.width_on, self.width_off, self.stretch_across)
        length = on_off("length", self.length_on, self.length_off, self.stretch_along)
        outline = rectangle(width.cut_mm, length.cut_mm)
        return MeasuredOutline(outline.edges, outline.residuals, (*width.workings, *length.workings))


@dataclass(frozen=True)
class MeasureTouches:
    """What was touched on a tablet, mm on it: first two marks that lie `apart`, then the outline."""

    touches: tuple[Point, ...]
    apart: Length
    kind: Literal["measure_touches"] = "measure_touches"

    def on(self, job: JobDocument) -> JobDocument:
        ring, _ = aligned(self.touches, self.apart)
        return job.with_outline(true_up([(float(x), float(y)) for x, y in ring], error_mm=_TOUCH_ERROR_MM))

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        _, scale = aligned(self.touches, self.apart)
        return message("touched_on_tablet", percent=100 * (scale - 1))

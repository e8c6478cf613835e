"""What a maker asks of a panel beyond its edges: fit, tapers, darts, gathers, apertures, marks, layers."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields, replace
from typing import Literal

from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Point

__all__ = [
    "Aperture", "ApertureFinish", "Dart", "Fit", "Gather", "Layer", "LayerRole", "Lies", "MarkAt", "MarkKind", "Pleats", "Taper",
]  # fmt: skip

LARGEST_MM = 20_000.0
MOST_PLEATS = 40


def _within(what: str, value: float, low: float, high: float, unit: str = "mm") -> None:
    if not (math.isfinite(value) and low <= value <= high):
        raise Refused(f"{what} is {value:g} {unit}; give {low:g} to {high:g} {unit}.", "measure")


@dataclass(frozen=True)
class Fit:
    """How a seam line differs from the object's outline (rule 3); lengths in mm, shares of 1.

    In this order: `percent` of the size; `width` and `height` added across and up; `clearance` all
    round, `girth` on the ring as a whole and `over`, the thickness of a layer that it lies over;
    the cloth's `stretched` share in use, along the grain and across it; and what it will have
    `shrunk` by. Negative eases are a stretch fit.
    """

    percent: float = 0.0
    width: float = 0.0
    height: float = 0.0
    clearance: float = 0.0
    girth: float = 0.0
    over: float = 0.0
    stretched: tuple[float, float] = (0.0, 0.0)
    shrunk: tuple[float, float] = (0.0, 0.0)

    def __post_init__(self) -> None:
        _within("The percentage of ease", self.percent, -50, 100, "%")
        for f in fields(self)[1:5]:
            _within(f"The ease “{f.name}”", getattr(self, f.name), -1000, 1000)
        _within("The thickness lain over", self.over, 0, 500)
        for share in self.stretched:
            _within("The stretch used", 100 * share, 0, 200, "%")
        for share in self.shrunk:
            _within("The shrinkage", 100 * share, 0, 50, "%")

    @property
    def of_ease(self) -> Fit:
        """What of it changes the finished cover: all but stretch and shrinkage."""
        return replace(self, stretched=(0.0, 0.0), shrunk=(0.0, 0.0))

    @property
    def has_ease(self) -> bool:
        return self.of_ease != Fit()

    @property
    def of_cloth(self) -> Fit | None:
        """Stretch and shrinkage alone; None where there is neither."""
        own = Fit(stretched=self.stretched, shrunk=self.shrunk)
        return None if own == Fit() else own

    @property
    def outward_mm(self) -> float:
        """How far the seam line lies outside the outline, all round."""
        return self.clearance + self.girth / (2 * math.pi) + self.over


@dataclass(frozen=True)
class Taper:
    """A tapered corner at the end of edge `edge` (rule 7): it starts `reach` before the corner along that edge and
    `reach_after` behind it along the next, and the new corner lies `inset` inside both; straight, or `curved`."""

    edge: int
    reach: float
    reach_after: float
    inset: float
    curved: bool = False

    def __post_init__(self) -> None:
        for value in (self.reach, self.reach_after):
            _within("The reach of a taper", value, 1, LARGEST_MM)
        _within("The inset of a taper", self.inset, 0.1, 500)


@dataclass(frozen=True)
class Dart:
    """A wedge sewn out of an edge: its legs stand `intake` apart with their middle `along` the edge from its start,
    and meet `length` inside the seam line.

    `lean` moves the apex along the edge's direction. `bow` bends both legs: by so much, at their
    middle, into the wedge (positive) or out of it. Folded `towards` the edge's start or end, or
    `cut` away with an allowance. `corner`: it stands at the edge's end with half of its intake on
    the next edge, its apex on the bisector.
    """

    edge: int
    along: float
    intake: float
    length: float
    lean: float = 0.0
    bow: float = 0.0
    towards: Literal["start", "end"] = "start"
    cut: bool = False
    corner: bool = False

    def __post_init__(self) -> None:
        _within("A dart's place", self.along, 0, LARGEST_MM)
        _within("A dart's intake", self.intake, 0.5, LARGEST_MM)
        _within("A dart's length", self.length, 5, LARGEST_MM)
        _within("A dart's lean", self.lean, -LARGEST_MM, LARGEST_MM)
        _within("The bow of a dart's legs", self.bow, -100, 100)


@dataclass(frozen=True)
class Pleats:
    """`count` equal pleats that take `intake` out of an edge together, the first `along` it, one every `pitch`;
    folded `towards` its start or end, or `box`: both ways. Their fold lines run `depth` into the panel."""

    edge: int
    along: float
    intake: float
    count: int = 1
    pitch: float = 0.0
    towards: Literal["start", "end", "box"] = "start"
    depth: float = 50.0

    def __post_init__(self) -> None:
        _within("The place of pleats", self.along, 0, LARGEST_MM)
        _within("The intake of pleats", self.intake, 1, LARGEST_MM)
        _within("The number of pleats", self.count, 1, MOST_PLEATS, "")
        _within("The pitch of pleats", self.pitch, 0, LARGEST_MM)
        _within("The depth of pleats", self.depth, 5, LARGEST_MM)

    @property
    def each(self) -> float:
        """What one of them takes, mm."""
        return self.intake / self.count

    @property
    def every(self) -> float:
        """How far one begins after another, mm."""
        return self.pitch or self.each * 1.5

    @property
    def span(self) -> float:
        """How much of the edge they stand on together, mm."""
        return (self.count - 1) * self.every + self.each


@dataclass(frozen=True)
class Gather:
    """An edge that is gathered to a `ratio`-th of its length."""

    edge: int
    ratio: float

    def __post_init__(self) -> None:
        _within("A gather's ratio", self.ratio, 1.01, 6, "")


ApertureFinish = Literal["hemmed", "faced", "bound", "eyelet", "raw"]


@dataclass(frozen=True)
class Aperture:
    """An opening at `at`, mm in the panel's frame (rule 13).

    `size` is what passes through it, its diameter or its width and height, and `clearance` the room
    around that; a slot is a rectangle with round ends, an `outline` is drawn by its own `ring` about
    `at`. `finish`: hemmed by `depth`, faced, bound, an eyelet, or cut raw. `slit` leads from it to
    the nearest edge, `slit_deg` the direction if it is to run otherwise; its zip is the next of
    `stocked` lengths, and shows by `zip_shows`. The cord is led out `cord_exit` either side of it.
    """

    kind: Literal["round", "slot", "rectangle", "outline"]
    at: Point
    size: tuple[float, float]
    finish: ApertureFinish = "hemmed"
    name: str = "aperture"
    clearance: float = 0.0
    turn_deg: float = 0.0
    depth: float = 10.0
    slit: bool = False
    slit_deg: float | None = None
    stocked: tuple[float, ...] = ()
    zip_shows: float = 0.0
    cord_exit: float = 0.0
    ring: tuple[Point, ...] = ()

    def __post_init__(self) -> None:
        for value in self.size:
            _within(f"The size of “{self.name}”", value, 1, LARGEST_MM)
        for value in self.at:
            _within(f"The place of “{self.name}”", value, -1e6, 1e6)
        _within(f"The clearance of “{self.name}”", self.clearance, 0, 500)
        _within(f"The hem of “{self.name}”", self.depth, 0, 200)
        _within(f"The width that the zip of “{self.name}” shows", self.zip_shows, 0, 200)
        _within(f"The cord's exits beside “{self.name}”", self.cord_exit, 0, 2000)
        if self.kind == "outline" and not 3 <= len(self.ring) <= 2000:
            raise Refused(f"The outline of “{self.name}” has 3 to 2000 points.", "aperture")
        if not 1 <= len(self.name) <= 40 or any(ord(c) < 32 for c in self.name):
            raise Refused("An aperture's name is one line of 1 to 40 letters.", "name", Place(point=self.at))
        if len(self.stocked) > 40 or any(not 10 <= z <= LARGEST_MM for z in self.stocked):
            raise Refused("At most 40 zip lengths, each over 10 mm, can be in stock.", "aperture")


MarkKind = Literal[
    "button", "tie", "exit", "bar", "lock", "patch", "hand_sewn", "centre", "cross", "wrong_side", "top", "note",
]  # fmt: skip


@dataclass(frozen=True)
class MarkAt:
    """A mark that the maker places: at a point of the panel, or from `at` to `to` (a hand-sewn stretch, a centre
    line), with words."""

    kind: MarkKind
    at: Point
    to: Point | None = None
    words: str = ""

    def __post_init__(self) -> None:
        for value in (*self.at, *(self.to or ())):
            _within("The place of a mark", value, -1e6, 1e6)
        if len(self.words) > 80 or any(ord(c) < 32 for c in self.words):
            raise Refused("A mark's words are one line of 80 letters at most.", "name", Place(point=self.at))


LayerRole = Literal["lining", "wadding", "foam", "interlining"]


@dataclass(frozen=True)
class Layer:
    """Another layer cut from the same seam line: of `cloth`, `grown` outward (negative: trimmed), with its own
    `allowance` all round; what is `cut_larger` is trimmed back once it is sewn."""

    role: LayerRole
    cloth: str
    grown: float = 0.0
    allowance: float = 0.0
    cut_larger: float = 0.0

    def __post_init__(self) -> None:
        if not 1 <= len(self.cloth) <= 40 or any(ord(c) < 32 for c in self.cloth):
            raise Refused("A layer's cloth is one line of 1 to 40 letters.", "name")
        _within("A layer's growth", self.grown, -200, 200)
        _within("A layer's allowance", self.allowance, 0, 300)
        _within("What a layer is cut larger by", self.cut_larger, 0, 300)


@dataclass(frozen=True)
class Lies:
    """Where a panel lies on the table: its frame's origin, turned by `turn_deg` and flipped first (x mirrored)."""

    at: Point
    turn_deg: float = 0.0
    flipped: bool = False

    def __post_init__(self) -> None:
        for value in self.at:
            _within("A panel's place on the table", value, -1e6, 1e6)
        _within("A panel's turn", self.turn_deg, -360, 360, "°")

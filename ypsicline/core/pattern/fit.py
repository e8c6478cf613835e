"""How a panel differs from the outline of its object, and where it lies on the table."""

from __future__ import annotations

import math
from dataclasses import dataclass, fields, replace

from ypsicline.core.geometry.edges import Point
from ypsicline.core.messages import message
from ypsicline.core.pattern.limits import within

__all__ = ["Fit", "Lies"]


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
        within(message("figure_percentage_of_ease"), self.percent, -50, 100, "%")
        for f in fields(self)[1:5]:
            within(message("figure_ease", name=f.name), getattr(self, f.name), -1000, 1000)
        within(message("figure_thickness_lain_over"), self.over, 0, 500)
        for share in self.stretched:
            within(message("figure_stretch_used"), 100 * share, 0, 200, "%")
        for share in self.shrunk:
            within(message("figure_shrinkage"), 100 * share, 0, 50, "%")

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
class Lies:
    """Where a panel lies on the table: its frame's origin, turned by `turn_deg` and flipped first (x mirrored)."""

    at: Point
    turn_deg: float = 0.0
    flipped: bool = False

    def __post_init__(self) -> None:
        for value in self.at:
            within(message("figure_panel_place_on_the_table"), value, -1e6, 1e6)
        within(message("figure_panel_turn"), self.turn_deg, -360, 360, "°")

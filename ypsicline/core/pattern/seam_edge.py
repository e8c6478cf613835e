"""An edge of a seam line: what is sewn there, and how its cloth is cut beyond it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import Finish, FinishName, RuledAllowance, finish_called
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.pattern.ids import check_id

__all__ = ["WIDEST_ALLOWANCE_MM", "CornerKind", "CutEdge", "SeamEdge"]

CornerKind = Literal["by_rule", "mitre", "bevel", "square", "mirror", "hem_mitre"]

WIDEST_ALLOWANCE_MM = 500.0
WIDEST_CORD_MM, WIDEST_ELASTIC_MM = 100.0, 200.0


@dataclass(frozen=True)
class SeamEdge(Edge):
    """An edge of a seam line with its allowance in mm, its finish, and the corner at its end.

    `turn_under` of the allowance is folded a second time; `cord_mm` (diameter) or `elastic_mm` (width) is what a
    casing carries. `by_rule` says that the allowance follows from the house rules and changes with them.
    """

    name: str = ""
    allowance: float = 0.0
    finish: FinishName = "plain"
    corner: CornerKind = "mitre"
    turn_under: float = 0.0
    cord_mm: float = 0.0
    elastic_mm: float = 0.0
    by_rule: bool = False
    id: str = ""

    def __post_init__(self) -> None:
        super().__post_init__()
        check_id(self.id)
        if not 0 <= self.allowance <= WIDEST_ALLOWANCE_MM:
            figures = {"allowance_mm": self.allowance, "most_mm": WIDEST_ALLOWANCE_MM}
            text = message("allowance_out_of_range", edge=self.name, **figures)
            raise Refusal(text, "allowance", Place(edge=self.name))
        if not 0 <= self.turn_under <= self.allowance / 2 + 1e-9:
            figures = {"turn_under_mm": self.turn_under, "allowance_mm": self.allowance}
            raise Refusal(message("turn_under_too_wide", edge=self.name, **figures), "allowance", Place(edge=self.name))
        if not (0 <= self.cord_mm <= WIDEST_CORD_MM and 0 <= self.elastic_mm <= WIDEST_ELASTIC_MM):
            figures = {"cord_most_mm": WIDEST_CORD_MM, "elastic_most_mm": WIDEST_ELASTIC_MM}
            raise Refusal(message("casing_out_of_range", edge=self.name, **figures), "casing", Place(edge=self.name))

    @property
    def finishing(self) -> Finish:
        return finish_called(self.finish)

    @property
    def is_folded_back(self) -> bool:
        return self.finishing.is_folded_back and self.allowance > 0

    @property
    def is_cut_on_seam(self) -> bool:
        return self.finishing.is_cut_on_seam

    def allowance_by_rule(self, rules: HouseRules) -> RuledAllowance:
        """What its finish takes by the house's rules, with what it carries in a casing."""
        return self.finishing.allowance_by_rule(rules, cord_mm=self.cord_mm, elastic_mm=self.elastic_mm)

    @property
    def is_bare(self) -> bool:
        """Whether it is to be sewn or hemmed but has nothing to do it with."""
        return not self.is_cut_on_seam and self.allowance == 0

    @property
    def depth(self) -> float:
        """How deep it lies once it is folded, mm."""
        return self.allowance - self.turn_under


@dataclass(frozen=True)
class CutEdge(Edge):
    """An edge of a cutting line; `seam_edge` is the index of the seam line's edge it is parallel to, None at a corner."""

    name: str = ""
    seam_edge: int | None = None

"""A workshop's rules and cloths, and the allowances that follow from them."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["Cloth", "House", "by_house_rules", "with_ruled_allowance", "with_typed_allowance"]

MOST_CLOTHS = 60


@dataclass(frozen=True)
class Cloth:
    """A cloth of the house. Shares of 1: `shrinks` along and across the warp when it is washed, `stretches` in use.
    `thickness_mm` is of one layer. A cloth with its own `rules` doesn't take the house's."""

    name: str
    thickness_mm: float = 0.5
    warp_shrinks: float = 0.0
    weft_shrinks: float = 0.0
    warp_stretches: float = 0.0
    weft_stretches: float = 0.0
    prewashed: bool = False
    rules: HouseRules | None = None

    def __post_init__(self) -> None:
        if not self.name.strip() or len(self.name) > 40 or any(ord(c) < 32 for c in self.name):
            raise Refusal(message("cloth_name_out_of_range"), "cloth")
        if not 0 <= self.thickness_mm <= 100:
            text = message("cloth_too_thick", most_mm=100, thickness_mm=self.thickness_mm, cloth=self.name)
            raise Refusal(text, "cloth")
        for share in (self.warp_shrinks, self.weft_shrinks):
            if not 0 <= share <= 0.5:
                raise Refusal(message("shrinkage_out_of_range", cloth=self.name, percent=100 * share), "cloth")
        for share in (self.warp_stretches, self.weft_stretches):
            if not 0 <= share <= 2:
                raise Refusal(message("stretch_out_of_range", cloth=self.name, percent=100 * share), "cloth")


@dataclass(frozen=True)
class House:
    """The rules of a workshop and the cloths that it works with."""

    rules: HouseRules = HouseRules()
    cloths: tuple[Cloth, ...] = field(default=())

    def __post_init__(self) -> None:
        names = [c.name for c in self.cloths]
        if len(names) > MOST_CLOTHS or len(set(names)) < len(names):
            raise Refusal(message("too_many_cloths", most_cloths=MOST_CLOTHS), "cloth")

    def cloth(self, name: str) -> Cloth | None:
        return next((c for c in self.cloths if c.name == name), None)

    def rules_for(self, cloth: str) -> HouseRules:
        """The cloth's own rules, or the house's."""
        of_house = self.cloth(cloth)
        return of_house.rules if of_house and of_house.rules else self.rules

    def with_cloth(self, cloth: Cloth) -> House:
        """With this cloth in the place of the one that has its name, or added."""
        rest = [c for c in self.cloths if c.name != cloth.name]
        return replace(self, cloths=tuple(sorted([*rest, cloth], key=lambda c: c.name.lower())))


def by_house_rules(panel: Panel, house: House) -> Panel:
    """The panel with every allowance that follows from a rule as the house's rules for its cloth have it."""
    rules = house.rules_for(panel.cloth)
    return replace(
        panel,
        seam_line=tuple(with_ruled_allowance(e, rules) for e in panel.seam_line),
        holes=tuple(tuple(with_ruled_allowance(e, rules) for e in ring) for ring in panel.holes),
    )


def with_ruled_allowance(edge: SeamEdge, rules: HouseRules) -> SeamEdge:
    """The edge with its allowance by rule, where the maker hasn't overruled it."""
    if not edge.by_rule:
        return edge
    allowance = edge.allowance_by_rule(rules)
    return replace(edge, allowance=allowance.allowance, turn_under=allowance.turn_under)


def with_typed_allowance(edge: SeamEdge, allowance_mm: float) -> SeamEdge:
    """The edge with an allowance that overrules the rule; its turn-under stays as far as it fits."""
    under = min(edge.turn_under, allowance_mm / 2) if edge.finishing.is_folded_back else 0.0
    return replace(edge, allowance=allowance_mm, turn_under=under, by_rule=False)

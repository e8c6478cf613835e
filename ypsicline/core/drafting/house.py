"""House rules: how much allowance each finish takes in this workshop, and in this cloth."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, fields, replace

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import CUT_ON_SEAM, FOLDED_BACK, Finish, SeamEdge

__all__ = ["Cloth", "House", "HouseRules", "RuledAllowance", "allowance_by_rule", "by_house_rules"]

MOST_CLOTHS = 60
_LARGEST_MM = 200.0


@dataclass(frozen=True)
class HouseRules:
    """What a workshop usually takes, mm.

    `french_first` and `french_second` are the two passes of a French seam; `felled` is how wide a
    flat-felled seam shows; `lap` how far one edge lies under the other; `stitched_from_fold` how far
    a casing's row of stitching lies from its inner fold.
    """

    seam: float = 12.0
    piped: float = 12.0
    faced: float = 10.0
    hem: float = 25.0
    double_hem: float = 20.0
    turn_under: float = 10.0
    stitched_from_fold: float = 2.0
    felled: float = 10.0
    french_first: float = 6.0
    french_second: float = 9.0
    lap: float = 15.0
    zip: float = 15.0

    def __post_init__(self) -> None:
        for f in fields(self):
            value = getattr(self, f.name)
            if not (math.isfinite(value) and 0 <= value <= _LARGEST_MM):
                figures = {"value_mm": value, "most_mm": _LARGEST_MM}
                raise Refusal(message("house_rule_out_of_range", rule=f.name.replace("_", " "), **figures), "house")
        if self.felled < 4:
            raise Refusal(message("fell_too_narrow", least_mm=4), "house")


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


@dataclass(frozen=True)
class RuledAllowance:
    """An allowance that follows from a rule, with its sum."""

    allowance: float
    turn_under: float
    working: Message


def allowance_by_rule(
    finish: Finish, rules: HouseRules, *, cord_mm: float = 0.0, elastic_mm: float = 0.0
) -> RuledAllowance:
    """The allowance of a finish by the house's rules (drafting rules 8 and 10).

    A casing for a cord of diameter q is πq/2 + 3 deep at least, one for elastic of width w, w + 4.
    A flat-felled seam that shows f: its narrow side lies inside the fold with 2 to spare, f − 2, and
    its wide one wraps it, 2f − 2.
    """
    r = rules
    if finish in CUT_ON_SEAM:
        return RuledAllowance(0.0, 0.0, message("rule_on_seam"))
    if finish == "hem":
        return RuledAllowance(r.hem, 0.0, message("rule_hem", hem_mm=r.hem))
    if finish == "double_hem":
        under = min(r.turn_under, r.double_hem)
        total = r.double_hem + under
        working = message("rule_double_hem", hem_mm=r.double_hem, under_mm=under, total_mm=total)
        return RuledAllowance(total, under, working)
    if finish == "casing":
        return _casing(r, cord_mm, elastic_mm)
    if finish == "felled_narrow":
        working = message("rule_felled_narrow", felled_mm=r.felled, inside_mm=2, total_mm=r.felled - 2)
        return RuledAllowance(r.felled - 2, 0.0, working)
    if finish == "felled_wide":
        wide = 2 * r.felled - 2
        working = message("rule_felled_wide", felled_mm=r.felled, under_mm=r.felled - 2, total_mm=wide)
        return RuledAllowance(wide, 0.0, working)
    if finish == "french":
        total = r.french_first + r.french_second
        working = message("rule_french", first_mm=r.french_first, second_mm=r.french_second, total_mm=total)
        return RuledAllowance(total, 0.0, working)
    if finish == "lapped_under":
        return RuledAllowance(r.lap, 0.0, message("rule_lapped_under", lap_mm=r.lap))
    if finish == "lapped_over":
        return RuledAllowance(r.seam, 0.0, message("rule_lapped_over", seam_mm=r.seam, lap_mm=r.lap))
    plain = {"piped": r.piped, "faced": r.faced, "zip": r.zip}.get(finish, r.seam)
    return RuledAllowance(plain, 0.0, message("rule_plain", allowance_mm=plain))


def _casing(r: HouseRules, cord_mm: float, elastic_mm: float) -> RuledAllowance:
    if elastic_mm > 0:
        room = elastic_mm + 4
        how = message("rule_elastic", elastic_mm=elastic_mm, more_mm=4, room_mm=room)
    else:
        cord = cord_mm or 5.0
        room = math.pi * cord / 2 + 3
        how = message("rule_cord", cord_mm=cord, more_mm=3, room_mm=room)
    depth = math.ceil(max(room + r.stitched_from_fold, r.turn_under) - 1e-9)
    total = depth + r.turn_under
    working = message(
        "rule_casing", room=how, stitched_mm=r.stitched_from_fold, depth_mm=depth, under_mm=r.turn_under, total_mm=total
    )
    return RuledAllowance(total, r.turn_under, working)


def by_house_rules(panel: Panel, house: House) -> Panel:
    """The panel with every allowance that follows from a rule as the house's rules for its cloth have it."""
    rules = house.rules_for(panel.cloth)
    return replace(
        panel,
        seam_line=tuple(ruled(e, rules) for e in panel.seam_line),
        holes=tuple(tuple(ruled(e, rules) for e in ring) for ring in panel.holes),
    )


def ruled(edge: SeamEdge, rules: HouseRules) -> SeamEdge:
    """The edge with its allowance by rule, where the maker hasn't overruled it."""
    if not edge.by_rule:
        return edge
    allowance = allowance_by_rule(edge.finish, rules, cord_mm=edge.cord_mm, elastic_mm=edge.elastic_mm)
    return replace(edge, allowance=allowance.allowance, turn_under=allowance.turn_under)


def typed(edge: SeamEdge, allowance_mm: float) -> SeamEdge:
    """The edge with an allowance that overrules the rule; its turn-under stays as far as it fits."""
    under = min(edge.turn_under, allowance_mm / 2) if edge.finish in FOLDED_BACK else 0.0
    return replace(edge, allowance=allowance_mm, turn_under=under, by_rule=False)

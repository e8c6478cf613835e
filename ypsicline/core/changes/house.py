"""Changes of the house's rules and cloths as a job takes them."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace
from typing import Literal

from ypsicline.core.changes.panels import with_panels
from ypsicline.core.drafting.house import Cloth
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.house_rules import HouseRules
from ypsicline.core.typed import LengthOrNone, Share, Words

__all__ = ["SetCloth", "SetHouseRule"]

_RULES = frozenset(f.name for f in fields(HouseRules))


@dataclass(frozen=True)
class SetHouseRule:
    """A rule of the house, or of one of its cloths; panels follow it where it wasn't overruled."""

    rule: str
    length: LengthOrNone
    cloth: str = ""
    kind: Literal["set_house_rule"] = "set_house_rule"

    def on(self, job: JobDocument) -> JobDocument:
        if self.rule not in _RULES:
            raise Refusal(message("no_such_house_rule", rule=self.rule[:40]), "rule")
        changes = {self.rule: self.length}
        rules = replace(job.house.rules_for(self.cloth), **changes)
        cloth = job.house.cloth(self.cloth)
        house = job.house.with_cloth(replace(cloth, rules=rules)) if cloth else replace(job.house, rules=rules)
        return with_panels(replace(job, house=house), job.panels)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("house_rules_set")


@dataclass(frozen=True)
class SetCloth:
    """A cloth of the house, in the place of the one that has its name; with `own_rules` it starts with the house's."""

    name: Words
    thickness: LengthOrNone = 0.5
    warp_shrinks: Share = 0.0
    weft_shrinks: Share = 0.0
    warp_stretches: Share = 0.0
    weft_stretches: Share = 0.0
    prewashed: bool = False
    own_rules: bool = False
    kind: Literal["set_cloth"] = "set_cloth"

    def on(self, job: JobDocument) -> JobDocument:
        before = job.house.cloth(self.name)
        rules = (before.rules if before and before.rules else job.house.rules) if self.own_rules else None
        cloth = Cloth(
            self.name, self.thickness, self.warp_shrinks, self.weft_shrinks, self.warp_stretches, self.weft_stretches,
            self.prewashed, rules,
        )  # fmt: skip
        return with_panels(replace(job, house=job.house.with_cloth(cloth)), job.panels)

    def words(self, before: JobDocument, after: JobDocument) -> Message:
        return message("cloth_set")

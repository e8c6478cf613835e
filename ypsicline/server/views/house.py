"""The house's rules and cloths as they are shown and typed."""

from __future__ import annotations

from dataclasses import asdict, dataclass

from ypsicline.core.drafting.house import Cloth, House
from ypsicline.core.lengths import Unit, show_set_length
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["ClothView", "HouseView", "house_view"]


@dataclass(frozen=True)
class ClothView:
    """A cloth: its thickness in the job's unit, what it shrinks and stretches in per cent; empty where it doesn't.
    `rules` are its own, none where it takes the house's."""

    name: str
    thickness: str
    thickness_mm: float
    warp_shrinks: str
    weft_shrinks: str
    warp_stretches: str
    weft_stretches: str
    prewashed: bool
    rules: dict[str, str] | None


@dataclass(frozen=True)
class HouseView:
    """`rules` by their names in `HouseRules`, lengths in the job's unit; and the `cloths`."""

    rules: dict[str, str]
    cloths: list[ClothView]


def house_view(house: House, unit: Unit) -> HouseView:
    return HouseView(_rules(house.rules, unit), [_cloth(c, unit) for c in house.cloths])


def _rules(rules: HouseRules, unit: Unit) -> dict[str, str]:
    return {name: show_set_length(mm, unit) for name, mm in asdict(rules).items()}


def _cloth(cloth: Cloth, unit: Unit) -> ClothView:
    return ClothView(
        cloth.name, show_set_length(cloth.thickness_mm, unit), cloth.thickness_mm, _percent(cloth.warp_shrinks),
        _percent(cloth.weft_shrinks), _percent(cloth.warp_stretches), _percent(cloth.weft_stretches), cloth.prewashed,
        _rules(cloth.rules, unit) if cloth.rules else None,
    )  # fmt: skip


def _percent(share: float) -> str:
    return f"{100 * share:.4g}" if share else ""

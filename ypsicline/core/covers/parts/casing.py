"""Casings that carry a cord or elastic (rule 8)."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ypsicline.core.covers.parts.edging import Edging
from ypsicline.core.errors import Refusal
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.finish import finish_called
from ypsicline.core.pattern.house_rules import HouseRules

__all__ = ["Casing", "cord_casing", "elastic_casing"]


@dataclass(frozen=True)
class Casing:
    """An edge that is folded back to carry something: how `deep` it lies, its whole allowance, and its sum."""

    edging: Edging
    depth: float
    allowance: float
    working: Message


def cord_casing(rules: HouseRules, cord_mm: float, depth_mm: float | None = None) -> Casing:
    """A casing for a cord of this diameter, as deep as the house's rules make it, or as typed. Raises `Refusal` where that
    is less than the cord needs: πq/2 + 3."""
    least = math.pi * cord_mm / 2 + 3
    return _casing(rules, depth_mm, least, cord_mm=cord_mm)


def elastic_casing(rules: HouseRules, elastic_mm: float, depth_mm: float | None = None) -> Casing:
    """The same for elastic of this width: w + 4 at least."""
    return _casing(rules, depth_mm, elastic_mm + 4, elastic_mm=elastic_mm)


def _casing(
    rules: HouseRules, depth: float | None, least: float, cord_mm: float = 0.0, elastic_mm: float = 0.0
) -> Casing:
    if depth is None:
        ruled = finish_called("casing").allowance_by_rule(rules, cord_mm=cord_mm, elastic_mm=elastic_mm)
        edging = Edging("casing", None, cord_mm=cord_mm, elastic_mm=elastic_mm)
        return Casing(edging, ruled.allowance - ruled.turn_under, ruled.allowance, ruled.working)
    if depth < least - 1e-6:
        raise Refusal(message("casing_too_shallow", depth_mm=depth, least_mm=least), "measure")
    under = min(rules.turn_under, depth)
    edging = Edging("casing", depth + under, under, cord_mm, elastic_mm)
    working = message("casing_typed", depth_mm=depth, under_mm=under, total_mm=depth + under)
    return Casing(edging, depth, depth + under, working)

"""A cover as a family drafts it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsicline.core.covers.notion import Notion
from ypsicline.core.drafting.house import House
from ypsicline.core.drafting.in_house import in_house
from ypsicline.core.findings import Finding
from ypsicline.core.joins.paired_notches import with_paired_notches
from ypsicline.core.messages import Message
from ypsicline.core.pattern.join import Join, letters
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.solids.assembled import Standing

__all__ = ["Cover", "Paired", "put_together"]


@dataclass(frozen=True)
class Cover:
    """Panels, the joins between them (by the panels' ids), what to buy beside the cloth, the sums, and what to look at; what
    walking the joins finds isn't among that. `standing` is where its pieces stand in space, of covers that can be built so."""

    panels: tuple[Panel, ...]
    joins: tuple[Join, ...] = ()
    notions: tuple[Notion, ...] = ()
    workings: tuple[Message, ...] = ()
    findings: tuple[Finding, ...] = ()
    standing: tuple[Standing, ...] = ()


@dataclass(frozen=True)
class Paired:
    """A join and where along it both sides are notched, shares from 0 to 1; twice at those `double_at`."""

    join: Join
    notches_at: tuple[float, ...] = ()
    double_at: tuple[float, ...] = ()


def put_together(
    panels: Sequence[Panel],
    joins: Sequence[Paired],
    house: House,
    *,
    notions: Sequence[Notion] = (),
    workings: Sequence[Message] = (),
    findings: Sequence[Finding] = (),
    standing: Sequence[Standing] = (),
) -> Cover:
    """A cover of panels by their house's rules, its joins lettered and notched on both sides."""
    own = {p.id: in_house(p, house) for p in panels}
    lettered = [replace(p.join, letter=letters(k), id=f"join{k + 1}") for k, p in enumerate(joins)]
    for paired, join in zip(joins, lettered, strict=True):
        own = with_paired_notches(own, join, paired.notches_at, paired.double_at)
    return Cover(
        tuple(own.values()), tuple(lettered), tuple(notions), tuple(workings), tuple(findings), tuple(standing)
    )

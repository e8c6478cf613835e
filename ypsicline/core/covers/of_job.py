"""A cover of a family as a job keeps it, and how it is drafted again without losing what was done to it by hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from ypsicline.core.covers.cover import Cover
from ypsicline.core.covers.family import AnyFamily, Family
from ypsicline.core.drafting.house import House
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.features.feature import Feature
from ypsicline.core.pattern.ids import check_id
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import SeamEdge
from ypsicline.core.solids.assembled import AssembledPanel, Standing, assembled

__all__ = ["FamilyCover", "drafted_again", "drafted_cover", "object_under", "standing_in"]

# what a maker may change on a panel and its edges; where it lies on the table is always the maker's
_OF_PANEL = ("name", "cloth", "count", "hand", "on_fold", "grain_deg", "way_up", "mitre_limit", "fit", "middle_notches")
_OF_EDGE = ("name", "allowance", "finish", "corner", "turn_under", "cord_mm", "elastic_mm", "by_rule")


@dataclass(frozen=True)
class FamilyCover:
    """A cover of a job: the `family` with its measures, and its `panels`, each with the id that the family gives it and its
    id in the job; and the ids of its `joins`."""

    family: AnyFamily
    panels: tuple[tuple[str, str], ...] = ()
    joins: tuple[str, ...] = ()
    id: str = ""

    def __post_init__(self) -> None:
        check_id(self.id)


@lru_cache(maxsize=64)
def drafted_cover(family: Family, house: House) -> Cover:
    """The cover that a family drafts, remembered. Raises as `Family.cover` does."""
    return family.cover(house)


def standing_in(cover: FamilyCover, house: House) -> tuple[Standing, ...]:
    """Where the pieces of a job's cover stand in space, by the ids of the job's panels; none of a cover that can't be built so.

    Raises `Refusal` where the family can't draft it any more.
    """
    ids = dict(cover.panels)
    standing = drafted_cover(cover.family, house).standing
    return tuple(replace(s, panel=ids[s.panel]) for s in standing if s.panel in ids)


def object_under(cover: FamilyCover, house: House, pieces: Sequence[AssembledPanel]) -> tuple[AssembledPanel, ...]:
    """What a cover covers, in the middle under its `pieces` in space; nothing of a family that doesn't know it.

    Raises `Refusal` where the family can't draft it without its ease.
    """
    bare = cover.family.without_ease
    if bare is None or not pieces:
        return ()
    draft = drafted_cover(bare, house)
    under = assembled(draft.standing, {p.id: p for p in draft.panels})
    x, y = (_middle(pieces, c) - _middle(under, c) for c in (0, 1))
    return tuple(p.moved((x, y, 0.0)) for p in under)


def _middle(pieces: Sequence[AssembledPanel], axis: int) -> float:
    along = [p[axis] for piece in pieces for p in piece.points]
    return (min(along) + max(along)) / 2


def drafted_again(before: Panel, panel: Panel, fresh: Panel) -> tuple[Panel, dict[str, str], list[Message]]:
    """A panel that other measures make `fresh`, with all that was changed by hand since it was as it was drafted `before`;
    the ids that its edges have now by those of the fresh one; and what couldn't be kept.

    What differs from `before` is the maker's and stays; all else is the fresh panel's.
    """
    own = _matched(before, panel)
    ids = {f.id: own[f.name].id for f in fresh.seam_line if f.name in own}
    ids |= {f.id: f"new.{f.id}"[:16] for f in fresh.seam_line if f.name not in own}
    losses: list[Message] = []
    if len(panel.seam_line) != len(before.seam_line):
        losses.append(message("edges_drawn_anew", panel=panel.name))
    own_values: dict[str, Any] = {n: getattr(panel, n) for n in _OF_PANEL if getattr(panel, n) != getattr(before, n)}
    by_name = {e.name: e for e in before.seam_line}
    edges = tuple(_edge(f, ids[f.id], by_name.get(f.name), own.get(f.name)) for f in fresh.seam_line)
    features, lost_features = _features(before, panel, fresh, own, ids)
    losses += lost_features
    again = replace(fresh, id=panel.id, lies=panel.lies, seam_line=edges, features=features, **own_values)
    return again, ids, losses


def _matched(before: Panel, panel: Panel) -> dict[str, SeamEdge]:
    """The panel's edges by the names that those of `before` have: in their order, or where some were split or merged, those
    that still have their names."""
    if len(before.seam_line) == len(panel.seam_line):
        return {b.name: e for b, e in zip(before.seam_line, panel.seam_line, strict=True)}
    by_name = {e.name: e for e in panel.seam_line}
    return {b.name: by_name[b.name] for b in before.seam_line if b.name in by_name}


def _edge(fresh: SeamEdge, id: str, before: SeamEdge | None, own: SeamEdge | None) -> SeamEdge:
    own_values = {}
    if before is not None and own is not None:
        own_values = {n: getattr(own, n) for n in _OF_EDGE if getattr(own, n) != getattr(before, n)}
    return replace(fresh, id=id, **own_values)


def _features(
    before: Panel, panel: Panel, fresh: Panel, own: Mapping[str, SeamEdge], ids: Mapping[str, str]
) -> tuple[tuple[Feature, ...], list[Message]]:
    """The fresh panel's features but for those taken off by hand, and those put on by hand where their edge is still there."""
    to_own = {b.id: own[b.name].id for b in before.seam_line if b.name in own}
    was = [_unnamed(f.renamed(to_own)) for f in before.features]
    is_now = {_unnamed(f): f.id for f in panel.features}
    features: list[Feature] = []
    for k, f in enumerate(fresh.features):
        same = was[k] if k < len(was) and was[k].kind == f.kind else None
        if same is not None and same not in is_now:
            continue  # taken off by hand
        features.append(_unnamed(f.renamed(ids), is_now[same] if same is not None else ""))
    losses = []
    there, names = {e.id for e in own.values()} & set(ids.values()), {e.id: e.name for e in panel.seam_line}
    for f in panel.features:
        if _unnamed(f) in was:
            continue
        if getattr(f, "edge", None) in there or not hasattr(f, "edge"):
            features.append(f)
        else:
            losses.append(message("put_on_by_hand_lost", panel=panel.name, what=f.words(names)))
    return tuple(features), losses


def _unnamed(feature: Feature, id: str = "") -> Feature:
    """The feature without its id, or with another."""
    return replace(feature, id=id)  # type: ignore[type-var]

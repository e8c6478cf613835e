"""A panel made of a trued shape, and the changes a maker makes to panels."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace
from typing import Any

from ypsicline.core.drafting.house import House, with_ruled_allowance, with_typed_allowance
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge
from ypsicline.core.messages import message
from ypsicline.core.pattern.features.notch import Notch, notches_of
from ypsicline.core.pattern.finish import FinishName, finish_called
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.seam_edge import CornerKind, SeamEdge
from ypsicline.core.trueing.dividing import part_marks
from ypsicline.core.trueing.shape import Shape, TrueEdge, true_edges

__all__ = ["panel_from_rings", "panel_from_shape", "remove_notch", "set_edges"]


def panel_from_shape(shape: Shape, name: str) -> Panel:
    """The trued outline as a seam line, without allowances yet; its marked halves or quarters become notches, the
    start's a double one."""
    outline = true_edges(shape.outline, shape.tolerance_mm)
    holes = [true_edges(h, shape.tolerance_mm) for h in shape.holes]
    panel = panel_from_rings(outline, holes, name)
    marks = part_marks(shape, outline)
    notches = (Notch(panel.seam_line[m.edge].id, m.along_mm, m.share == 0) for m in marks)
    return replace(panel, middle_notches=False, features=tuple(notches)) if marks else panel


def panel_from_rings(outline: Sequence[Edge], holes: Sequence[Sequence[Edge]], name: str) -> Panel:
    """Rings of edges as a panel without allowances; edges keep their names or are numbered."""
    return Panel(
        name,
        tuple(_bare(e, f"edge {k + 1}") for k, e in enumerate(outline)),
        tuple(
            tuple(_bare(e, f"hole {h + 1}.{k + 1}", keep=False) for k, e in enumerate(ring))
            for h, ring in enumerate(holes)
        ),
    )


def _bare(edge: Edge, name: str, *, keep: bool = True) -> SeamEdge:
    own_name = edge.name if keep and isinstance(edge, (TrueEdge, SeamEdge)) else ""
    return SeamEdge(edge.kind, edge.points, own_name or name, 0.0, "plain", "by_rule")


def set_edges(
    panel: Panel,
    edge_ids: Collection[str],
    *,
    allowance_mm: float | None = None,
    turn_under_mm: float | None = None,
    finish: FinishName | None = None,
    corner: CornerKind | None = None,
    name: str | None = None,
    cord_mm: float | None = None,
    elastic_mm: float | None = None,
    by_rule: bool | None = None,
    house: House | None = None,
) -> Panel:
    """The panel with something changed on the edges of these ids, of its outline and its holes.

    A finish brings the allowance that the rules of the `house` give it, unless the maker has typed
    one that is to stay; `by_rule` goes back to the rule. An edge that is cut on its seam line
    (bound, on the fold) has none, and one on the fold makes the panel half of what is cut.

    Raises `Refusal` for an edge that isn't there, and for a name of no letters or too many.
    """
    rings = [list(r) for r in panel.rings()]
    rules = (house or House()).rules_for(panel.cloth)
    if not set(edge_ids) <= {e.id for ring in rings for e in ring}:
        raise Refusal(message("no_such_edge_of_panel", panel=panel.name), "edge")
    for ring, k in [(r, k) for r, edges in enumerate(rings) for k, e in enumerate(edges) if e.id in edge_ids]:
        edge = rings[ring][k]
        changes: dict[str, Any] = {
            key: value
            for key, value in (("corner", corner), ("cord_mm", cord_mm), ("elastic_mm", elastic_mm))
            if value is not None
        }
        if finish is not None and finish != edge.finish:
            changes["finish"] = finish
            usual = edge.allowance_by_rule(rules).allowance
            unset = edge.by_rule or edge.allowance in (0.0, usual)
            changes["by_rule"] = unset or finish_called(finish).is_cut_on_seam
            if not changes["by_rule"] and edge.turn_under:
                changes["turn_under"] = 0.0
        if by_rule is not None:
            changes["by_rule"] = by_rule
        if name is not None:
            if not name.strip() or len(name) > 40:
                raise Refusal(message("edge_name_out_of_range"), "name")
            changes["name"] = name.strip()
        edge = with_ruled_allowance(replace(edge, **changes), rules)
        if allowance_mm is not None:
            edge = with_typed_allowance(edge, allowance_mm)
        if turn_under_mm is not None:
            edge = replace(edge, turn_under=turn_under_mm, by_rule=False)
        rings[ring][k] = edge
    before, after = (any(e.finishing.is_on_fold for e in r) for r in (panel.seam_line, rings[0]))
    on_fold = after if after != before else panel.on_fold
    return replace(panel, seam_line=tuple(rings[0]), holes=tuple(tuple(r) for r in rings[1:]), on_fold=on_fold)


def remove_notch(panel: Panel, notch: str) -> Panel:
    """Without the notch of this id; where it is an edge's own in its middle, the others become placed ones. Raises
    `Refusal` where it is gone already."""
    notches = notches_of(panel)
    if all(n.id != notch for n in notches):
        raise Refusal(message("notch_removed_already"), "notch")
    placed_notches = panel.of(Notch)
    if any(n.id == notch for n in placed_notches):
        return replace(panel, features=tuple(f for f in panel.features if f.id != notch))
    rest = (replace(n, id="") for n in notches if n.id != notch and n not in placed_notches)
    return replace(panel, middle_notches=False, features=(*panel.features, *rest))

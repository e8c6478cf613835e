"""What a panel has besides its outline, carried along when that is changed: on its edges by one map of them, inside by a
map of the plane."""

from __future__ import annotations

from dataclasses import dataclass, replace

import shapely

from ypsicline.core.geometry.rings import flatten_ring
from ypsicline.core.geometry.transform import Transform
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.edge_map import EdgeMap
from ypsicline.core.pattern.features.feature import Carrying
from ypsicline.core.pattern.panel import Panel
from ypsicline.core.pattern.plane import Everywhere, Plane, ring_carried
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["OutlineChange", "carried"]


@dataclass(frozen=True)
class OutlineChange:
    """A panel with another outline, and the map of its edges for whatever else stands on them, such as joins."""

    panel: Panel
    edges: EdgeMap


def carried(panel: Panel, seam_line: tuple[SeamEdge, ...], edges: EdgeMap, plane: Plane | None = None) -> Panel:
    """The panel with another outline, and its features and holes where they come to lie. Without a `plane` what lies
    inside stays where it is.

    Raises `Refusal` where one of them stands on what is gone, or would be torn.
    """
    plane = plane or Everywhere(Transform())
    by = Carrying(edges, plane, panel.seam_line, panel.features)
    return replace(
        panel,
        seam_line=seam_line,
        features=tuple(after for f in panel.features for after in f.carried(by)),
        holes=tuple(_hole(h, message("thing_hole", number=k + 1), plane) for k, h in enumerate(panel.holes)),
    )


def _hole(hole: tuple[SeamEdge, ...], what: Message, plane: Plane) -> tuple[SeamEdge, ...]:
    by = plane.of(shapely.Polygon(flatten_ring(hole)), what, hole[0].start)
    return hole if by == Transform() else ring_carried(hole, by)

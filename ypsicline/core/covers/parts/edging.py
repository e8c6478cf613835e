"""How an edge of a generated panel is finished, and the plain shapes that panels are made of."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, Point
from ypsicline.core.geometry.plane import along, dot, minus, unit
from ypsicline.core.messages import message
from ypsicline.core.pattern.finish import FinishName
from ypsicline.core.pattern.panel import Hand, Panel
from ypsicline.core.pattern.seam_edge import CornerKind, SeamEdge

__all__ = ["Edging", "circle", "line", "panel", "polygon", "rectangle", "rounded_corners"]


@dataclass(frozen=True)
class Edging:
    """A finish with its allowance, mm: by the house's rules where that is None."""

    finish: FinishName = "plain"
    allowance: float | None = None
    turn_under: float = 0.0
    cord_mm: float = 0.0
    elastic_mm: float = 0.0
    corner: CornerKind = "by_rule"

    def edge(self, edge: Edge, name: str, id: str = "") -> SeamEdge:
        """An edge of the seam line finished so."""
        return SeamEdge(
            edge.kind, edge.points, name, self.allowance or 0.0, self.finish, self.corner, self.turn_under,
            self.cord_mm, self.elastic_mm, self.allowance is None, id,
        )  # fmt: skip


def line(a: Point, b: Point) -> Edge:
    """A straight edge."""
    return Edge("line", (a, b))


def polygon(corners: Sequence[Point], names: Sequence[str], edgings: Sequence[Edging]) -> tuple[SeamEdge, ...]:
    """Straight edges through the corners, counter-clockwise, each with its name and edging."""
    ends = [*corners[1:], corners[0]]
    return tuple(e.edge(line(a, b), n) for a, b, n, e in zip(corners, ends, names, edgings, strict=True))


def rectangle(
    width: float,
    height: float,
    edgings: Sequence[Edging],
    names: Sequence[str] = ("bottom", "right", "top", "left"),
) -> tuple[SeamEdge, ...]:
    """A rectangle from the origin, right and up: its bottom, right, top and left edge."""
    return polygon([(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)], names, edgings)


def rounded_corners(corners: Sequence[Point], radii: Sequence[float]) -> tuple[Edge, ...]:
    """Straight edges through the corners, counter-clockwise and convex, each corner rounded by its radius, 0 for none.

    It begins where the first corner is left. Raises `Refusal` where the arcs of neighbours overlap.
    """
    count = len(corners)
    arcs: list[tuple[Point, Point, Point]] = []
    for k, (corner, r) in enumerate(zip(corners, radii, strict=True)):
        before, after = unit(minus(corners[k - 1], corner)), unit(minus(corners[(k + 1) % count], corner))
        half = math.acos(max(-1.0, min(1.0, dot(before, after)))) / 2
        back = r / math.tan(half)
        inward = unit((before[0] + after[0], before[1] + after[1]))
        middle = along(corner, inward, r / math.sin(half) - r) if r else corner
        arcs.append((along(corner, before, back), middle, along(corner, after, back)))
    edges: list[Edge] = []
    for k in range(count):
        (_, _, start), (end, middle, after_end) = arcs[k], arcs[(k + 1) % count]
        way = minus(corners[(k + 1) % count], corners[k])
        if dot(minus(end, start), way) < -1e-6:
            raise Refusal(message("radii_overlap"), "measure")
        if math.dist(start, end) > 1e-6:
            edges.append(line(start, end))
        if math.dist(end, after_end) > 1e-6:
            edges.append(Edge("arc", (end, middle, after_end)))
    return tuple(edges)


def circle(radius: float, parts: Sequence[tuple[float, str, Edging]]) -> tuple[SeamEdge, ...]:
    """A circle about the origin as arcs, counter-clockwise from its lowest point.

    Each part is where it begins, as a share of the turn and in rising order from 0, its name and edging; a part of half
    a turn at most.
    """
    ends = [*(p[0] for p in parts[1:]), 1.0]

    def at(share: float) -> Point:
        angle = 2 * math.pi * share - math.pi / 2
        return radius * math.cos(angle), radius * math.sin(angle)

    return tuple(
        edging.edge(Edge("arc", (at(start), at((start + end) / 2), at(end))), name)
        for (start, name, edging), end in zip(parts, ends, strict=True)
    )


def panel(
    id: str, name: str, seam_line: Sequence[SeamEdge], *, cloth: str = "outer", count: int = 1, hand: Hand = "single"
) -> Panel:
    """A panel of a cover; it is notched where its joins say."""
    return replace(Panel(name, tuple(seam_line), cloth=cloth, count=count, hand=hand, middle_notches=False), id=id)

"""What a panel has besides its outline, carried along when the paper is cut to a dart's point and one side is turned."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
import shapely

from ypsicline.core.drafting.darts import apex_of
from ypsicline.core.drafting.features import Aperture, Dart, MarkAt, Pleats
from ypsicline.core.drafting.panel import Notch, Panel, SeamEdge
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Point, edge_length, parameter_at_length, point_at, transformed
from ypsicline.core.geometry.rings import flatten_ring

__all__ = ["Cut", "Stretch", "carried", "turned_about"]


@dataclass(frozen=True)
class Stretch:
    """A part of edge `source` of the outline before, `low` to `high` mm along it."""

    source: int
    low: float
    high: float


@dataclass(frozen=True)
class Cut:
    """The paper cut from `slit` on the outline to the `apex` of a dart with these `feet`, and the side between them
    turned about the apex by `turn` radians. `made` are the edges of the outline after it, None for a mouth; `side`
    runs along the outline before, from the dart to the slit."""

    made: tuple[Stretch | None, ...]
    side: tuple[Point, ...]
    feet: tuple[Point, Point]
    slit: Point
    apex: Point
    turn: float

    @cached_property
    def sector(self) -> shapely.Geometry:
        return shapely.make_valid(shapely.Polygon([self.apex, *self.side]))

    @cached_property
    def lines(self) -> shapely.Geometry:
        """Along which the paper parts: the slit, and the dart with what it takes out; not their common point, which
        another dart may have too."""
        lines = shapely.union(shapely.LineString([self.slit, self.apex]), shapely.Polygon([*self.feet, self.apex]))
        return lines - shapely.Point(self.apex).buffer(1.0)

    def is_turned(self, shape: shapely.Geometry, what: str, at: Point) -> bool:
        """Whether a shape lies on the side that is turned; refused where it lies across the cut."""
        if self.lines.intersects(shape):
            raise Refused(
                f"The {what} lies across the line from where the dart is to open to its point; move one of them.",
                "dart", Place(point=at),
            )  # fmt: skip
        return bool(self.sector.intersects(shape))

    def point(self, p: Point) -> Point:
        c, s = math.cos(self.turn), math.sin(self.turn)
        x, y = p[0] - self.apex[0], p[1] - self.apex[1]
        return self.apex[0] + c * x - s * y, self.apex[1] + s * x + c * y

    def stretch(self, edge: int, low: float, high: float, what: str) -> tuple[int, float]:
        """The edge that `low` to `high` mm along an edge before have come to lie on, and where on it that edge began."""
        for k, part in enumerate(self.made):
            if part and part.source == edge and part.low - 1e-6 <= low and high <= part.high + 1e-6:
                return k, part.low
        raise Refused(f"The {what} stands where the dart is to be closed or opened; move one of them.", "dart")

    def last(self, edge: int) -> int:
        """The edge after the turn on which an edge before ends."""
        ends = [(part.high, k) for k, part in enumerate(self.made) if part and part.source == edge]
        if not ends:
            raise Refused("The dart takes up a whole edge with a tapered corner; take the taper off first.", "dart")
        return max(ends)[1]


def turned_about(edge: SeamEdge, about: Point, angle: float) -> SeamEdge:
    c, s = math.cos(angle), math.sin(angle)
    matrix = np.array([[c, -s], [s, c]])
    dx, dy = np.asarray(about) - matrix @ np.asarray(about)
    return transformed(edge, matrix, (float(dx), float(dy)))


def carried(panel: Panel, cut: Cut) -> Panel:
    """The panel's other darts, pleats, gathers, tapers, notches, openings, holes and marks where they come to lie.

    Raises `Refused` where one of them stands on a mouth or lies across the cut.
    """
    return replace(
        panel,
        darts=tuple(_dart(d, panel, cut) for d in panel.darts),
        pleats=tuple(_pleats(p, cut) for p in panel.pleats),
        gathers=tuple(
            replace(g, edge=k)
            for g in panel.gathers
            for k, part in enumerate(cut.made)
            if part and part.source == g.edge
        ),
        tapers=tuple(replace(t, edge=cut.last(t.edge)) for t in panel.tapers),
        notches=panel.notches and tuple(n for old in panel.notches for n in _notch(old, cut)),
        apertures=tuple(_aperture(a, cut) for a in panel.apertures),
        holes=tuple(_hole(h, k, cut) for k, h in enumerate(panel.holes)),
        placed=tuple(_mark(m, cut) for m in panel.placed),
    )


def _dart(dart: Dart, panel: Panel, cut: Cut) -> Dart:
    edge = panel.seam_line[dart.edge]
    half = dart.intake / 2
    if dart.corner:
        length = edge_length(edge)
        k, _ = cut.stretch(dart.edge, length - half, length, "dart at a corner")
        cut.stretch((dart.edge + 1) % len(panel.seam_line), 0.0, half, "dart at a corner")
        return replace(dart, edge=k)
    low, high = dart.along - half, dart.along + half
    k, start = cut.stretch(dart.edge, low, high, "other dart")
    feet = [point_at(edge, parameter_at_length(edge, s)) for s in (low, high)]
    cut.is_turned(shapely.Polygon([*feet, apex_of(feet[0], feet[1], dart)]), "other dart", feet[0])
    return replace(dart, edge=k, along=dart.along - start)


def _pleats(pleats: Pleats, cut: Cut) -> Pleats:
    last = pleats.along + (pleats.count - 1) * pleats.pitch
    half = pleats.intake / pleats.count / 2
    k, start = cut.stretch(pleats.edge, max(pleats.along - half, 0.0), last + half, "pleats")
    return replace(pleats, edge=k, along=pleats.along - start)


def _notch(notch: Notch, cut: Cut) -> list[Notch]:
    """The notch on its edge; none where the dart's mouth was."""
    for k, part in enumerate(cut.made):
        if part and part.source == notch.edge and part.low - 1e-9 <= notch.along_mm < part.high + 1e-9:
            return [replace(notch, edge=k, along_mm=notch.along_mm - part.low)]
    return []


def _aperture(aperture: Aperture, cut: Cut) -> Aperture:
    wide = (
        math.hypot(*(aperture.size if aperture.kind != "round" else (aperture.size[0], 0.0))) / 2 + aperture.clearance
    )
    if aperture.kind == "outline":
        wide = max(math.hypot(*p) for p in aperture.ring) + aperture.clearance
    if not cut.is_turned(shapely.Point(aperture.at).buffer(wide), f"opening “{aperture.name}”", aperture.at):
        return aperture
    turn = math.degrees(cut.turn)
    slit = None if aperture.slit_deg is None else aperture.slit_deg + turn
    return replace(aperture, at=cut.point(aperture.at), turn_deg=aperture.turn_deg + turn, slit_deg=slit)


def _hole(hole: tuple[SeamEdge, ...], k: int, cut: Cut) -> tuple[SeamEdge, ...]:
    if not cut.is_turned(shapely.Polygon(flatten_ring(hole)), f"hole {k + 1}", hole[0].start):
        return hole
    return tuple(turned_about(e, cut.apex, cut.turn) for e in hole)


def _mark(mark: MarkAt, cut: Cut) -> MarkAt:
    shape = shapely.LineString([mark.at, mark.to]) if mark.to else shapely.Point(mark.at)
    if not cut.is_turned(shape, "mark", mark.at):
        return mark
    return replace(mark, at=cut.point(mark.at), to=mark.to and cut.point(mark.to))

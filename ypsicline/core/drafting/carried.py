"""What a panel has besides its outline, carried along when that is changed: on its edges by one map of them, inside by a
map of the plane."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal, Protocol

import shapely

from ypsicline.core.drafting.darts import apex_of
from ypsicline.core.drafting.edge_map import EdgeMap
from ypsicline.core.drafting.features import Aperture, Dart, Gather, MarkAt, Pleats, Taper
from ypsicline.core.drafting.panel import Notch, Panel, SeamEdge
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Point, parameter_at_length, point_at
from ypsicline.core.geometry.rings import flatten_ring, reverse_ring
from ypsicline.core.geometry.transform import Transform

__all__ = ["Everywhere", "Plane", "carried", "ring_carried"]


class Plane(Protocol):
    """A map of the plane that may differ from place to place, but for the size and the hand of things."""

    @property
    def scale(self) -> float: ...

    @property
    def is_mirrored(self) -> bool: ...

    def of(self, shape: shapely.Geometry, what: str, at: Point) -> Transform:
        """How a shape is carried. Raises `Refused` where it would be torn."""
        ...


@dataclass(frozen=True)
class Everywhere:
    """The same map in all places."""

    transform: Transform

    @property
    def scale(self) -> float:
        return self.transform.scale

    @property
    def is_mirrored(self) -> bool:
        return self.transform.is_mirrored

    def of(self, shape: shapely.Geometry, what: str, at: Point) -> Transform:  # noqa: ARG002 - a plane's signature
        return self.transform


def carried(panel: Panel, seam_line: tuple[SeamEdge, ...], edges: EdgeMap, plane: Plane | None = None) -> Panel:
    """The panel with another outline, and its notches, tapers, darts, pleats, gathers, openings, holes and marks where they
    come to lie. Without a `plane` what lies inside stays where it is.

    Raises `Refused` where one of them stands on what is gone, or would be torn.
    """
    plane = plane or Everywhere(Transform())
    return replace(
        panel,
        seam_line=seam_line,
        notches=panel.notches and tuple(n for old in panel.notches for n in _notch(old, edges)),
        tapers=tuple(_taper(t, edges, plane) for t in panel.tapers),
        darts=tuple(_dart(d, panel, edges, plane) for d in panel.darts),
        pleats=tuple(_pleats(p, edges, plane) for p in panel.pleats),
        gathers=tuple(_gathers(panel.gathers, edges)),
        apertures=tuple(_aperture(a, plane) for a in panel.apertures),
        holes=tuple(_hole(h, f"hole {k + 1}", plane) for k, h in enumerate(panel.holes)),
        placed=tuple(_mark(m, plane) for m in panel.placed),
    )


def ring_carried(ring: tuple[SeamEdge, ...], transform: Transform) -> tuple[SeamEdge, ...]:
    """A ring as it comes out, walked the same way round as before."""
    made = tuple(transform.edge(e) for e in ring)
    if not transform.is_mirrored:
        return made
    back = reverse_ring(made)
    # the corner belongs to the end of an edge: walked back, it is the next one's
    return tuple(replace(e, corner=back[(k + 1) % len(back)].corner) for k, e in enumerate(back))


def _notch(notch: Notch, edges: EdgeMap) -> list[Notch]:
    place = edges.at(notch.edge, notch.along_mm)
    return [] if place is None else [replace(notch, edge=place[0], along_mm=place[1])]


def _taper(taper: Taper, edges: EdgeMap, plane: Plane) -> Taper:
    reach, after = (taper.reach_after, taper.reach) if plane.is_mirrored else (taper.reach, taper.reach_after)
    return replace(
        taper, edge=edges.corner(taper.edge, "taper"), reach=reach * plane.scale, reach_after=after * plane.scale,
        inset=taper.inset * plane.scale,
    )  # fmt: skip


def _dart(dart: Dart, panel: Panel, edges: EdgeMap, plane: Plane) -> Dart:
    edge, half, along = panel.seam_line[dart.edge], dart.intake / 2, dart.along
    if dart.corner:
        length = edges.before[dart.edge]
        edges.span(dart.edge, length - half, length, "dart at a corner")
        edges.span((dart.edge + 1) % len(panel.seam_line), 0.0, half, "dart at a corner")
        on = edges.corner(dart.edge, "dart at a corner")
    else:
        feet = [point_at(edge, parameter_at_length(edge, s)) for s in (along - half, along + half)]
        plane.of(shapely.Polygon([*feet, apex_of(feet[0], feet[1], dart)]), "other dart", feet[0])
        on, low, high = edges.span(dart.edge, along - half, along + half, "dart")
        along = (low + high) / 2
    turned: dict[str, Literal["start", "end"]] = {"start": "end", "end": "start"}
    return replace(
        dart, edge=on, along=along, intake=dart.intake * plane.scale, length=dart.length * plane.scale,
        lean=dart.lean * (-plane.scale if plane.is_mirrored else plane.scale), bow=dart.bow * plane.scale,
        towards=turned[dart.towards] if plane.is_mirrored else dart.towards,
    )  # fmt: skip


def _pleats(pleats: Pleats, edges: EdgeMap, plane: Plane) -> Pleats:
    on, low, _ = edges.span(pleats.edge, pleats.along, pleats.along + pleats.span, "pleats")
    turned: dict[str, Literal["start", "end", "box"]] = {"start": "end", "end": "start", "box": "box"}
    return replace(
        pleats, edge=on, along=low, intake=pleats.intake * plane.scale, pitch=pleats.pitch * plane.scale,
        depth=pleats.depth * plane.scale, towards=turned[pleats.towards] if plane.is_mirrored else pleats.towards,
    )  # fmt: skip


def _gathers(gathers: Sequence[Gather], edges: EdgeMap) -> Iterator[Gather]:
    """A gather on every edge that parts of its own have come to lie on, and on no other."""
    ratios: dict[int, set[float | None]] = {}
    for part in edges.parts:
        own = next((g.ratio for g in gathers if g.edge == part.of), None)
        ratios.setdefault(part.on, set()).add(own)
    for on, found in sorted(ratios.items()):
        if len(found) > 1:
            raise Refused(f"Only a part of what becomes one edge is gathered; {edges.else_do}.", "gather")
        (ratio,) = found
        if ratio is not None:
            yield Gather(on, ratio)


def _aperture(aperture: Aperture, plane: Plane) -> Aperture:
    wide = math.hypot(*(aperture.size if aperture.kind != "round" else (aperture.size[0], 0.0))) / 2
    if aperture.kind == "outline":
        wide = max(math.hypot(*p) for p in aperture.ring)
    round_it = shapely.Point(aperture.at).buffer(wide + aperture.clearance)
    by = plane.of(round_it, f"opening “{aperture.name}”", aperture.at)
    if by == Transform():
        return aperture
    own = replace(by, x=0.0, y=0.0)
    turn = by.direction_deg(aperture.turn_deg + (180 if by.is_mirrored else 0))
    return replace(
        aperture,
        at=by.point(aperture.at),
        size=(aperture.size[0] * by.scale, aperture.size[1] * by.scale),
        # from -180 to 180
        turn_deg=(turn + 180) % 360 - 180,
        ring=tuple(own.point(p) for p in aperture.ring),
        slit_deg=None if aperture.slit_deg is None else by.direction_deg(aperture.slit_deg),
    )


def _hole(hole: tuple[SeamEdge, ...], what: str, plane: Plane) -> tuple[SeamEdge, ...]:
    by = plane.of(shapely.Polygon(flatten_ring(hole)), what, hole[0].start)
    return hole if by == Transform() else ring_carried(hole, by)


def _mark(mark: MarkAt, plane: Plane) -> MarkAt:
    by = plane.of(shapely.LineString([mark.at, mark.to]) if mark.to else shapely.Point(mark.at), "mark", mark.at)
    return replace(mark, at=by.point(mark.at), to=mark.to and by.point(mark.to))

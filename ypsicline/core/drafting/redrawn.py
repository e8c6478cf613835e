"""An outline drawn anew beside itself: the seam line of an old piece, a pencil's stand-off, a piping's foot."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace

from ypsicline.core.drafting.cutting_line import cut_ring
from ypsicline.core.drafting.moved import moved_inward
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, edge_length, tangent_at
from ypsicline.core.geometry.rings import reverse_ring, ring_length
from ypsicline.core.messages import message
from ypsicline.core.pattern.seam_edge import WIDEST_ALLOWANCE_MM, SeamEdge
from ypsicline.core.trueing.measured import from_edges
from ypsicline.core.trueing.shape import Shape, TracedRing, true_edges
from ypsicline.core.trueing.turning import walked_back

__all__ = ["redrawn"]

_BIT_MM = 1.0
_RUNS_ON = math.cos(math.radians(5))


def redrawn(shape: Shape, out_mm: Sequence[float], holes_out_mm: float = 0.0) -> Shape:
    """The trued outline with each edge moved outward by its own `out_mm` (negative: inward), corners mitred.

    The old cutting line of a cover becomes its seam line by moving each edge in by the allowance
    that is still in it, or out by what was cut away. Holes grow smaller by `holes_out_mm`. Raises
    `Refusal` where the numbers don't go with the edges, or nothing of the piece would be left.
    """
    edges = true_edges(shape.outline, shape.tolerance_mm)
    if len(out_mm) != len(edges):
        raise Refusal(message("redrawn_edges_differ", count=len(edges), amounts=len(out_mm)), "edge")
    for amount in (*out_mm, holes_out_mm):
        if not abs(amount) <= WIDEST_ALLOWANCE_MM:
            raise Refusal(message("edge_moved_too_far", most_mm=WIDEST_ALLOWANCE_MM, given_mm=amount), "edge")
    ring: Sequence[SeamEdge] = [
        SeamEdge(e.kind, e.points, str(k), max(a, 0.0)) for k, (e, a) in enumerate(zip(edges, out_mm, strict=True))
    ]
    inward = [max(-a, 0.0) for a in out_mm]
    if any(e.allowance for e in ring):
        cut = cut_ring(ring)[0].edges
        inward = [0.0 if c.seam_edge is None else inward[c.seam_edge] for c in cut]
        ring = [SeamEdge(c.kind, c.points, str(k)) for k, c in enumerate(cut)]
    offset_edges: Sequence[Edge] = ring
    if any(inward):
        offset_edges = moved_inward([replace(e, allowance=a) for e, a in zip(ring, inward, strict=True)])
    holes = tuple(_hole(h, holes_out_mm, shape.tolerance_mm) for h in shape.holes) if holes_out_mm else shape.holes
    return replace(shape, outline=_plain(offset_edges), holes=holes)


def _plain(edges: Sequence[Edge]) -> TracedRing:
    """The ring without joints at the bits of a corner that hardly shows: there the long edges meet, or run on."""
    ring = from_edges([Edge(e.kind, e.points) for e in edges]).outline
    long = [k for k, e in enumerate(edges) if edge_length(e) > _BIT_MM]
    if len(long) < 2:
        return ring
    joints = []
    for before, k in zip([long[-1], *long[:-1]], long, strict=True):
        (ux, uy), (vx, vy) = tangent_at(edges[before], 1.0), tangent_at(edges[k], 0.0)
        joints.append(replace(ring.joints[k], smooth=ux * vx + uy * vy > _RUNS_ON))
    return replace(ring, joints=tuple(joints))


def _hole(hole: TracedRing, smaller_mm: float, tolerance_mm: float) -> TracedRing:
    edges = true_edges(hole, tolerance_mm)
    seam = [SeamEdge(e.kind, e.points, str(k), abs(smaller_mm)) for k, e in enumerate(edges)]
    if smaller_mm > 0:
        parts = cut_ring(seam, hole=True)
        hole_edges = reverse_ring(max(parts, key=lambda r: ring_length(r.edges)).edges)
    else:
        hole_edges = cut_ring(reverse_ring(seam))[0].edges
    return walked_back(_plain(hole_edges))

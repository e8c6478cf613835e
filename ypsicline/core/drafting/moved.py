"""A whole ring moved outward or inward by one distance, each of its edges followed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ypsicline.core.drafting.cutting_line import MITRE_LIMIT, cut_ring
from ypsicline.core.errors import Refused
from ypsicline.core.geometry.edges import Edge, EdgeKind, Point, edge_length
from ypsicline.core.geometry.rings import reverse_ring, ring_length
from ypsicline.core.messages import message
from ypsicline.core.pattern.run import Run
from ypsicline.core.pattern.seam_edge import WIDEST_ALLOWANCE_MM, CutEdge, SeamEdge

__all__ = ["moved_inward", "moved_ring"]

_SHARP = 10.0
_SPECK_MM = 0.05
# kind, points, and the index of the edge that it comes from, None at a corner
_Found = tuple[EdgeKind, tuple[Point, ...], int | None]


def moved_ring(runs: Sequence[Run], outward_mm: float) -> list[Run]:
    """The exact parallel of a counter-clockwise ring, its corners mitred; inward for a negative distance.

    Raises `Refused` where an inward move leaves nothing.
    """
    if outward_mm == 0:
        return list(runs)
    distance = abs(outward_mm)
    if distance > WIDEST_ALLOWANCE_MM:
        # the parallel of a parallel is one too; an edge's own allowance has its limit
        return moved_ring(moved_ring(runs, outward_mm / 2), outward_mm / 2)
    ring = [SeamEdge(r.edge.kind, r.edge.points, r.edge.name, distance) for r in runs]
    if outward_mm > 0:
        cut = cut_ring(ring, mitre_limit=_SHARP)[0].edges
        found: list[_Found] = [(c.kind, c.points, c.seam_edge) for c in cut]
    else:
        try:
            found = [(c.kind, c.points, c.seam_edge) for c in moved_inward(ring, mitre_limit=_SHARP)]
        except Refused as e:
            raise Refused(message("moved_in_to_nothing", distance_mm=distance), "fit", e.place) from e
    return _followed(runs, found)


def moved_inward(ring: Sequence[SeamEdge], *, mitre_limit: float = MITRE_LIMIT) -> tuple[CutEdge, ...]:
    """A counter-clockwise ring with each edge moved inward by its allowance: the largest part that is left.

    Walked backwards, an outline has its inside to the right, where a hole's allowance lies. Raises
    `Refused` where nothing is left.
    """
    parts = cut_ring(reverse_ring(ring), hole=True, mitre_limit=mitre_limit)
    largest = max(parts, key=lambda p: ring_length(p.edges)).edges
    last = len(ring) - 1
    return tuple(
        replace(c, seam_edge=None if c.seam_edge is None else last - c.seam_edge) for c in reverse_ring(largest)
    )


def _without_specks(edges: list[_Found]) -> list[_Found]:
    """The ring without edges that are too short to be any; the one after each begins where it began."""
    made: list[_Found] = []
    for kind, points, of in edges:
        if edge_length(Edge(kind, points)) < _SPECK_MM:
            continue
        start = made[-1][1][-1] if made else points[0]
        made.append((kind, (start, *points[1:]), of))
    kind, points, of = made[0]
    made[0] = (kind, (made[-1][1][-1], *points[1:]), of)
    return made


def _followed(runs: Sequence[Run], found: Sequence[_Found]) -> list[Run]:
    """New edges with the names and finishes of those they come from; a bit at a corner goes with the edge before."""
    lowest = min((f[2] for f in found if f[2] is not None), default=0)
    # the ring begins with the edge that it began with, wherever it was cut
    starts = [k for k, f in enumerate(found) if f[2] == lowest]
    first = next((k for k in starts if k - 1 not in starts and not (k == 0 and len(found) - 1 in starts)), 0)
    ordered = _without_specks([*found[first:], *found[:first]])
    made: list[Run] = []
    source = ordered[0][2] or 0
    for kind, points, of in ordered:
        source = source if of is None else of
        own = runs[source]
        made.append(Run(replace(own.edge, kind=kind, points=points), own.source, own.s0, own.s1))
    # an edge that came out in parts shares its length among them
    for k, run in enumerate(made):
        same = [i for i, r in enumerate(made) if r.source == run.source and r.s0 == run.s0 and r.s1 == run.s1]
        if len(same) > 1 and same[0] == k:
            lengths = [edge_length(made[i].edge) for i in same]
            at, whole = run.s0, sum(lengths) or 1.0
            for i, length in zip(same, lengths, strict=True):
                end = at + (run.s1 - run.s0) * length / whole
                made[i] = replace(made[i], s0=at, s1=end)
                at = end
            for i in same[:-1]:
                made[i] = replace(made[i], edge=replace(made[i].edge, corner="mitre"))
    return made

"""A whole ring moved outward or inward by one distance, each of its edges followed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise

from ypsicline.core.drafting.cutting_line import MITRE_LIMIT, cut_ring
from ypsicline.core.errors import Refusal
from ypsicline.core.geometry.edges import Edge, EdgeKind, Point, edge_length, split_edge, tangent_at
from ypsicline.core.geometry.plane import along, minus, turn_between
from ypsicline.core.geometry.rings import reverse_ring, ring_length
from ypsicline.core.messages import message
from ypsicline.core.pattern.run import Run
from ypsicline.core.pattern.seam_edge import WIDEST_ALLOWANCE_MM, CutEdge, SeamEdge

__all__ = ["moved_inward", "moved_ring"]

_SHARP = 10.0
_SPECK_MM = 0.05
_STRAIGHT_ON_RAD = 1e-3
_Bit = tuple[EdgeKind, tuple[Point, ...]]
_Sourced = tuple[EdgeKind, tuple[Point, ...], int]
# kind, points, and the index of the edge that it comes from, None at a corner
_Stretch = tuple[EdgeKind, tuple[Point, ...], int | None]


def moved_ring(runs: Sequence[Run], outward_mm: float) -> list[Run]:
    """The exact parallel of a counter-clockwise ring, its corners mitred; inward for a negative distance.

    Raises `Refusal` where an inward move leaves nothing.
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
        cuts: list[_Stretch] = [(c.kind, c.points, c.seam_edge) for c in cut]
    else:
        try:
            cuts = [(c.kind, c.points, c.seam_edge) for c in moved_inward(ring, mitre_limit=_SHARP)]
        except Refusal as e:
            raise Refusal(message("moved_in_to_nothing", distance_mm=distance), "fit", e.place) from e
    return _followed(runs, cuts)


def moved_inward(ring: Sequence[SeamEdge], *, mitre_limit: float = MITRE_LIMIT) -> tuple[CutEdge, ...]:
    """A counter-clockwise ring with each edge moved inward by its allowance: the largest part that is left.

    Walked backwards, an outline has its inside to the right, where a hole's allowance lies. Raises
    `Refusal` where nothing is left.
    """
    parts = cut_ring(reverse_ring(ring), hole=True, mitre_limit=mitre_limit)
    largest = max(parts, key=lambda p: ring_length(p.edges)).edges
    last = len(ring) - 1
    return tuple(
        replace(c, seam_edge=None if c.seam_edge is None else last - c.seam_edge) for c in reverse_ring(largest)
    )


def _without_specks(edges: Sequence[_Stretch]) -> list[_Stretch]:
    """The ring without edges that are too short to be any: their neighbours meet halfway, alike whichever way one walks."""
    own = [f for f in edges if edge_length(Edge(f[0], f[1])) >= _SPECK_MM]
    meet = [_halfway(before[1][-1], after[1][0]) for before, after in pairwise([*own, own[0]])]
    ends = zip(own, [meet[-1], *meet[:-1]], meet, strict=True)
    return [(kind, _ending_at(kind, points, start, end), of) for (kind, points, of), start, end in ends]


def _halfway(a: Point, b: Point) -> Point:
    return a if a == b else ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2)


def _ending_at(kind: EdgeKind, points: tuple[Point, ...], start: Point, end: Point) -> tuple[Point, ...]:
    """An edge's points moved to end there; a curve's ways in and out stay what they were."""
    if kind != "curve":
        return (start, *points[1:-1], end)
    first, last = along(points[1], minus(start, points[0]), 1), along(points[-2], minus(end, points[-1]), 1)
    return (start, first, *points[2:-2], last, end)


def _followed(runs: Sequence[Run], cuts: Sequence[_Stretch]) -> list[Run]:
    """New edges with the names and finishes of those they come from, each with its share of the bits at its corners."""
    lowest = min((f[2] for f in cuts if f[2] is not None), default=0)
    # the ring begins with the edge that it began with, wherever it was cut
    starts = [k for k, f in enumerate(cuts) if f[2] == lowest]
    first = next((k for k in starts if k - 1 not in starts and not (k == 0 and len(cuts) - 1 in starts)), 0)
    runs_after: list[Run] = []
    for kind, points, source in _with_a_source(_without_specks([*cuts[first:], *cuts[:first]])):
        own = runs[source]
        runs_after.append(Run(replace(own.edge, kind=kind, points=points), own.source, own.s0, own.s1))
    # an edge that came out in parts shares its length among them
    for k, run in enumerate(runs_after):
        same = [i for i, r in enumerate(runs_after) if r.source == run.source and r.s0 == run.s0 and r.s1 == run.s1]
        if len(same) > 1 and same[0] == k:
            lengths = [edge_length(runs_after[i].edge) for i in same]
            at, whole = run.s0, sum(lengths) or 1.0
            for i, length in zip(same, lengths, strict=True):
                end = at + (run.s1 - run.s0) * length / whole
                runs_after[i] = replace(runs_after[i], s0=at, s1=end)
                at = end
            for i in same[:-1]:
                runs_after[i] = replace(runs_after[i], edge=replace(runs_after[i].edge, corner="mitre"))
    # where the edges between two are gone, their corner is one that nobody chose
    order = [r.source for r in runs]
    follows = dict(zip(order, [*order[1:], order[0]], strict=True))
    for k, run in enumerate(runs_after):
        into = runs_after[(k + 1) % len(runs_after)].source
        if into not in (run.source, follows[run.source]):
            runs_after[k] = replace(run, edge=replace(run.edge, corner="by_rule"))
    return runs_after


def _with_a_source(ring: Sequence[_Stretch]) -> list[_Sourced]:
    """The ring with the bits at its corners shared between their two edges, alike whichever way one walks.

    It begins with an edge, and still does: the bits that this one gets at its start come first.
    """
    own = [k for k, f in enumerate(ring) if f[2] is not None] or [0]
    shared: list[_Sourced] = []
    at_start: list[_Sourced] = []
    for k, following in zip(own, [*own[1:], own[0] + len(ring)], strict=True):
        before, after = ring[k], ring[following % len(ring)]
        bits = [f[:2] for f in ring[k + 1 : following]]
        half = len(bits) // 2
        to_before, to_after = bits[:half], bits[len(bits) - half :]
        if len(bits) % 2:
            ends, begins = _shared_between(Edge(*before[:2]), Edge(*bits[half]), Edge(*after[:2]))
            to_before, to_after = [*to_before, *ends], [*begins, *to_after]
        source, into = before[2] or 0, after[2] or 0
        shared += [(*before[:2], source), *((*bit, source) for bit in to_before)]
        (shared if following < len(ring) else at_start).extend((*bit, into) for bit in to_after)
    return [*at_start, *shared]


def _shared_between(before: Edge, bit: Edge, after: Edge) -> tuple[list[_Bit], list[_Bit]]:
    """What each of two edges gets of one bit: all of it goes with the edge that it leads straight on, if only one does."""
    leads_on = abs(turn_between(tangent_at(before, 1), tangent_at(bit, 0))) < _STRAIGHT_ON_RAD
    leads_in = abs(turn_between(tangent_at(bit, 1), tangent_at(after, 0))) < _STRAIGHT_ON_RAD
    if leads_on != leads_in:
        whole = [(bit.kind, bit.points)]
        return (whole, []) if leads_on else ([], whole)
    first, last = split_edge(bit, 0, 0.5), split_edge(bit, 0.5, 1)
    return [(first.kind, (bit.start, *first.points[1:]))], [(last.kind, (first.end, *last.points[1:-1], bit.end))]

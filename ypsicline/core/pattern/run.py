"""A drafted edge and where it comes from."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import edge_length, parameter_at_length, split_edge, tangent_at
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.ids import with_ids
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["Run", "by_source", "called_alike", "cut_run", "last_of", "placed_on", "runs_of"]

# two parts run on into one another where they turn by less than a degree
_SMOOTH = math.cos(math.radians(1.0))


@dataclass(frozen=True)
class Run:
    """An edge made from the edge with the id `source` of the panel as it was set, of the share `s0` to `s1` of its length."""

    edge: SeamEdge
    source: str
    s0: float = 0.0
    s1: float = 1.0

    def part(self, along0: float, along1: float) -> Run:
        """From `along0` to `along1` mm along it; an end of it stays just where it was."""
        length = edge_length(self.edge)
        t0 = 0.0 if along0 <= 0 else parameter_at_length(self.edge, along0)
        t1 = 1.0 if along1 >= length else parameter_at_length(self.edge, along1)
        edge = split_edge(self.edge, t0, t1)
        ends = (self.edge.start if t0 <= 0 else edge.start, self.edge.end if t1 >= 1 else edge.end)
        edge = replace(edge, points=(ends[0], *edge.points[1:-1], ends[1]))
        span = (self.s1 - self.s0) / (length or 1.0)
        return Run(edge, self.source, self.s0 + max(along0, 0.0) * span, self.s0 + min(along1, length) * span)


def runs_of(ring: Sequence[SeamEdge]) -> list[Run]:
    """The edges as they are set; those without an id are numbered."""
    return [Run(e, e.id) for e in with_ids("edge", ring)]


def last_of(runs: Sequence[Run], source: str, what: Message) -> int:
    """The index of the run that ends where an edge ended; refused where that corner is gone."""
    indices = [k for k, r in enumerate(runs) if r.source == source]
    if not indices:
        raise Refusal(message("stands_on_no_edge", what=what), what.code)
    return max(indices, key=lambda k: runs[k].s1)


def by_source(runs: Sequence[Run]) -> dict[str, list[int]]:
    """The indices of the runs that come from each edge."""
    indices: dict[str, list[int]] = {}
    for k, r in enumerate(runs):
        indices.setdefault(r.source, []).append(k)
    return indices


def called_alike(ring: Sequence[SeamEdge], sources: Sequence[str]) -> list[list[int]]:
    """The indices of a ring's edges, those together that run on into one another, come from one edge and are called and
    finished alike: a corner that is drawn out to ease it leaves short parts of its edges, which nobody sews apart."""
    keys = [(s or k, e.name, e.finish, e.allowance) for k, (e, s) in enumerate(zip(ring, sources, strict=True))]

    def runs_on(k: int, after: int) -> bool:
        ways = tangent_at(ring[k], 1.0), tangent_at(ring[after], 0.0)
        return keys[k] == keys[after] and ways[0][0] * ways[1][0] + ways[0][1] * ways[1][1] > _SMOOTH

    parts: list[list[int]] = []
    for k in range(len(ring)):
        if parts and runs_on(k - 1, k):
            parts[-1].append(k)
        else:
            parts.append([k])
    if len(parts) > 1 and runs_on(-1, 0):
        parts[0] = [*parts.pop(), *parts[0]]
    return parts


def placed_on(runs: Sequence[Run], own: Sequence[int], share: float) -> tuple[int, float] | None:
    """Which of the `own` runs of an edge a share of its length lies on, and how many mm along it; None where it was
    cut off."""
    for k in own:
        r = runs[k]
        if r.s0 - 1e-9 <= share <= r.s1 + 1e-9 and r.s1 > r.s0:
            return k, min(max((share - r.s0) / (r.s1 - r.s0), 0.0), 1.0) * edge_length(r.edge)
    return None


def cut_run(runs: Sequence[Run], source: str, low: float, high: float, what: Message) -> tuple[int, float, float]:
    """The run that holds `low` to `high` mm along edge `source`, and the two in mm along that run.

    Raises `Refusal` where the span passes an end of the edge or something else stands there.
    """
    own = [(k, r) for k, r in enumerate(runs) if r.source == source]
    if not own:
        raise Refusal(message("stands_on_no_edge", what=what), what.code)
    # a stretch that is as long as its share says is still the edge itself
    plain = [(k, r, edge_length(r.edge) / (r.s1 - r.s0)) for k, r in own if r.s1 > r.s0]
    whole = min(length for _, _, length in plain)
    for k, r, length in plain:
        if r.s0 * whole - 1e-6 <= low and high <= r.s1 * whole + 1e-6 and length < whole * (1 + 1e-6):
            return k, low - r.s0 * whole, high - r.s0 * whole
    name = own[0][1].edge.name
    figures = {"from_mm": low, "to_mm": high, "length_mm": whole}
    raise Refusal(message("doesnt_fit_on_edge", what=what, edge=name, **figures), what.code, Place(edge=name))

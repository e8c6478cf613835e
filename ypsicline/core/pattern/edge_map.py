"""Where the edges of an outline have come to lie once it was changed: what stands on them follows."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ypsicline.core.errors import Place, Refusal
from ypsicline.core.geometry.edges import edge_length
from ypsicline.core.messages import Message, message
from ypsicline.core.pattern.run import Run
from ypsicline.core.pattern.seam_edge import SeamEdge

__all__ = ["EdgeMap", "Part", "lengths_of"]

_SAME_MM = 1e-6
_MOVE_IT = message("else_move")


@dataclass(frozen=True)
class Part:
    """`low` to `high` mm along edge `of` before lie from `start` to `end` mm along edge `on` after, both told by their ids;
    `end` comes first where it is walked the other way."""

    of: str
    low: float
    high: float
    on: str
    start: float
    end: float

    def place(self, along: float) -> float:
        """Where a place comes to lie, mm along the edge after; kept within the part."""
        span = self.high - self.low
        share = min(max((along - self.low) / span, 0.0), 1.0) if span > 0 else 0.0
        return self.start + share * (self.end - self.start)


@dataclass(frozen=True)
class EdgeMap:
    """The parts of all edges before; what is on no part is gone. `before` and `after` are the lengths of the edges by their
    ids, mm, in the order in which they follow one another; `else_do` says what to do where something can't follow."""

    parts: tuple[Part, ...]
    before: Mapping[str, float]
    after: Mapping[str, float]
    else_do: Message

    @classmethod
    def same(cls, edges: Sequence[SeamEdge], else_do: Message = _MOVE_IT) -> EdgeMap:
        """Nothing has moved."""
        lengths = lengths_of(edges)
        return cls(tuple(Part(k, 0.0, s, k, 0.0, s) for k, s in lengths.items()), lengths, lengths, else_do)

    @classmethod
    def of_runs(cls, runs: Sequence[Run], seam_line: Sequence[SeamEdge], else_do: Message) -> EdgeMap:
        """A `seam_line` made of runs of another, edge by edge; places on those are in mm of the runs that are as long as
        their share says."""
        lengths = lengths_of(seam_line)
        whole: dict[str, float] = {}
        for run, length in zip(runs, lengths.values(), strict=True):
            if run.s1 > run.s0:
                whole[run.source] = min(length / (run.s1 - run.s0), whole.get(run.source, float("inf")))
        parts = tuple(
            Part(r.source, r.s0 * whole[r.source], r.s1 * whole[r.source], on, 0.0, length)
            for r, (on, length) in zip(runs, lengths.items(), strict=True)
            if r.s1 > r.s0
        )
        return cls(parts, whole, lengths, else_do)

    def at(self, edge: str, along: float) -> tuple[str, float] | None:
        """Which edge a place has come to lie on, and where on it; None where it is gone."""
        for p in self.parts:
            if p.of == edge and p.low - _SAME_MM <= along <= p.high + _SAME_MM:
                return p.on, p.place(along)
        return None

    def span(self, edge: str, low: float, high: float, what: Message) -> tuple[str, float, float]:
        """The same of a stretch, `low` to `high` mm along an edge before, as (edge, from, to). Raises `Refusal` where it
        was parted or is gone."""
        for p in self.parts:
            if p.of == edge and p.low - _SAME_MM <= low and high <= p.high + _SAME_MM:
                first, last = sorted((p.place(low), p.place(high)))
                return p.on, first, last
        raise Refusal(message("stands_where_outline_changes", what=what, else_do=self.else_do), what.code, Place())

    def corner(self, edge: str, what: Message) -> str:
        """The edge at whose end the corner stands that stood at the end of `edge`. Raises `Refusal` where it is gone."""
        own = [p for p in self.parts if p.of == edge]
        last = max(own, key=lambda p: p.high, default=None)
        if last is not None and abs(last.high - self.before[edge]) < _SAME_MM:
            if last.start <= last.end and abs(last.end - self.after[last.on]) < _SAME_MM:
                return last.on
            if last.start > last.end and last.end < _SAME_MM:
                order = list(self.after)
                return order[order.index(last.on) - 1]
        raise Refusal(message("stands_at_corner_taken", what=what, else_do=self.else_do), what.code, Place())

    def next_before(self, edge: str) -> str:
        """The edge that followed one before the change."""
        order = list(self.before)
        return order[(order.index(edge) + 1) % len(order)]


def lengths_of(edges: Sequence[SeamEdge]) -> dict[str, float]:
    """The lengths of edges by their ids, mm, in their order."""
    return {e.id: edge_length(e) for e in edges}

"""Where the edges of an outline have come to lie once it was changed: what stands on them follows."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ypsicline.core.drafting.run import Run
from ypsicline.core.errors import Place, Refused
from ypsicline.core.geometry.edges import Edge, edge_length

__all__ = ["EdgeMap", "Part"]

_SAME_MM = 1e-6


@dataclass(frozen=True)
class Part:
    """`low` to `high` mm along edge `of` before lie from `start` to `end` mm along edge `on` after; `end` comes first where
    it is walked the other way."""

    of: int
    low: float
    high: float
    on: int
    start: float
    end: float

    def place(self, along: float) -> float:
        """Where a place comes to lie, mm along the edge after; kept within the part."""
        span = self.high - self.low
        share = min(max((along - self.low) / span, 0.0), 1.0) if span > 0 else 0.0
        return self.start + share * (self.end - self.start)


@dataclass(frozen=True)
class EdgeMap:
    """The parts of all edges before; what is on no part is gone. `before` and `after` are the lengths of the edges, mm;
    `else_do` says what to do where something can't follow."""

    parts: tuple[Part, ...]
    before: tuple[float, ...]
    after: tuple[float, ...]
    else_do: str

    @classmethod
    def same(cls, edges: Sequence[Edge], else_do: str = "move it") -> EdgeMap:
        """Nothing has moved."""
        lengths = tuple(edge_length(e) for e in edges)
        return cls(tuple(Part(k, 0.0, s, k, 0.0, s) for k, s in enumerate(lengths)), lengths, lengths, else_do)

    @classmethod
    def of_runs(cls, runs: Sequence[Run], count: int, else_do: str) -> EdgeMap:
        """An outline made of runs of another with `count` edges; places on those are in mm of the runs that are as long as
        their share says."""
        lengths = [edge_length(r.edge) for r in runs]
        whole: dict[int, float] = {}
        for run, length in zip(runs, lengths, strict=True):
            if run.s1 > run.s0:
                whole[run.source] = min(length / (run.s1 - run.s0), whole.get(run.source, float("inf")))
        parts = tuple(
            Part(r.source, r.s0 * whole[r.source], r.s1 * whole[r.source], k, 0.0, lengths[k])
            for k, r in enumerate(runs)
            if r.s1 > r.s0
        )
        return cls(parts, tuple(whole.get(k, 0.0) for k in range(count)), tuple(lengths), else_do)

    def at(self, edge: int, along: float) -> tuple[int, float] | None:
        """Which edge a place has come to lie on, and where on it; None where it is gone."""
        for p in self.parts:
            if p.of == edge and p.low - _SAME_MM <= along <= p.high + _SAME_MM:
                return p.on, p.place(along)
        return None

    def span(self, edge: int, low: float, high: float, what: str) -> tuple[int, float, float]:
        """The same of a stretch, `low` to `high` mm along an edge before, as (edge, from, to). Raises `Refused` where it
        was parted or is gone."""
        for p in self.parts:
            if p.of == edge and p.low - _SAME_MM <= low and high <= p.high + _SAME_MM:
                first, last = sorted((p.place(low), p.place(high)))
                return p.on, first, last
        raise Refused(f"The {what} stands where the outline changes; {self.else_do}.", what, Place())

    def corner(self, edge: int, what: str) -> int:
        """The edge at whose end the corner stands that stood at the end of `edge`. Raises `Refused` where it is gone."""
        own = [p for p in self.parts if p.of == edge]
        last = max(own, key=lambda p: p.high, default=None)
        if last is not None and abs(last.high - self.before[edge]) < _SAME_MM:
            if last.start <= last.end and abs(last.end - self.after[last.on]) < _SAME_MM:
                return last.on
            if last.start > last.end and last.end < _SAME_MM:
                return (last.on - 1) % len(self.after)
        raise Refused(f"The {what} stands at a corner that the change takes away; {self.else_do}.", what, Place())

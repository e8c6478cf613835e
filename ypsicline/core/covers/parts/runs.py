"""Runs of edges that close on themselves, parted where they open."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from ypsicline.core.covers.cover import Paired
from ypsicline.core.joins.lengths import sewn_edges
from ypsicline.core.pattern.join import Along, Join, SeamType
from ypsicline.core.pattern.panel import Panel

__all__ = ["closed_joins", "parted_run", "run_length"]

_NEAR_MM = 0.01


def run_length(run: Sequence[Along], panels: Mapping[str, Panel]) -> float:
    """How long a run is sewn, mm."""
    return sum(sewn_edges(panels[a.panel])[a.edge].sewn for a in run)


def parted_run(
    run: Sequence[Along], panels: Mapping[str, Panel], low: float, high: float
) -> tuple[tuple[Along, ...], tuple[Along, ...]]:
    """The edges of a closed run between `low` and `high` mm along it, and the others from `high` on round to `low`."""
    inside: list[Along] = []
    after: list[Along] = []
    before: list[Along] = []
    at = 0.0
    for along in run:
        length = sewn_edges(panels[along.panel])[along.edge].sewn
        middle = at + length / 2
        (inside if low < middle < high else after if middle > high else before).append(along)
        at += length
    return tuple(inside), (*after, *before)


def closed_joins(
    first: Sequence[Along],
    second: Sequence[Along],
    panels: Mapping[str, Panel],
    opens: tuple[float, float],
    notch_shares: Sequence[float],
    opened_as: SeamType,
) -> list[Paired]:
    """The joins of two closed runs that begin at the same place: one all round, notched at shares of it, the start twice;
    or, where they open from one place to another (mm along them), what is sewn and the opening, each with its notches."""
    low, high = opens
    if high <= low:
        return [Paired(Join(tuple(first), tuple(second)), tuple(notch_shares), (0.0,))]
    whole = run_length(first, panels)
    one, rest = parted_run(first, panels, low, high)
    other, rest_too = parted_run(second, panels, low, high)
    seam_length = whole - (high - low)
    places = [(s * whole - high) % whole / seam_length for s in (0.0, *notch_shares) if not low <= s * whole <= high]
    start = (whole - high) / seam_length
    return [
        Paired(Join(rest, rest_too), tuple(s for s in places if abs(s - start) * seam_length > _NEAR_MM), (start,)),
        Paired(Join(one, other, opened_as), (0.0, 0.5, 1.0)),
    ]

"""A job's covers put together in space, ready to be drawn."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import chain

from ypsicline.core.covers.of_job import FamilyCover, object_under, standing_in
from ypsicline.core.errors import Refusal
from ypsicline.core.job import JobDocument
from ypsicline.core.lengths import show_length
from ypsicline.core.solids.assembled import AssembledPanel, assembled, join_gaps
from ypsicline.core.solids.placement import Vector

__all__ = ["AssembledView", "assembled_view"]

# a join that is open by more, mm, doesn't close
CLOSES_MM = 0.5


@dataclass(frozen=True)
class PieceInSpace:
    """A piece: its corners (x, y, z after one another, mm, z up), three of them a triangle, and its rim."""

    name: str
    corners: list[float]
    rim: list[float]


@dataclass(frozen=True)
class JoinInSpace:
    """A join: where its flag stands, and by how much it is open, where it doesn't close."""

    letter: str
    at: Vector
    gap: str | None
    worst: Vector


@dataclass(frozen=True)
class AssembledView:
    """Pieces and joins in space, and the `objects` under them where they are known; none of covers that can't be built so.
    `apart` names the panels that stand nowhere."""

    pieces: list[PieceInSpace]
    objects: list[PieceInSpace]
    joins: list[JoinInSpace]
    apart: list[str]


def assembled_view(job: JobDocument) -> AssembledView:
    """Every cover of a job in space that can be."""
    panels = {p.id: p for p in job.panels}
    pieces: list[PieceInSpace] = []
    objects: list[PieceInSpace] = []
    joins: list[JoinInSpace] = []
    panels_placed: set[str] = set()
    for cover in job.covers:
        try:
            standing = standing_in(cover, job.house)
            panels_in_space = assembled(standing, panels)
            gaps = join_gaps(job.joins, standing, panels)
        except Refusal:
            continue  # what is wrong with it is said at Check
        panels_placed |= {s.panel for s in standing}
        pieces += [_piece(p, panels[p.standing.panel].name) for p in panels_in_space]
        objects += [_piece(p, p.standing.panel) for p in _object(cover, job, panels_in_space)]
        joins += [
            JoinInSpace(
                g.join.letter, g.middle, show_length(g.gap_mm, job.unit) if g.gap_mm > CLOSES_MM else None, g.at
            )
            for g in gaps
        ]
    return AssembledView(pieces, objects, joins, [p.name for p in job.panels if p.id not in panels_placed])


def _object(cover: FamilyCover, job: JobDocument, pieces: Sequence[AssembledPanel]) -> Sequence[AssembledPanel]:
    try:
        return object_under(cover, job.house, pieces)
    except Refusal:
        return ()


def _piece(panel: AssembledPanel, name: str) -> PieceInSpace:
    return PieceInSpace(name, _flat(panel.points[k] for t in panel.triangles for k in t), _flat(panel.rim))


def _flat(points: Iterable[Vector]) -> list[float]:
    return [round(v, 2) for v in chain.from_iterable(points)]

"""The captured pieces, the steps that true them up, and the tape list."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Literal

from django.http import HttpRequest
from ninja import Router, Schema

from ypsicline.core import steps
from ypsicline.core.errors import Refused
from ypsicline.core.job import JobDocument, Piece
from ypsicline.core.lengths import Unit, parse_length, show_length
from ypsicline.core.trueing.bending import bend_to_tape
from ypsicline.core.trueing.dividing import Parts
from ypsicline.core.trueing.folding import Keep, fold
from ypsicline.core.trueing.scaling import scale_to_tape
from ypsicline.core.trueing.shape import WantedKind, letter
from ypsicline.core.trueing.tape import TapeMeasure, read_tape
from ypsicline.server.api.access import apply, job_of
from ypsicline.server.jobs import history
from ypsicline.server.jobs.view import JobView, RingView, shape_rings

router = Router()
Made = tuple[steps.Step, str]


class PointIn(Schema):
    x: float
    y: float


class KindIn(Schema):
    kind: WantedKind


class SmoothIn(Schema):
    smooth: bool


class LengthIn(Schema):
    """A length as it was typed; a bare number is in the job's unit."""

    text: str


class MeasureIn(Schema):
    between: tuple[int, int] | None = None
    edge: int | None = None


class PairIn(Schema):
    """An edge, and the one that it is held against."""

    edge: int
    to: int
    alike: Literal["parallel", "equal"]


class FoldIn(Schema):
    first: int
    second: int
    keep: Keep = "average"


class ScaleIn(Schema):
    per_axis: bool = False


class DivideIn(Schema):
    joint: int
    parts: Parts


class OldEdgeIn(Schema):
    """An edge of an old cover: whole, unpicked with this allowance still beyond its seam line, or with this much cut
    away from it."""

    edge: int
    was: Literal["whole", "unpicked", "cut away"]
    by: str = ""


class OldCoverIn(Schema):
    edges: list[OldEdgeIn]
    rest: str = ""


class StandOffIn(Schema):
    """How far the line stands off from the seam line, and on which side of it it runs."""

    by: str
    line: Literal["outside", "inside"] = "outside"


class NameIn(Schema):
    name: str


class OnIn(Schema):
    on: bool


@router.post("/jobs/{job_id}/pieces", response=JobView, operation_id="new_piece")
def new_piece(request: HttpRequest, job_id: int) -> JobView:
    """An empty table, for a piece that is yet to be captured."""
    return apply(request, job_id, "Another piece", lambda d: replace(d, open=len(d.pieces)))


@router.post("/jobs/{job_id}/pieces/{index}/open", response=JobView, operation_id="open_piece")
def open_piece(request: HttpRequest, job_id: int, index: int) -> JobView:
    return apply(request, job_id, "Piece laid on the table", lambda d: replace(d, open=_piece_at(d, index)))


@router.put("/jobs/{job_id}/pieces/{index}", response=JobView, operation_id="name_piece")
def name_piece(request: HttpRequest, job_id: int, index: int, given: NameIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        at = _piece_at(d, index)
        named = replace(d.pieces[at], name=given.name.strip())
        return replace(d, pieces=(*d.pieces[:at], named, *d.pieces[at + 1 :]))

    return apply(request, job_id, "Piece named", how)


@router.delete("/jobs/{job_id}/pieces/{index}", response=JobView, operation_id="remove_piece")
def remove_piece(request: HttpRequest, job_id: int, index: int) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        at = _piece_at(d, index)
        left = (*d.pieces[:at], *d.pieces[at + 1 :])
        return replace(d, pieces=left, open=min(d.open - (d.open > at), max(len(left) - 1, 0)))

    return apply(request, job_id, "Piece taken away", how)


@router.put("/jobs/{job_id}/steps/{index}", response=JobView, operation_id="switch_step")
def switch_step(request: HttpRequest, job_id: int, index: int, given: OnIn) -> JobView:
    """One step of the piece on the table switched on or off; all are replayed."""
    return apply(
        request, job_id, "Step switched on" if given.on else "Step switched off",
        lambda d: d.with_piece(piece_of(d).switched(index, on=given.on)),
    )  # fmt: skip


@router.put("/jobs/{job_id}/shape/tolerance", response=JobView, operation_id="set_tolerance")
def set_tolerance(request: HttpRequest, job_id: int, given: LengthIn) -> JobView:
    return _step(
        request, job_id,
        lambda _, unit: (steps.Find(parse_length(given.text, unit)), f"Corners found afresh, within {given.text.strip()}"),
    )  # fmt: skip


@router.get("/jobs/{job_id}/shape/fit", response=list[RingView], operation_id="try_tolerance")
def try_tolerance(request: HttpRequest, job_id: int, tolerance_mm: float) -> list[RingView]:
    """What the outline would be at another tolerance, to be looked at; nothing is changed."""
    document = history.current(job_of(request, job_id))
    return shape_rings(steps.Find(tolerance_mm).on(piece_of(document).shape), document.unit)


@router.post("/jobs/{job_id}/shape/{ring}/joints", response=JobView, operation_id="add_corner")
def add_corner(request: HttpRequest, job_id: int, ring: int, at: PointIn) -> JobView:
    return _step(request, job_id, lambda _p, _u: (steps.AddCorner(ring, (at.x, at.y)), "Corner added"))


@router.delete("/jobs/{job_id}/shape/{ring}/joints/{index}", response=JobView, operation_id="remove_corner")
def remove_corner(request: HttpRequest, job_id: int, ring: int, index: int) -> JobView:
    return _at_corner(
        request, job_id, ring, index, lambda at: (steps.RemoveCorner(ring, at), f"Corner {_name(index)} removed")
    )


@router.put("/jobs/{job_id}/shape/{ring}/joints/{index}", response=JobView, operation_id="move_corner")
def move_corner(request: HttpRequest, job_id: int, ring: int, index: int, to: PointIn) -> JobView:
    return _at_corner(
        request,
        job_id,
        ring,
        index,
        lambda at: (steps.MoveCorner(ring, at, (to.x, to.y)), f"Corner {_name(index)} moved"),
    )


@router.put("/jobs/{job_id}/shape/{ring}/joints/{index}/smooth", response=JobView, operation_id="set_smooth")
def set_smooth(request: HttpRequest, job_id: int, ring: int, index: int, given: SmoothIn) -> JobView:
    what = "made smooth" if given.smooth else "made sharp"
    return _at_corner(
        request,
        job_id,
        ring,
        index,
        lambda at: (steps.SetSmooth(ring, at, given.smooth), f"Corner {_name(index)} {what}"),
    )


@router.post("/jobs/{job_id}/shape/{ring}/joints/{index}/square", response=JobView, operation_id="square_corner")
def make_square(request: HttpRequest, job_id: int, ring: int, index: int) -> JobView:
    return _at_corner(
        request, job_id, ring, index, lambda at: (steps.SquareUp(ring, at), f"Corner {_name(index)} made square")
    )


@router.put("/jobs/{job_id}/shape/{ring}/edges/{index}", response=JobView, operation_id="set_edge_kind")
def set_kind(request: HttpRequest, job_id: int, ring: int, index: int, given: KindIn) -> JobView:
    words = {
        "line": "Edge straightened",
        "arc": "Edge made an arc",
        "curve": "Edge made a curve",
        "auto": "Edge fitted",
    }
    return _at_corner(request, job_id, ring, index, lambda at: (steps.SetKind(ring, at, given.kind), words[given.kind]))


@router.post("/jobs/{job_id}/shape/{ring}/hold", response=JobView, operation_id="hold_edges")
def hold_edges(request: HttpRequest, job_id: int, ring: int, given: PairIn) -> JobView:
    """An edge made parallel with another, or both equally long."""

    def make(piece: Piece, _: Unit) -> Made:
        edge, to = (steps.corner_point(piece.shape, ring, k) for k in (given.edge, given.to))
        said = "Edges made parallel" if given.alike == "parallel" else "Edges made equally long"
        return steps.HoldEdges(ring, edge, to, given.alike), said

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/fold", response=JobView, operation_id="fold_shape")
def fold_shape(request: HttpRequest, job_id: int, given: FoldIn) -> JobView:
    def make(piece: Piece, unit: Unit) -> Made:
        folded = fold(piece.shape, given.first, given.second, given.keep)
        first, second = (steps.corner_point(piece.shape, 0, k) for k in (given.first, given.second))
        joints = piece.shape.outline.joints
        near = min(range(len(joints)), key=lambda k: math.dist(joints[k].point, folded.at))
        apart = show_length(folded.apart_mm, unit, with_unit=True)
        said = f"Folded: the halves lay up to {apart} apart, most near {letter(near)}"
        return steps.FoldOver(first, second, given.keep), said

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/scale-to-tape", response=JobView, operation_id="scale_to_tape")
def scale(request: HttpRequest, job_id: int, given: ScaleIn) -> JobView:
    def make(piece: Piece, unit: Unit) -> Made:
        scaled = scale_to_tape(piece.shape, piece.tape, per_axis=given.per_axis)
        across, up = (100 * (f - 1) for f in scaled.factors)
        words = f"{across:+.2f} % across, {up:+.2f} % up" if given.per_axis else f"{across:+.2f} %"
        left = show_length(max(abs(a) for a in scaled.apart_mm), unit, with_unit=True)
        return steps.ScaleBy(scaled.factors), f"Scaled to the tape by {words}; it is still up to {left} apart"

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/bend-to-tape", response=JobView, operation_id="bend_to_tape")
def bend(request: HttpRequest, job_id: int) -> JobView:
    def make(piece: Piece, unit: Unit) -> Made:
        bent = bend_to_tape(piece.shape, piece.tape)
        measures = tuple(
            (
                steps.corner_point(piece.shape, 0, a),
                None if b is None else steps.corner_point(piece.shape, 0, b),
                m.tape_mm,
            )
            for m in piece.tape
            if m.tape_mm is not None
            for a, b in [m.between or (m.edge or 0, None)]
        )
        moved = show_length(bent.moved_mm, unit, with_unit=True)
        return steps.Bend(measures), f"Bent to the tape; the outline moved by up to {moved}"

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/smooth", response=JobView, operation_id="smooth_shape")
def smooth(request: HttpRequest, job_id: int, given: LengthIn) -> JobView:
    def make(_: Piece, unit: Unit) -> Made:
        by = parse_length(given.text, unit)
        return steps.Smooth(by), f"Smoothed by up to {show_length(by, unit, with_unit=True)}"

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/divide", response=JobView, operation_id="divide_shape")
def divide(request: HttpRequest, job_id: int, given: DivideIn) -> JobView:
    words = {0: "Marks taken away", 2: "Halves marked", 4: "Quarters marked", 8: "Eighths marked"}

    def make(piece: Piece, _: Unit) -> Made:
        return steps.DivideOutline(steps.corner_point(piece.shape, 0, given.joint), given.parts), words[given.parts]

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/turn-over", response=JobView, operation_id="turn_over")
def turn_over(request: HttpRequest, job_id: int) -> JobView:
    return _step(request, job_id, lambda _p, _u: (steps.TurnOver(), "Turned over: the other face is outward"))


@router.post("/jobs/{job_id}/old-cover", response=JobView, operation_id="old_cover")
def old_cover(request: HttpRequest, job_id: int, given: OldCoverIn) -> JobView:
    """From an old cover's edges to its seam line."""

    def make(piece: Piece, unit: Unit) -> Made:
        signs = {"whole": 0, "unpicked": -1, "cut away": 1}
        moved = tuple(
            (
                steps.corner_point(piece.shape, 0, e.edge),
                signs[e.was] * parse_length(e.by, unit) if signs[e.was] else 0.0,
            )
            for e in given.edges
        )
        rest = -parse_length(given.rest, unit) if given.rest.strip() else 0.0
        if not rest and not any(by for _, by in moved):
            raise Refused("Say which edges were unpicked or cut away, and by how much.", "edge")
        return steps.Redraw(moved, rest), "Seam line of the old cover"

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/stand-off", response=JobView, operation_id="stand_off")
def stand_off(request: HttpRequest, job_id: int, given: StandOffIn) -> JobView:
    """A pencil line round a solid runs outside it by half a pencil; chalk along a piping's foot inside the seam."""

    def make(_: Piece, unit: Unit) -> Made:
        by = parse_length(given.by, unit)
        sign = -1 if given.line == "outside" else 1
        said = f"Line moved {'in' if sign < 0 else 'out'} by {show_length(by, unit, with_unit=True)}"
        return steps.Redraw((), sign * by), said

    return _step(request, job_id, make)


@router.post("/jobs/{job_id}/tape", response=JobView, operation_id="add_measure")
def add_measure(request: HttpRequest, job_id: int, given: MeasureIn) -> JobView:
    def how(piece: Piece) -> Piece:
        measure = TapeMeasure(given.between, given.edge)
        read_tape(piece.shape, [measure])
        return piece if measure in piece.tape else replace(piece, tape=(*piece.tape, measure))

    return _tape(request, job_id, "Measure added to the tape list", how)


@router.put("/jobs/{job_id}/tape/{index}", response=JobView, operation_id="set_tape")
def set_tape(request: HttpRequest, job_id: int, index: int, given: LengthIn) -> JobView:
    def how(d: JobDocument) -> JobDocument:
        piece = piece_of(d)
        at = _listed(piece, index)
        typed = parse_length(given.text, d.unit) if given.text.strip() else None
        tape = tuple(replace(m, tape_mm=typed) if k == at else m for k, m in enumerate(piece.tape))
        return d.with_piece(replace(piece, tape=tape))

    return apply(request, job_id, "Tape read", how)


@router.delete("/jobs/{job_id}/tape/{index}", response=JobView, operation_id="remove_measure")
def remove_measure(request: HttpRequest, job_id: int, index: int) -> JobView:
    def how(piece: Piece) -> Piece:
        at = _listed(piece, index)
        return replace(piece, tape=tuple(m for k, m in enumerate(piece.tape) if k != at))

    return _tape(request, job_id, "Measure taken off the list", how)


def piece_of(d: JobDocument) -> Piece:
    """The piece on the table; raises `Refused` where there is none."""
    if d.piece is None:
        raise Refused("There is no outline yet; send a photo first.", "shape")
    return d.piece


def _piece_at(d: JobDocument, index: int) -> int:
    if not 0 <= index < len(d.pieces):
        raise Refused("This piece is no longer there.", "piece")
    return index


def _listed(piece: Piece, index: int) -> int:
    if not 0 <= index < len(piece.tape):
        raise Refused("This measure is no longer on the list.", "tape")
    return index


def _name(index: int) -> str:
    return letter(max(index, 0))


def _step(request: HttpRequest, job_id: int, make: Callable[[Piece, Unit], Made]) -> JobView:
    """One more step for the piece on the table."""
    said: list[str] = []

    def how(d: JobDocument) -> JobDocument:
        piece = piece_of(d)
        step, words = make(piece, d.unit)
        said.append(words)
        return d.with_piece(piece.stepped(step, words))

    return apply(request, job_id, lambda: said[-1], how)


def _at_corner(
    request: HttpRequest, job_id: int, ring: int, index: int, make: Callable[[tuple[float, float]], Made]
) -> JobView:
    return _step(request, job_id, lambda piece, _: make(steps.corner_point(piece.shape, ring, index)))


def _tape(request: HttpRequest, job_id: int, what: str, how: Callable[[Piece], Piece]) -> JobView:
    return apply(request, job_id, what, lambda d: d.with_piece(how(piece_of(d))))
